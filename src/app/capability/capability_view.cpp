#include "app/capability/capability_view.hpp"

#include "app/capability/bench_plots.hpp"
#include "app/capability/envelope_plot.hpp"
#include "app/session/refresher.hpp"
#include "app/session/session.hpp"
#include "app/widgets/plain_widgets.hpp"
#include "core/evaluation/capability.hpp"
#include "core/evaluation/catalogue_gap.hpp"
#include "core/evaluation/guarded.hpp"
#include "core/quantity/constants.hpp"
#include "core/quantity/format.hpp"
#include "core/quantity/parse.hpp"

#include <QHBoxLayout>
#include <QSlider>
#include <QVBoxLayout>

#include <cmath>

namespace fulmox::app {
namespace {

constexpr int as_typed = 100; ///< % of the bus given

QHBoxLayout* row_in(QWidget* host) {
  auto* layout = new QHBoxLayout(host);
  layout->setContentsMargins(0, 0, 0, 0);
  layout->setSpacing(6);
  return layout;
}

QSlider* slider(const char* name, const char* what, int least, int most) {
  auto* made = new QSlider(Qt::Horizontal);
  made->setObjectName(name);
  made->setAccessibleName(what);
  made->setRange(least, most);
  return made;
}

QString told(double value, Kind kind, UnitSet units) {
  return std::isfinite(value) ? qt(format(value, kind, units).text()) : QString("no limit");
}

/// "HS23-76-42 on SS50-060".
QString pair_name(const Axis& axis) {
  const auto part = [&](const char* slot) { return qt(axis[slot].text("part_number")); };
  const QString motor = part("motor"), drive = part("drive");
  return (motor.isEmpty() ? QString("a motor") : motor) + (drive.isEmpty() ? QString() : " on " + drive);
}

} // namespace

CapabilityView::CapabilityView(Session& session, QWidget* parent)
    : QWidget(parent), session_(session), envelope_(new EnvelopePlot), bench_(new BenchPlots) {
  setObjectName("capability_view");
  auto* all = new QVBoxLayout(this);
  all->setContentsMargins(8, 8, 8, 8);
  all->setSpacing(5);
  all->addWidget(heading("What the axis can give"));
  all->addWidget(question_row());
  answer_ = wrapped_label("capability_answer", "soft");
  all->addWidget(answer_);
  all->addWidget(envelope_, 3);
  all->addWidget(swing_row());
  gap_ = wrapped_label("capability_gap", "soft");
  all->addWidget(gap_);
  all->addWidget(heading("Motor and drive alone, on a bench"));
  all->addWidget(bench_row());
  bench_told_ = wrapped_label("bench_told", "soft");
  all->addWidget(bench_told_);
  all->addWidget(bench_, 2);
  new Refresher(session, this, results_changed | Change::theme, [this](Changes) { refresh(); });
}

QWidget* CapabilityView::question_row() {
  auto* host = new QWidget;
  auto* layout = row_in(host);
  where_ = choice_box("capability_where", "Read at", {"at the motor's shaft", "at the load"});
  speed_ = number_line("capability_speed", "Speed of the load", "20 mm/s", 90);
  layout->addWidget(where_);
  layout->addStretch(1);
  layout->addWidget(new QLabel("Force or torque at the load at"));
  layout->addWidget(speed_);
  connect(where_, &QComboBox::currentIndexChanged, this, &CapabilityView::draw_envelope);
  connect(speed_, &QLineEdit::textChanged, this, &CapabilityView::answer);
  return host;
}

QWidget* CapabilityView::swing_row() {
  auto* host = new QWidget;
  auto* layout = row_in(host);
  bus_ = slider("capability_bus", "Bus voltage as if", 40, 200);
  ambient_ = slider("capability_ambient", "Ambient temperature as if", 0, 60);
  bus_told_ = new QLabel;
  bus_told_->setObjectName("capability_bus_told");
  ambient_told_ = new QLabel;
  ambient_told_->setObjectName("capability_ambient_told");
  for (QLabel* label : {bus_told_, ambient_told_}) label->setMinimumWidth(54);
  as_given_ = outlined_button("capability_as_given", "As given");
  take_over_ = outlined_button("capability_take_over", "Take over");
  take_over_->setToolTip("Writes bus voltage and ambient temperature into the surroundings of the axis.");
  layout->addWidget(new QLabel("Bus"));
  layout->addWidget(bus_, 1);
  layout->addWidget(bus_told_);
  layout->addWidget(new QLabel("Ambient"));
  layout->addWidget(ambient_, 1);
  layout->addWidget(ambient_told_);
  layout->addWidget(as_given_);
  layout->addWidget(take_over_);
  for (QSlider* one : {bus_, ambient_}) connect(one, &QSlider::valueChanged, this, &CapabilityView::swing);
  connect(as_given_, &QPushButton::clicked, this, [this] {
    reset_sliders();
    swing();
  });
  connect(take_over_, &QPushButton::clicked, this, &CapabilityView::take_over);
  return host;
}

QWidget* CapabilityView::bench_row() {
  auto* host = new QWidget;
  auto* layout = row_in(host);
  torque_ = number_line("bench_torque", "Torque at the shaft", "0.2 N.m", 80);
  keep_ = outlined_button("bench_keep", "Keep for comparison");
  keep_->setToolTip("Remembers this motor, drive and bus until the window is closed; then choose another.");
  forget_ = outlined_button("bench_forget", "Forget");
  kept_told_ = wrapped_label("bench_kept", "soft");
  layout->addWidget(new QLabel("Load"));
  layout->addWidget(torque_);
  layout->addWidget(kept_told_, 1);
  layout->addWidget(keep_);
  layout->addWidget(forget_);
  connect(torque_, &QLineEdit::textChanged, this, &CapabilityView::draw_bench);
  connect(keep_, &QPushButton::clicked, this, &CapabilityView::keep_motor);
  connect(forget_, &QPushButton::clicked, this, &CapabilityView::forget_motor);
  return host;
}

void CapabilityView::reset_sliders() {
  const Evaluation* e = session_.evaluation();
  const QSignalBlocker bus_quiet(bus_), ambient_quiet(ambient_);
  bus_->setValue(as_typed);
  const double ambient = e == nullptr ? 25.0 : e->model->surroundings.ambient - constants::zero_celsius;
  ambient_->setValue(static_cast<int>(std::lround(ambient)));
  swung_.reset();
}

void CapabilityView::refresh() {
  reset_sliders();
  swing();
}

double CapabilityView::bus_asked() const {
  return session_.evaluation()->model->surroundings.bus * bus_->value() / as_typed;
}

bool CapabilityView::swung() const {
  const Evaluation* e = session_.evaluation();
  if (e == nullptr) return false;
  const double ambient = e->model->surroundings.ambient - constants::zero_celsius;
  return bus_->value() != as_typed || ambient_->value() != static_cast<int>(std::lround(ambient));
}

void CapabilityView::swing() {
  const Evaluation* e = session_.evaluation();
  const bool bus_known = e != nullptr && !std::isnan(e->model->surroundings.bus);
  bus_->setEnabled(bus_known);
  ambient_->setEnabled(e != nullptr);
  const UnitSet units = session_.document().units;
  bus_told_->setText(bus_known ? told(bus_asked(), Kind::voltage, units) : QString("–"));
  ambient_told_->setText(QString::number(ambient_->value()) + " °C");
  swung_.reset();
  if (swung()) {
    Axis trial = session_.axis();
    Section& place = trial["surroundings"];
    if (bus_known) place.type("bus", QString::number(bus_asked(), 'g', 10).toStdString() + " V");
    place.type("ambient", std::to_string(ambient_->value()) + " °C");
    auto result = guarded(trial, [&] { return evaluate(trial, session_.document().house_rules, units); });
    if (result) {
      Plots plots = plots_of(*result);
      swung_ = Worked{std::move(*result), std::move(plots)};
    }
  }
  as_given_->setEnabled(swung());
  take_over_->setEnabled(swung() && !session_.read_only());
  draw();
}

const Evaluation* CapabilityView::now() const { return swung_ ? &swung_->evaluation : session_.evaluation(); }

void CapabilityView::draw() {
  draw_envelope();
  draw_bench();
  answer();
}

void CapabilityView::draw_envelope() {
  const Drawn given{session_.evaluation(), &session_.plots()};
  const auto drawn = [](const std::optional<Worked>& worked) {
    return worked ? Drawn{&worked->evaluation, &worked->plots} : Drawn();
  };
  envelope_->show_axis(swung_ ? drawn(swung_) : given, swung_ ? given : Drawn(), drawn(kept_),
                       where_->currentIndex() == 1, session_.document().units);
  tell_gap(now());
}

void CapabilityView::draw_bench() {
  const Evaluation* now = this->now();
  const auto torque = parse_quantity(torque_->text().toStdString(), Kind::torque);
  bench_->show_motors(now == nullptr ? nullptr : now->model.get(),
                      kept_ ? kept_->evaluation.model.get() : nullptr, torque ? torque->value : 0.0);
  tell_bench(now, torque ? torque->value : 0.0);
  keep_->setEnabled(now != nullptr && now->model->motor->chosen);
  forget_->setVisible(kept_.has_value());
  kept_told_->setText(kept_ ? "Beside it: " + kept_name_ : QString());
}

void CapabilityView::answer() {
  const Evaluation* e = now();
  if (e == nullptr) return answer_->setText("");
  const MotionKinds kinds = capability_kinds(*e);
  speed_->setPlaceholderText(kinds.speed == Kind::speed ? "20 mm/s" : "20 rpm");
  if (speed_->text().trimmed().isEmpty())
    return answer_->setText("Besides what the axis needs itself: the hardest place, payload and direction.");
  const auto speed = parse_quantity(speed_->text().toStdString(), kinds.speed, info(kinds.speed).si);
  if (!speed) {
    const QString what = qt(speed.problem().what);
    return answer_->setText(what.left(1).toUpper() + what.mid(1) + " " + qt(speed.problem().remedy));
  }
  if (!(speed->value >= 0.0)) return answer_->setText("A speed without sign.");
  if (!e->model->motor->has_peak() && !e->model->motor->keeps_current())
    return answer_->setText("Choose a motor whose torque is told.");
  const Capability c = capability_at(*e, speed->value);
  const UnitSet units = session_.document().units;
  answer_->setText("It presses with " + told(c.peak, kinds.effort, units) + " for a short time (" +
                   told(c.peak_low, kinds.effort, units) + " at the lowest bus), " +
                   told(c.lasting, kinds.effort, units) + " for ever; the motor turns at " +
                   told(c.motor_speed, Kind::angular_speed, units) + ".");
}

void CapabilityView::tell_gap(const Evaluation* e) {
  gap_->setText("");
  if (e == nullptr) return;
  if (const ResultValue* rated = e->find("stepper.school_rated"),
      *coil = e->find("stepper.school_inductance");
      rated != nullptr && coil != nullptr && where_->currentIndex() == 0) {
    const UnitSet units = session_.document().units;
    return gap_->setText("Dotted: what may be asked with the supplies of both schools, " +
                         told(rated->value, Kind::voltage, units) + " (15 × rated) and " +
                         told(coil->value, Kind::voltage, units) + " (32·√L, at most).");
  }
  const auto gap = catalogue_gap(*e->model);
  if (!gap || std::abs(gap->share()) < 0.02) return;
  const UnitSet units = session_.document().units;
  const QString percent = QString::number(std::abs(100.0 * gap->share()), 'f', 0);
  gap_->setText("Maker's curve and model differ most at " + told(gap->speed, Kind::angular_speed, units) +
                ": " + told(gap->catalogue, Kind::torque, units) + " against " +
                told(gap->modelled, Kind::torque, units) + " from current and bus, " + percent +
                (gap->share() < 0.0 ? " % less." : " % more.") + " The lesser counts.");
}

void CapabilityView::tell_bench(const Evaluation* e, double torque) {
  bench_told_->setText("");
  if (e == nullptr || !(torque > 0.0)) return;
  const BenchPicture& picture = bench_->loaded();
  if (!picture.ends) return;
  const QString asked = told(torque, Kind::torque, session_.document().units);
  if (picture.points.empty()) return bench_told_->setText("It cannot make " + asked + " even at rest.");
  const QString end = told(picture.points.back().speed, Kind::angular_speed, session_.document().units);
  bench_told_->setText(asked + " can be made up to " + end +
                       (e->model->motor->keeps_current() ? "; beyond it falls out of step." : "."));
}

void CapabilityView::keep_motor() {
  if (now() == nullptr) return;
  kept_ = Worked{*now(), swung_ ? swung_->plots : session_.plots()};
  kept_name_ = pair_name(session_.axis());
  draw();
}

void CapabilityView::forget_motor() {
  kept_.reset();
  draw();
}

void CapabilityView::take_over() {
  const Evaluation* e = session_.evaluation();
  if (e == nullptr) return;
  const std::string bus = std::isnan(e->model->surroundings.bus)
                              ? std::string()
                              : QString::number(bus_asked(), 'g', 4).toStdString() + " V";
  const bool other_bus = bus_->value() != as_typed;
  const std::string ambient = std::to_string(ambient_->value()) + " °C";
  session_.edit("Bus and ambient taken over", "", [&](Document& d) {
    Section& place = d.axes[session_.axis_index()]["surroundings"];
    if (other_bus) place.type("bus", bus);
    place.type("ambient", ambient);
  });
}

} // namespace fulmox::app
