#include "core/demand/train.hpp"

#include "core/support/intern.hpp"

#include <algorithm>
#include <array>
#include <cmath>

namespace fulmox {
namespace {

double backlash_through(double backlash, double ratio) { return backlash / ratio; }

double sum(std::span<const double> values) {
  double total = 0.0;
  for (const double value : values) total += value;
  return total;
}

double travel_of(double angle, double per_radian) { return angle * per_radian; }

double stiffness_through(double stiffness, double ratio) { return stiffness * ratio * ratio; }

double springs_in_a_row(std::span<const double> stiffnesses) {
  double give = 0.0;
  for (const double k : stiffnesses) give += 1.0 / k;
  return 1.0 / give;
}

double wind_up(double torque, double stiffness) { return torque / stiffness; }

} // namespace

std::vector<TrainPlace> train_places(const AxisModel& model, const Axis& axis, Recorder& recorder) {
  using What = TrainPlace::What;
  const Section& gear = axis["gearhead"];
  Term after{1.0, ""};
  std::vector<TrainPlace> all{{What::mechanism, "mechanism", unknown_term,
                               model.load->mechanism->own_stiffness(model.load->reach, recorder), after}};
  for (std::size_t k = model.load->stages.size(); k-- > 0;) {
    const Stage& stage = model.load->stages[k];
    all.push_back({What::stage, "stage" + std::to_string(k + 1), stage.backlash, stage.stiffness, after});
    after = {after * stage.ratio, ""};
  }
  all.push_back({What::coupling, "coupling", unknown_term, axis["coupling"].term("stiffness"), after});
  if (model.gear.fitted)
    all.push_back({What::gearhead, "gearhead", gear.term("backlash"), gear.term("stiffness"), after});
  return all;
}

namespace book {
namespace {
const Parameter after{"i", "i", Kind::number, "ratio of the stages after it", range::positive};
constexpr std::string_view statics = "statics of shafts in a row";
} // namespace

const Formula backlash_through{"train.backlash_through",
                               "Backlash at the mechanism's shaft",
                               "β",
                               "{b}/{i}",
                               Kind::angle,
                               {{"b", "b", Kind::angle, "backlash at the stage's output"}, after},
                               statics,
                               calling<&fulmox::backlash_through>};
const Formula backlash_sum{"train.backlash",
                           "Backlash of the drive train",
                           "β",
                           "{b}",
                           Kind::angle,
                           {{"b", "Σβ", Kind::angle, "worst case: all one way"}},
                           statics,
                           &fulmox::sum,
                           true};
const Formula travel_of{"train.travel",
                        "Travel of the load",
                        "x",
                        "{a}·{r}",
                        Kind::length,
                        {{"a", "β", Kind::angle, "angle of the mechanism's shaft"},
                         {"r", "r", Kind::length, "travel per radian", range::positive}},
                        "kinematics",
                        calling<&fulmox::travel_of>};
const Formula stiffness_through{
    "train.stiffness_through",
    "Stiffness seen at the mechanism's shaft",
    "k",
    "{k}·{i}²",
    Kind::torsional_stiffness,
    {{"k", "k", Kind::torsional_stiffness, "stiffness at the stage's output", range::positive}, after},
    statics,
    calling<&fulmox::stiffness_through>};
const Formula springs_in_a_row{"train.stiffness",
                               "Stiffness of the drive train",
                               "k",
                               "1/Σ(1/{k})",
                               Kind::torsional_stiffness,
                               {{"k", "k", Kind::torsional_stiffness, "springs in a row", range::positive}},
                               statics,
                               &fulmox::springs_in_a_row,
                               true};
const Formula wind_up{"train.wind_up",
                      "Wind-up of the drive train",
                      "β",
                      "{T}/{k}",
                      Kind::angle,
                      {{"T", "T", Kind::torque, "greatest torque into the mechanism"},
                       {"k", "k", Kind::torsional_stiffness, "of the drive train", range::positive}},
                      "Hooke's law",
                      calling<&fulmox::wind_up>};
} // namespace book

std::span<const Formula* const> train_formulas() {
  static const std::array list{&book::backlash_through,  &book::backlash_sum,     &book::travel_of,
                               &book::stiffness_through, &book::springs_in_a_row, &book::wind_up};
  return list;
}

TrainCompliance record_compliance(const AxisModel& model, const Axis& axis, Recorder& recorder) {
  std::vector<Term> plays, springs;
  const auto through = [&](const Formula& formula, const Term& figure, const TrainPlace& place,
                           const char* what) {
    return place.ratio == 1.0 ? figure
                              : recorder.apply(formula, intern(std::string("train.") + what + place.name),
                                               {figure, place.ratio});
  };
  for (const TrainPlace& place : train_places(model, axis, recorder)) {
    if (!std::isnan(place.backlash))
      plays.push_back(through(book::backlash_through, place.backlash, place, "backlash."));
    if (!std::isnan(place.stiffness))
      springs.push_back(through(book::stiffness_through, place.stiffness, place, "stiffness."));
  }
  constexpr Term unknown{std::numeric_limits<double>::quiet_NaN(), ""};
  TrainCompliance give{unknown, unknown, unknown};
  if (plays.empty() && springs.empty()) return give;
  const LoadPeaks& peaks = model.load->peaks;
  const auto at_load = [&](const Term& angle, double lever, std::string_view id) {
    return model.load->mechanism->travel() == Kind::angle
               ? angle
               : recorder.apply(book::travel_of, id, {angle, {lever, ""}});
  };
  if (!plays.empty())
    give.backlash =
        at_load(recorder.apply(book::backlash_sum, "train.backlash", std::span<const Term>(plays)),
                peaks.lever, "load.backlash");
  if (!springs.empty()) {
    give.stiffness =
        recorder.apply(book::springs_in_a_row, "train.stiffness", std::span<const Term>(springs));
    give.wind_up =
        at_load(recorder.apply(book::wind_up, "train.wind_up", {{peaks.twist.torque, ""}, give.stiffness}),
                peaks.twist.lever, "load.wind_up");
  }
  return give;
}

} // namespace fulmox
