#include "core/motor/motor.hpp"

#include "core/form/curve.hpp"
#include "core/form/meaning.hpp"
#include "core/form/part_kinds.hpp"
#include "core/motor/brushed.hpp"
#include "core/motor/servo.hpp"
#include "core/motor/six_step.hpp"
#include "core/motor/stepper.hpp"
#include "core/quantity/constants.hpp"

#include <algorithm>

namespace fulmox {

double read_curve(std::span<const CurvePoint> curve, double x) {
  constexpr double rounding = 1e-12;
  return curve.empty() || x > curve.back()[0] * (1.0 + rounding) ? 0.0 : value_on(curve, x);
}

double PeakLimits::least() const {
  const double smallest = std::min({catalogue, current, voltage});
  return std::isfinite(smallest) ? std::max(0.0, smallest) : 0.0;
}

double Motor::air_gap(double shaft_torque, double speed, double direction) const {
  const double against = direction != 0.0 ? direction : (shaft_torque > 0.0) - (shaft_torque < 0.0);
  return shaft_torque + drag_torque(speed, against);
}

std::optional<double> Motor::running_current(double air_gap_torque, double speed,
                                             const MotorSupply& supply) const {
  if (has_peak() && std::abs(air_gap_torque) - drag(speed) > peak_torque(speed, supply, false))
    return std::nullopt;
  return speed == 0.0 ? rest_current(air_gap_torque) : current_at(air_gap_torque, speed, supply.voltage);
}
double Motor::voltage(double, double, double) const { return 0.0; }
double Motor::emf(double) const { return unknown_term; }
double Motor::least_peak(double, double, const MotorSupply&, bool) const { return 0.0; }
std::vector<double> Motor::peak_corners(const MotorSupply&) const { return {}; }
Term Motor::record_voltage(double, double, double, StepName, Recorder&) const { return unknown_term; }
Term Motor::record_current_at(const Term& air_gap, const Term&, const Term&, StepName step,
                              Recorder& recorder) const {
  return record_current(air_gap, step, recorder);
}
Term Motor::record_by_voltage(const Term&, const Term&, const MotorSupply&, Recorder&) const {
  return unknown_term;
}
std::optional<Term> Motor::record_base_speed(const Term&, StepName, Recorder&) const { return std::nullopt; }
std::vector<MotorResult> Motor::results(const Term&, const Term&, Recorder&) const { return {}; }

void Motor::add_hot(std::vector<MotorResult>& results, const Term& kt, const Term& magnet,
                    const Term& cold_resistance, const Term& warm_resistance) {
  if (magnet != 1.0)
    results.push_back({"motor.constant_hot", "Kt, magnets hot", "Kt",
                       "What hot magnets leave of the torque per ampere.", Kind::torque_constant, kt});
  if (warm_resistance > cold_resistance)
    results.push_back({"motor.resistance_warm", "Resistance, warm", "R_w",
                       "Between two leads at the winding's limit: what heat and voltage are judged with.",
                       Kind::resistance, warm_resistance});
}

double Motor::rated_loss() const {
  const double torque = has_continuous() ? continuous_torque(0.0) : 0.0;
  return torque > 0.0 ? copper(current(air_gap(torque, 0.0, 1.0))) : std::numeric_limits<double>::quiet_NaN();
}

void Motor::read_common(const Section& sheet) {
  constexpr double usual_catalogue_ambient = constants::zero_celsius + 40.0; // common practice
  leaves_open = fulmox::leaves_open(sheet);
  inertia = sheet.term_or("inertia", 0.0);
  chosen = !sheet.blank("inertia");
  max_speed = sheet.term("max_speed");
  peak_current = sheet.term_if("peak_current");
  shaft = sheet.term_if("shaft");
  shaft_length = sheet.term_if("shaft_length");
  flange = Flange::from(sheet);
  max_volts = sheet.term_if("max_volts");
  if (sheet.has("feedback"))
    if (const auto told = read_feedbacks(sheet.text("feedback"))) feedback = *told;
  winding_limit = sheet.term_if("winding_limit");
  catalogue_ambient = sheet.term_if("catalogue_ambient");
  if (std::isnan(catalogue_ambient)) catalogue_ambient.value = usual_catalogue_ambient;
  winding_to_case = sheet.term_if("r_winding_case");
  case_to_ambient = sheet.term_if("r_case_ambient");
  winding_time = sheet.term_if("winding_time");
  case_time = sheet.term_if("case_time");
  mass = sheet.term_if("mass");
}

static PartKinds<MotorKind>& registry() {
  static PartKinds<MotorKind> kinds({&servo_motor(), &stepper_motor(), &closed_stepper(), &five_phase_motor(),
                                     &six_step_motor(), &brushed_motor()});
  return kinds;
}

std::span<const MotorKind* const> motor_kinds() { return registry().all(); }
void register_motor(const MotorKind& kind) { registry().add(kind); }

std::unique_ptr<const Motor> build_motor(const Section& sheet, const Drive& drive, Recorder& recorder) {
  return registry().of(sheet).build(sheet, drive, recorder);
}

const SlotSpec& motor_slot() {
  static const SlotSpec slot{"motor", "Motor", [] { return registry().for_slot(); }};
  return slot;
}

} // namespace fulmox
