#include "core/demand/accuracy.hpp"

#include "core/demand/stops.hpp"
#include "core/motor/stepper.hpp"
#include "core/quantity/constants.hpp"

#include <algorithm>
#include <array>
#include <cmath>

namespace fulmox {
namespace {

constexpr double steel_growth = 11.5e-6; // 1/K

double count_at_load(double counts, double per_radian) { return constants::tau / counts * per_radian; }
double error_at_load(double angle, double per_radian) { return angle * per_radian; }
double step_error(double steps) { return 0.05 * constants::tau / steps; }
double thermal_growth(double length, double rise) { return steel_growth * length * rise; }
double worst_sum(std::span<const double> errors) {
  double sum = 0.0;
  for (const double e : errors) sum += std::abs(e);
  return sum;
}
double root_sum(std::span<const double> errors) {
  double sum = 0.0;
  for (const double e : errors) sum += e * e;
  return std::sqrt(sum);
}

/// Gathers shares, each with its step.
class Budget {
public:
  Budget(const AxisModel& model, const Axis& axis, Recorder& recorder)
      : model_(model), asked_(axis["requirements"]), motor_(axis["motor"]), recorder_(recorder),
        turning_(model.load->mechanism->travel() == Kind::angle),
        at_load_(asked_.text("feedback") == "load"), lever_{travel_per_radian(model), ""} {}

  void feedback() {
    if (at_load_) {
      out_.resolution = asked_.term(turning_ ? "scale_angle" : "scale");
      if (!std::isnan(out_.resolution)) add("accuracy.count", "Count of the scale", out_.resolution);
      return;
    }
    if (!motor_.has("encoder") || motor_.blank("encoder")) return;
    out_.resolution = recorder_.apply(turning_ ? book::count_at_load_turning : book::count_at_load,
                                      "accuracy.resolution", {motor_.term("encoder"), lever_});
    add("accuracy.count", "Count of the encoder", out_.resolution);
    constexpr double usual_error = 5.0 / 60.0 * constants::degree; // cheap incremental ones, from memory
    add("accuracy.encoder", "Error of the encoder",
        at_load("accuracy.encoder", asked_.term_or("encoder_error", usual_error)));
  }

  /// An open-loop stepper stands where its teeth and its load let it.
  void stepper(const Term& torque) {
    const auto* motor = dynamic_cast<const StepperMotor*>(model_.motor.get());
    if (motor == nullptr || !motor->keeps_current() || !motor->electric()) return;
    const Term steps = motor->steps_term();
    const double micro = std::max(1.0, motor->microsteps.value);
    if (std::isnan(out_.resolution)) // an encoder tells it else
      out_.resolution = recorder_.apply(turning_ ? book::count_at_load_turning : book::count_at_load,
                                        "accuracy.resolution", {{steps * micro, ""}, lever_});
    add("accuracy.step", "Error of a step",
        at_load("accuracy.step", recorder_.apply(book::step_error, "accuracy.step_angle", {steps})));
    const Term holding{motor->holding(), ""};
    if (holding > 0.0)
      add("accuracy.load_angle", "Load angle",
          at_load("accuracy.load_angle", recorder_.apply(book::load_angle, "accuracy.load_angle_rotor",
                                                         {torque, holding, motor->teeth})));
  }

  /// A scale at the load sees it.
  void drive() {
    if (at_load_) return;
    const Term error = asked_.term(turning_ ? "lead_error_angle" : "lead_error");
    if (!std::isnan(error)) add("accuracy.drive", "Error of the drive", error);
  }

  void train(const Axis& axis) {
    if (at_load_) return;
    Recorder silent(false);
    const TrainCompliance give = record_compliance(model_, axis, silent);
    const auto named = [&](Term t, std::string_view turned, std::string_view straight) {
      t.ref = turning_ ? turned : straight;
      return t;
    };
    if (!std::isnan(give.backlash))
      add("accuracy.backlash", "Backlash", named(give.backlash, "train.backlash", "load.backlash"));
    if (!std::isnan(give.wind_up))
      add("accuracy.wind_up", "Wind-up", named(give.wind_up, "train.wind_up", "load.wind_up"));
  }

  void warming() {
    const Term rise = asked_.term("warming");
    if (std::isnan(rise) || turning_) return;
    const TravelExtremes& reach = model_.load->reach;
    const auto guide = model_.load->mechanism->guide();
    const Term length = guide ? guide->length : Term{reach.highest - reach.lowest, ""};
    add("accuracy.growth", "Growth by warming",
        recorder_.apply(book::thermal_growth, "accuracy.growth", {length, rise}));
  }

