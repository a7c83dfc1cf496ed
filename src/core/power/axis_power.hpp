#pragma once
#include "core/demand/course.hpp"
#include "core/power/power_curve.hpp"

namespace fulmox {

/// What an axis takes from its bus over one cycle of its own. Polynomials that follow the power to 1e-6 of
/// its greatest value; exactly where it is a polynomial.
PowerCurve power_of(const AxisModel& model, const Course& course);

/// What an axis does while it waits for its next cycle.
enum class Waiting : std::uint8_t {
  holding, ///< the motor holds the worst load of the cycle
  braked,  ///< the brake is closed and the motor carries no torque
  off      ///< torque off: nothing holds
};
/// W it takes then; `hold` in N·m at the motor.
double waiting_power(const AxisModel& model, double hold, Waiting waiting);

} // namespace fulmox
