#pragma once
#include "core/demand/axis_model.hpp"
#include "core/power/power_curve.hpp"

namespace fulmox {

/// What an axis draws and gives back if a controlled stop begins at any moment of its cycle: step curves over
/// that cycle, at most, by the moment at which the stop begins.
struct StopPower {
  PowerCurve needed;   ///< J drawn until it stands; what comes back counts for nothing
  PowerCurve returned; ///< J given back until it stands
  PowerCurve pushed;   ///< W given back at once
  /// The greatest share of its peak torque the motor needs, and the s of its cycle from which; looked at
  /// some ten times in each stop. NaN where the motor does not tell its peak.
  double effort = 0.0, effort_at = 0.0;
  double ramp = 0.0; ///< s it was worked out for
};

/// The load slows down evenly to rest within `ramp` s > 0, whatever its speed, and goes on as far as that
/// takes; weight, friction and process force stay those of the moment at which it begins. At rest it is held
/// as the cycle holds it.
StopPower stop_power(const AxisModel& model, double ramp);

} // namespace fulmox
