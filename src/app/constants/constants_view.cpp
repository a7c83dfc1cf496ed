#include "app/constants/constants_view.hpp"

#include "app/constants/winding_bench.hpp"
#include "app/session/refresher.hpp"
#include "app/session/session.hpp"
#include "app/study/table.hpp"
#include "app/theme/theme.hpp"
#include "app/widgets/plain_widgets.hpp"
#include "core/motor/readings.hpp"
#include "core/quantity/constants.hpp"
#include "core/quantity/format.hpp"
#include "core/quantity/parse.hpp"

#include <QHBoxLayout>
#include <QScrollArea>
#include <QVBoxLayout>

#include <array>
#include <cmath>

namespace fulmox::app {
namespace {

/// Readings as the forms of motors name them.
struct FormReading {
  const char *field, *choice_field, *choice, *reading;
};
constexpr std::array form_readings{FormReading{"kt", "kt_per", "rms", "kt_rms"},
                                   FormReading{"kt", "kt_per", "peak", "kt_peak"},
                                   FormReading{"kt", "kt_per", "dc", "kt_dc"},
                                   FormReading{"ke", "ke_as", "line rms", "ke_line_rms"},
                                   FormReading{"ke", "ke_as", "line peak", "ke_line_peak"},
                                   FormReading{"ke", "ke_as", "phase rms", "ke_phase_rms"},
                                   FormReading{"ke", "ke_as", "phase peak", "ke_phase_peak"}};

/// A number > 0 of a kind; nothing while the text is none.
std::optional<double> positive(const QLineEdit* edit, Kind kind) {
  const auto parsed = parse_quantity(edit->text().toStdString(), kind);
  if (!parsed || !(parsed->value > 0.0)) return std::nullopt;
  return parsed->value;
}

} // namespace

ConstantsView::ConstantsView(Session& session, QWidget* parent)
    : QWidget(parent), session_(session), fault_(wrapped_label("constants_fault", "fault")),
      errors_(wrapped_label("constants_errors", "soft")),
      table_(reading_table({"Constant", "Value", "mistaken for it"})) {
  setObjectName("constants_view");
  table_->setObjectName("constants_table");
  table_->setAccessibleName("The constant in every reading");
  table_->setToolTip(
      "The last column: by what the motor's torque per ampere comes out wrong when a sheet means the "
      "known reading and is taken for this one.");
  constexpr int eight_rows = 200;
  table_->setMinimumHeight(eight_rows);
  auto* page = new QWidget;
  auto* scroll = new QScrollArea;
  scroll->setWidgetResizable(true);
  scroll->setHorizontalScrollBarPolicy(Qt::ScrollBarAlwaysOff);
  scroll->setWidget(page);
  auto* outside = new QVBoxLayout(this);
  outside->setContentsMargins(0, 0, 0, 0);
  outside->addWidget(scroll);
  auto* all = new QVBoxLayout(page);
  all->setContentsMargins(8, 8, 8, 8);
  all->setSpacing(6);
  all->addWidget(heading("A motor constant in every reading"));
  all->addWidget(known_row());
  all->addWidget(fault_);
  all->addWidget(table_, 1);
  all->addWidget(errors_);
  all->addWidget(heading("Without a sheet: spin the motor, measure between two leads"));
  all->addWidget(spin_row());
  all->addWidget(heading("And read its winding between the leads"));
  all->addWidget(new WindingBench(session));
  connect(reading_, &QComboBox::currentIndexChanged, this, &ConstantsView::refresh);
  for (QLineEdit* edit : {value_, pairs_})
    connect(edit, &QLineEdit::textChanged, this, &ConstantsView::refresh);
  for (QLineEdit* edit : {frequency_, volts_, pairs_})
    connect(edit, &QLineEdit::textChanged, this, &ConstantsView::show_spin);
  for (QComboBox* box : {volts_as_, shape_})
    connect(box, &QComboBox::currentIndexChanged, this, &ConstantsView::show_spin);
  read_motor();
  show_spin();
  new Refresher(session, this, results_changed | Change::units | Change::theme, [this](Changes) {
    if (value_->text().isEmpty()) read_motor();
    refresh();
    show_spin();
  });
}

QWidget* ConstantsView::known_row() {
  auto* rows = new QWidget;
  auto* both = new QVBoxLayout(rows);
  both->setContentsMargins(0, 0, 0, 0);
  both->setSpacing(6);
  auto* known = new QHBoxLayout;
  auto* motor = new QHBoxLayout;
  both->addLayout(known);
  both->addLayout(motor);
  QStringList names;
  for (const ConstantReading& reading : constant_readings())
    names << qt(reading.symbol) + " " + qt(reading.label);
  reading_ = choice_box("constants_reading", "Known constant", names);
  value_ = number_line("constants_value", "Its value", "0.5 N.m/A", 110);
  pairs_ = number_line("constants_pairs", "Pole pairs", "p", 44);
  from_motor_ = outlined_button("constants_from_motor", "From the motor");
  to_motor_ = outlined_button("constants_to_motor", "Into the motor");
  to_motor_->setToolTip("Writes Kt per rms ampere and Ke line-line rms, or what the kind of motor takes.");
  connect(from_motor_, &QPushButton::clicked, this, &ConstantsView::read_motor);
  connect(to_motor_, &QPushButton::clicked, this, &ConstantsView::put_into_motor);
  known->addWidget(reading_, 1);
  known->addWidget(value_);
  motor->addWidget(new QLabel("Pole pairs"));
  motor->addWidget(pairs_);
  motor->addStretch(1);
  motor->addWidget(from_motor_);
  motor->addWidget(to_motor_);
  return rows;
}

QWidget* ConstantsView::spin_row() {
  auto* rows = new QWidget;
  auto* both = new QVBoxLayout(rows);
  both->setContentsMargins(0, 0, 0, 0);
  both->setSpacing(6);
  auto* layout = new QHBoxLayout;
  auto* answer = new QHBoxLayout;
  both->addLayout(layout);
  both->addLayout(answer);
  frequency_ = number_line("spin_frequency", "Frequency", "200 Hz", 74);
  volts_ = number_line("spin_volts", "Volts between two leads", "12 V", 74);
  volts_as_ = choice_box("spin_volts_as", "Volts are", {"rms", "crest", "peak-to-peak"});
  shape_ = choice_box("spin_shape", "Shape of the wave", {"sine", "flat top"});
  take_spin_ = outlined_button("spin_take", "Take as known");
  spun_ = wrapped_label("spun", "soft");
  connect(take_spin_, &QPushButton::clicked, this, &ConstantsView::take_spin);
  for (QWidget* widget : std::initializer_list<QWidget*>{frequency_, volts_, volts_as_, shape_})
    layout->addWidget(widget);
  layout->addStretch(1);
  answer->addWidget(spun_, 1);
  answer->addWidget(take_spin_);
  return rows;
}

void ConstantsView::read_motor() {
  if (!session_.has_axis()) return;
  const Section& motor = session_.axis()["motor"];
  if (motor.has("pole_pairs") && !motor.blank("pole_pairs")) pairs_->setText(qt(motor.text("pole_pairs")));
  for (const FormReading& known : form_readings) {
    if (!motor.has(known.field) || motor.blank(known.field)) continue;
    const bool told = motor.has(known.choice_field) && motor.text(known.choice_field) == known.choice;
    const bool direct = !motor.has(known.choice_field) && std::string_view(known.choice) == "dc"; // brushed
    if (!told && !direct) continue;
    for (int i = 0; i < reading_->count(); ++i)
      if (constant_readings()[static_cast<std::size_t>(i)].id == known.reading) reading_->setCurrentIndex(i);
    value_->setText(qt(motor.text(known.field)));
    return;
  }
}

void ConstantsView::refresh() {
  const auto all = constant_readings();
  const ConstantReading& known = all[static_cast<std::size_t>(reading_->currentIndex())];
  const auto pairs = positive(pairs_, Kind::number);
  const auto parsed = parse_quantity(value_->text().toStdString(), kind_of(known));
  double k = std::nan("");
  QString wrong;
  if (value_->text().trimmed().isEmpty())
    wrong = ""; // nothing asked yet
  else if (!parsed)
    wrong = qt(parsed.problem().what) + " " + qt(parsed.problem().remedy);
  else if (!(parsed->value > 0.0))
    wrong = "A motor constant is greater than 0.";
  else if (k = k_from(known, parsed->value, pairs.value_or(std::nan(""))); std::isnan(k))
    wrong = "A flux linkage needs the pole pairs.";
  fault_->setText(wrong);
  fault_->setVisible(!wrong.isEmpty());
  const UnitSet units = session_.document().units;
  table_->setRowCount(0);
  for (const ConstantReading& reading : all) {
    if (reading.flat != known.flat && reading.family == known.family) continue; // of another shape of wave
    const int row = table_->rowCount();
    table_->insertRow(row);
    const bool same = &reading == &known;
    const double worth = value_of(reading, k, pairs.value_or(std::nan("")));
    const double off = mistaken(known, reading);
    set_cell(table_, row, 0, qt(reading.symbol) + " " + qt(reading.label), same);
    set_cell(table_, row, 1,
             std::isfinite(worth) ? qt(format(worth, kind_of(reading), units, 4).text()) : "–", same);
    set_cell(table_, row, 2, std::isfinite(off) && !same ? "× " + QString::number(off, 'f', 3) : QString());
  }
  tell_errors(k);
  to_motor_->setEnabled(
      std::isfinite(k) && session_.has_axis() &&
      (session_.axis()["motor"].has("kt_per") || session_.axis()["motor"].has("brush_drop")));
}

void ConstantsView::tell_errors(double k) {
  if (std::isnan(k)) return errors_->setText("");
  const double naive = value_of(*find_reading("ke_line_peak"), k, 1.0); // 1/Kv in SI
  const auto share = [&](const char* of) {
    return QString::number(naive / value_of(*find_reading(of), k, 1.0), 'f', 3);
  };
  errors_->setText("Classic slips: Kv turned straight into Kt gives " +
                   qt(format(naive, Kind::torque_constant, session_.document().units, 4).text()) +
                   ", which is " + share("kt_rms") + " of Kt per rms ampere, " + share("kt_peak") +
                   " of Kt per peak ampere. Resistance between two leads taken for one phase: copper loss × "
                   "2 (wye) or × 0.667 "
                   "(delta). Kt and Ke that agree are no proof: both may be read wrong alike.");
}

void ConstantsView::put_into_motor() {
  const ConstantReading& known = constant_readings()[static_cast<std::size_t>(reading_->currentIndex())];
  const auto parsed = parse_quantity(value_->text().toStdString(), kind_of(known));
  if (!parsed) return;
  const double k = k_from(known, parsed->value, positive(pairs_, Kind::number).value_or(std::nan("")));
  const auto number = [](double value) { return QString::number(value, 'g', 7).toStdString(); };
  const auto worth = [&](const char* id) { return value_of(*find_reading(id), k, 1.0); };
  const double per_krpm = 1000.0 * constants::rpm;
  session_.edit("Constants into the motor", "", [&](Document& d) {
    Section& motor = d.axes[session_.axis_index()]["motor"];
    const auto type = [&](const char* field, const std::string& text) {
      if (motor.has(field)) motor.type(field, text, Origin::given);
    };
    if (!motor.has("kt_per")) return type("kt", number(worth("kt_dc")) + " N.m/A");
    type("kt", number(worth(known.flat ? "kt_dc_flat" : "kt_rms")) + " N.m/A");
    type("kt_per", known.flat ? "dc" : "rms");
    if (known.flat) return; // its volts follow another wave
    type("ke", number(worth("ke_line_rms") * per_krpm) + " V/krpm");
    type("ke_as", "line rms");
  });
}

void ConstantsView::show_spin() {
  const auto frequency = positive(frequency_, Kind::frequency), volts = positive(volts_, Kind::voltage);
  const auto pairs = positive(pairs_, Kind::number);
  take_spin_->setEnabled(frequency && volts && pairs);
  if (!frequency || !volts || !pairs)
    return spun_->setText(
        "Turn the shaft with a drill, leads open: a spun motor is live. Frequency and volts between "
        "two leads, and the pole pairs above, give the constant.");
  const SpinTest test{*frequency, *volts, static_cast<SpinTest::Volts>(volts_as_->currentIndex()),
                      shape_->currentIndex() == 1, *pairs};
  const SpunConstant spun = spun_constant(test);
  const UnitSet units = session_.document().units;
  spun_->setText(
      "At " + qt(format(spun.speed, Kind::angular_speed, units).text()) + ": Ke line-line peak " +
      qt(format(spun.ke_line, Kind::emf_constant, units, 4).text()) + ", Kt per rms ampere " +
      qt(format(value_of(*find_reading("kt_rms"), spun.k, 1.0), Kind::torque_constant, units, 4).text()) +
      " ± " + QString::number(100.0 * spun.uncertainty, 'f', 1) +
      " % (meter 1 %, magnets ± 10 K). Wrong pole pairs are whole factors.");
}

void ConstantsView::take_spin() {
  const auto frequency = positive(frequency_, Kind::frequency), volts = positive(volts_, Kind::voltage);
  const auto pairs = positive(pairs_, Kind::number);
  if (!frequency || !volts || !pairs) return;
  const SpinTest test{*frequency, *volts, static_cast<SpinTest::Volts>(volts_as_->currentIndex()),
                      shape_->currentIndex() == 1, *pairs};
  const double k = spun_constant(test).k;
  const char* id = test.flat ? "ke_phase_peak" : "ke_line_peak";
  for (int i = 0; i < reading_->count(); ++i)
    if (constant_readings()[static_cast<std::size_t>(i)].id == id) reading_->setCurrentIndex(i);
  value_->setText(QString::number(value_of(*find_reading(id), k, 1.0) * 1000.0 * constants::rpm, 'g', 6) +
                  " V/krpm");
}

} // namespace fulmox::app
