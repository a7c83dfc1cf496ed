#include "app/constants/winding_bench.hpp"

#include "app/session/refresher.hpp"
#include "app/session/session.hpp"
#include "app/theme/theme.hpp"
#include "app/widgets/plain_widgets.hpp"
#include "core/quantity/constants.hpp"
#include "core/quantity/format.hpp"
#include "core/quantity/parse.hpp"

#include <QHBoxLayout>
#include <QVBoxLayout>

#include <algorithm>
#include <cmath>

namespace fulmox::app {
namespace {

/// A typed number of a kind: nothing while blank; a text that is none, or one below `least`, is told in
/// `wrong`.
std::optional<double> number_in(const QLineEdit* edit, Kind kind, double least, QString& wrong) {
  if (edit->text().trimmed().isEmpty()) return std::nullopt;
  const auto parsed = parse_quantity(edit->text().toStdString(), kind);
  if (!parsed)
    wrong = edit->accessibleName() + ": " + qt(parsed.problem().what) + " " + qt(parsed.problem().remedy);
  else if (!(parsed->value >= least) || (least == 0.0 && kind != Kind::number && parsed->value == 0.0))
    wrong = edit->accessibleName() + ": this must be greater than 0.";
  else
    return parsed->value;
  return std::nullopt;
}

/// Readings closer than this are one inductance: no magnets inside the rotor.
constexpr double same_inductance = 1.05;

} // namespace

WindingBench::WindingBench(Session& session, QWidget* parent) : QWidget(parent), session_(session) {
  setObjectName("winding_bench");
  auto* rows = new QVBoxLayout(this);
  rows->setContentsMargins(0, 0, 0, 0);
  rows->setSpacing(6);
  auto* first = new QHBoxLayout;
  auto* second = new QHBoxLayout;
  auto* answer = new QHBoxLayout;
  for (QHBoxLayout* row : {first, second, answer}) rows->addLayout(row);
  constexpr std::array leads{"leads 1–2", "leads 2–3", "leads 3–1"};
  first->addWidget(new QLabel("R"));
  for (std::size_t i = 0; i < 3; ++i) {
    const std::string name = "winding_pair" + std::to_string(i + 1);
    pairs_[i] = number_line(name.c_str(), (std::string("Resistance, ") + leads[i]).c_str(), "0.82 Ω", 76);
    first->addWidget(pairs_[i]);
  }
  temperature_ = number_line("winding_temperature", "Temperature of the winding", "20 °C", 62);
  least_ = number_line("winding_least", "Least inductance over a turn", "least", 78);
  most_ = number_line("winding_most", "Greatest inductance over a turn", "greatest", 78);
  first->addWidget(new QLabel("at"));
  first->addWidget(temperature_);
  first->addStretch(1);
  second->addWidget(new QLabel("L"));
  second->addWidget(least_);
  second->addWidget(most_);
  second->addWidget(new QLabel("First heat"));
  for (std::size_t i = 0; i < 3; ++i) {
    const std::string name = "winding_heat" + std::to_string(i + 1);
    heating_[i] = number_line(name.c_str(), ("First rise of winding " + std::to_string(i + 1)).c_str(),
                              i == 0 ? "4" : "1", 36);
    heating_[i]->setToolTip("Current through one pair of leads, at most rated: how fast each of the three "
                            "windings warms within the first minute or two, in any one unit. Hot inside "
                            "long before the case tells; never unattended.");
    second->addWidget(heating_[i]);
  }
  second->addStretch(1);
  told_ = wrapped_label("winding_told", "soft");
  fault_ = wrapped_label("winding_fault", "fault");
  take_ = outlined_button("winding_take", "Into the motor");
  take_->setToolTip("Writes resistance at 20 °C and inductance between two leads.");
  auto* words = new QVBoxLayout;
  words->addWidget(told_);
  words->addWidget(fault_);
  answer->addLayout(words, 1);
  answer->addWidget(take_);
  for (QLineEdit* edit :
       {pairs_[0], pairs_[1], pairs_[2], heating_[0], heating_[1], heating_[2], temperature_, least_, most_})
    connect(edit, &QLineEdit::textChanged, this, &WindingBench::show_told);
  connect(take_, &QPushButton::clicked, this, &WindingBench::put_into_motor);
  new Refresher(session, this, results_changed | Change::units, [this](Changes) { show_told(); });
  show_told();
}

std::optional<BenchWinding> WindingBench::typed(QString& wrong) const {
  BenchWinding bench;
  bool whole = true;
  for (std::size_t i = 0; i < 3; ++i) {
    const auto ohms = number_in(pairs_[i], Kind::resistance, 0.0, wrong);
    whole = whole && ohms;
    bench.pairs[i] = ohms.value_or(0.0);
  }
  bench.temperature =
      number_in(temperature_, Kind::temperature, 0.0, wrong).value_or(constants::zero_celsius + 20.0);
  if (bench.temperature < bench_coldest || bench.temperature > bench_hottest)
    wrong = "A winding on the bench is between −40 and 200 °C.";
  std::array<double, 3> rises{};
  bool heated = true;
  for (std::size_t i = 0; i < 3; ++i) {
    const auto rise = number_in(heating_[i], Kind::number, 0.0, wrong);
    heated = heated && rise;
    rises[i] = rise.value_or(0.0);
  }
  if (heated && *std::max_element(rises.begin(), rises.end()) > 0.0) bench.heating = rises;
  const auto least = number_in(least_, Kind::inductance, 0.0, wrong),
             most = number_in(most_, Kind::inductance, 0.0, wrong);
  if (least && most && *most < *least) wrong = "The greatest inductance is below the least.";
  if (!wrong.isEmpty() || !whole) return std::nullopt;
  return bench;
}

void WindingBench::show_told() {
  QString wrong;
  const auto bench = typed(wrong);
  fault_->setText(wrong);
  fault_->setVisible(!wrong.isEmpty());
  told_->setVisible(wrong.isEmpty());
  const bool takes = session_.has_axis() && session_.axis()["motor"].has("winding_as");
  take_->setEnabled(bench && takes && told_winding(*bench).kind != WindingKind::open_winding);
  if (!bench)
    return told_->setText("Three resistances between the leads give R at 20 °C. L at 100 Hz (at 1 kHz it "
                          "reads low), turning the shaft: two readings if magnets lie inside the rotor.");
  const ToldWinding told = told_winding(*bench);
  const UnitSet units = session_.document().units;
  const auto ohms = [&](double value) { return qt(format(value, Kind::resistance, units, 3).text()); };
  QString phase;
  if (told.kind == WindingKind::wye) phase = " One phase: " + ohms(0.5 * told.resistance) + ".";
  if (told.kind == WindingKind::delta) phase = " One winding: " + ohms(1.5 * told.resistance) + ".";
  told_->setText("R at 20 °C " + ohms(told.resistance) + " ± " +
                 QString::number(100.0 * told.uncertainty, 'f', 1) + " % between two leads. " +
                 qt(std::string(told.why)) + phase);
}

void WindingBench::put_into_motor() {
  QString wrong;
  const auto bench = typed(wrong);
  if (!bench) return;
  const double resistance = told_winding(*bench).resistance;
  const auto least = number_in(least_, Kind::inductance, 0.0, wrong),
             most = number_in(most_, Kind::inductance, 0.0, wrong);
  const auto milli = [](double henry) { return QString::number(1e3 * henry, 'g', 5).toStdString() + " mH"; };
  session_.edit("Winding into the motor", "", [&](Document& d) {
    Section& motor = d.axes[session_.axis_index()]["motor"];
    const auto type = [&](const char* field, const std::string& text) {
      if (motor.has(field)) motor.type(field, text, Origin::measured);
    };
    type("resistance", QString::number(resistance, 'g', 5).toStdString() + " Ohm");
    type("winding_as", "terminal");
    if (!least && !most) return;
    const double low = least ? *least : *most, high = most ? *most : *least;
    const bool turns = high > same_inductance * low && motor.has("inductance_q");
    type("inductance", milli(turns ? low : 0.5 * (low + high)));
    type("inductance_q", turns ? milli(high) : std::string());
  });
}

} // namespace fulmox::app
