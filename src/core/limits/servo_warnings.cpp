#include "core/limits/servo_warnings.hpp"

#include "core/motor/interior.hpp"
#include "core/quantity/format.hpp"

#include <cmath>

namespace fulmox {
namespace {
bool is_servo(const Section& motor) { return &motor.spec() == &servo_motor_section(); }
} // namespace

std::optional<Warning> constants_disagree(const LimitContext& c) {
  const auto* servo = dynamic_cast<const ServoMotor*>(c.model.motor.get());
  if (servo == nullptr || std::isnan(servo->kt_given) || std::isnan(servo->ke_given)) return std::nullopt;
  const double ratio = servo->kt_given / servo->kt_of_ke();
  if (std::abs(ratio - 1.0) <= 0.05) return std::nullopt;
  std::string guess;
  const auto close = [&](double to) { return std::abs(ratio / to - 1.0) < 0.04; };
  if (close(0.7071)) guess = " That is what torque per peak ampere looks like when taken for rms.";
  if (close(1.4142))
    guess = " That is what torque per rms ampere looks like when taken for peak, or peak volts for rms.";
  if (close(0.8165)) guess = " That is what Kt made straight from Kv looks like.";
  if (close(1.7321) || close(0.5774)) guess = " A factor √3: phase and line-line volts are mixed up.";
  return warning("Kt and Ke disagree by " + percent(std::abs(ratio - 1.0)),
                 (dynamic_cast<const InteriorServo*>(servo) != nullptr
                      ? "Ke with the torque of reluctance at the rated current gives a Kt(rms); here Kt is "
                      : "In one convention Kt(rms) = √3·Ke(line-line rms) holds; here Kt is ") +
                     significant(ratio) + " of that." + guess,
                 "motor.kt");
}

std::optional<Warning> convention_missing(const LimitContext& c) {
  const Section& motor = c.axis["motor"];
  if (motor.has("kt_per") && !motor.blank("kt") && motor.blank("kt_per"))
    return warning(
        "Kt without its convention",
        std::string(
            "Per rms, per peak or per DC ampere? The current can be wrong by a factor 1.41. Numbers show ") +
            (is_servo(motor) ? "rms" : "DC") + " ampere, the ladder judges the worst reading.",
        "motor.kt_per");
  if (motor.has("ke_as") && !motor.blank("ke") && motor.blank("ke_as"))
    return warning(
        "Ke without its convention",
        "Line-line or phase, rms or peak? Numbers show line-line rms, the ladder judges the worst reading.",
        "motor.ke_as");
  return std::nullopt;
}

std::optional<Warning> winding_unknown(const LimitContext& c) {
  const Section& motor = c.axis["motor"];
  if (!motor.has("winding_as")) return std::nullopt;
  if (motor.blank("resistance") || !motor.blank("winding_as")) return std::nullopt;
  return warning("Is that the phase or the terminal resistance?",
                 "Taken for the wrong one, copper loss is off by 0.67 (delta) or 2 (wye). Numbers show "
                 "terminal values, the ladder judges the worst reading; measure between two leads.",
                 "motor.winding_as");
}

} // namespace fulmox