  AccuracyBudget take() {
    if (out_.shares.empty()) return std::move(out_);
    std::vector<Term> sizes;
    for (const ErrorShare& share : out_.shares) sizes.push_back(share.size);
    out_.worst = recorder_.apply(turning_ ? book::worst_sum_turning : book::worst_sum, "accuracy.worst",
                                 std::span<const Term>(sizes));
    out_.root = recorder_.apply(turning_ ? book::root_sum_turning : book::root_sum, "accuracy.root",
                                std::span<const Term>(sizes));
    return std::move(out_);
  }

private:
  void add(std::string_view id, std::string_view label, const Term& size) {
    out_.shares.push_back({id, label, size});
  }
  Term at_load(std::string_view id, const Term& angle) {
    return recorder_.apply(turning_ ? book::error_at_load_turning : book::error_at_load, id, {angle, lever_});
  }

  const AxisModel& model_;
  const Section &asked_, &motor_;
  Recorder& recorder_;
  bool turning_, at_load_;
  Term lever_;
  AccuracyBudget out_{{}, unknown_term, unknown_term, unknown_term};
};

const Parameter per_radian{"r", "r", Kind::length, "travel of the load per radian of the motor",
                           range::positive};
const Parameter turn_per_radian{"r", "r", Kind::number, "turn of the load per radian of the motor",
                                range::positive};
const Parameter counts{"N", "N", Kind::number, "counts or steps a turn", range::positive};
const Parameter angle{"e", "e", Kind::angle, "at the motor, to either side"};

Formula sum_formula(std::string_view id, std::string_view title, std::string_view symbol,
                    std::string_view expression, Kind kind, double (*compute)(std::span<const double>),
                    std::string_view source) {
  return {id,     title,   symbol, expression, kind, {{"e", "e", kind, "errors to either side"}},
          source, compute, true};
}

} // namespace

AccuracyBudget accuracy_budget(const AxisModel& model, const Axis& axis, const Term& peak_torque,
                               Recorder& recorder) {
  Budget budget(model, axis, recorder);
  budget.feedback();
  budget.stepper(peak_torque);
  budget.drive();
  budget.train(axis);
  budget.warming();
  return budget.take();
}

namespace book {
const Formula count_at_load{
    "accuracy.count", "A count at the load", "Δx",         "2π/{N}·{r}",
    Kind::length,     {counts, per_radian},  "kinematics", calling<&fulmox::count_at_load>};
const Formula count_at_load_turning{"accuracy.count_turning",
                                    "A count at the load",
                                    "Δφ",
                                    "2π/{N}·{r}",
                                    Kind::angle,
                                    {counts, turn_per_radian},
                                    "kinematics",
                                    calling<&fulmox::count_at_load>};
const Formula error_at_load{
    "accuracy.at_load", "Error at the load", "e_x",        "{e}·{r}",
    Kind::length,       {angle, per_radian}, "kinematics", calling<&fulmox::error_at_load>};
const Formula error_at_load_turning{"accuracy.at_load_turning",
                                    "Error at the load",
                                    "e_φ",
                                    "{e}·{r}",
                                    Kind::angle,
                                    {angle, turn_per_radian},
                                    "kinematics",
                                    calling<&fulmox::error_at_load>};
const Formula step_error{"accuracy.step",
                         "Error of a step",
                         "e_s",
                         "5 %·2π/{N}",
                         Kind::angle,
                         {counts},
                         "± 5 % of a full step, not adding up; another school says ± 3 arcmin (from memory)",
                         calling<&fulmox::step_error>};
const Formula thermal_growth{"accuracy.growth",
                             "Growth by warming",
                             "e_T",
                             "11.5e-6/K·{L}·{dT}",
                             Kind::length,
                             {{"L", "L", Kind::length, "length that warms", range::positive},
                              {"dT", "ΔT", Kind::temperature_rise, "warmer than when measured"}},
                             "steel",
                             calling<&fulmox::thermal_growth>};
const Formula worst_sum = sum_formula("accuracy.worst", "All errors the same way", "e", "Σ|{e}|",
                                      Kind::length, &fulmox::worst_sum, "worst case");
const Formula root_sum = sum_formula("accuracy.root", "Errors as if by chance", "e", "√Σ{e}²", Kind::length,
                                     &fulmox::root_sum, "root of the sum of squares of independent errors");
const Formula worst_sum_turning = sum_formula("accuracy.worst_turning", "All errors the same way", "e",
                                              "Σ|{e}|", Kind::angle, &fulmox::worst_sum, "worst case");
const Formula root_sum_turning =
    sum_formula("accuracy.root_turning", "Errors as if by chance", "e", "√Σ{e}²", Kind::angle,
                &fulmox::root_sum, "root of the sum of squares of independent errors");
} // namespace book

std::span<const Formula* const> accuracy_formulas() {
  static const std::array list{&book::count_at_load,     &book::count_at_load_turning,
                               &book::error_at_load,     &book::error_at_load_turning,
                               &book::step_error,        &book::thermal_growth,
                               &book::worst_sum,         &book::root_sum,
                               &book::worst_sum_turning, &book::root_sum_turning};
  return list;
}

} // namespace fulmox
