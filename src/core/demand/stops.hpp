#pragma once
#include "core/demand/course.hpp"
#include "core/demand/holding.hpp"

#include <optional>

namespace fulmox {

/// What follows when power goes and the brake has to catch the axis.
struct Stop {
  Term speed;  ///< rad/s of the motor when the brake bites
  Term angle;  ///< rad of the motor under the brake; ∞ where the brake gives less than the load pulls
  Term travel; ///< m or rad at the load, delay included
};
struct Stops {
  Term pull;         ///< N·m at the motor: what the load may drive it on with, friction no help
  Term brake;        ///< N·m in motion
  Stop moving, rest; ///< at top speed towards the worse side; while standing
  Term energy;       ///< J into the brake, from top speed
};

/// The greatest travel of the load per radian of the motor.
double travel_per_radian(const AxisModel& model);

/// Nothing without a brake whose torque is known.
std::optional<Stops> work_out_stops(const AxisModel& model, const Term& inertia, const Term& top_speed,
                                    const Holding& holding, Recorder& recorder);

} // namespace fulmox
