#pragma once
#include "core/limits/limit.hpp"

namespace fulmox {

/// What the motor gives for ever at a speed, derated for the surroundings.
struct Continuous {
  Term torque, speed;
  bool derated = false;
};
/// Recorded under the prefix, "" for none. Its continuous torque must be known.
Continuous continuous_at(const LimitContext& context, const Term& speed, std::string_view prefix);

/// The greatest torque that motor and drive can put on the shaft, with magnets as cold as they come; 0
/// unknown.
Term most_motor_torque(const AxisModel& model);

/// Whether the cycle keeps the gearhead turning, so that its continuous torque counts (see runs_on()).
bool gear_runs_on(const LimitContext& context);

} // namespace fulmox
