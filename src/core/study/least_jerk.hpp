#pragma once
#include <limits>
#include <optional>

namespace fulmox {

/// What a move must not exceed at the load: m/s and m/s², or rad/s and rad/s²; without bound when not said.
struct MoveLimits {
  double speed = std::numeric_limits<double>::infinity();
  double acceleration = std::numeric_limits<double>::infinity();
};

/// A symmetrical S-curve: share of the time in each ramp, share of each ramp rounded, jerk.
struct GentleMove {
  double share, rounding, jerk;
};

/// The S-curve from rest to rest with the least jerk over a distance D in a time t, within limits. Without
/// limits it has no cruise and rounds everything: j = 32·D/t³, the least any move can have (bang-bang jerk;
/// kinematics). A limit on the speed lengthens the cruise; one on the acceleration leaves a flat part at
/// v = min(v_max, √(a_max·D)). Nothing when no S-curve keeps the limits. D != 0, t > 0.
std::optional<GentleMove> least_jerk(double distance, double time, const MoveLimits& limits);

} // namespace fulmox
