#include "core/study/least_jerk.hpp"

#include <algorithm>
#include <cmath>

namespace fulmox {

std::optional<GentleMove> least_jerk(double distance, double time, const MoveLimits& limits) {
  const double d = std::abs(distance);
  const double fastest = std::min(limits.speed, 2.0 * d / time);
  const double ramp = time - d / fastest;
  if (!(ramp > 0.0)) return std::nullopt;
  // fully rounded ramps, jerk 4·v/t_r²: falls with the speed up to 3·D/t, so the fastest is the gentlest
  if (2.0 * fastest / ramp <= limits.acceleration)
    return GentleMove{ramp / time, 1.0, 4.0 * fastest / (ramp * ramp)};
  // jerk a/(t − D/v − v/a): least where D/v + v/a is
  const double a = limits.acceleration;
  const double v = std::min(fastest, std::sqrt(a * d));
  const double with_flat = time - d / v;
  const double rounded = with_flat - v / a;
  if (!(rounded > 1e-9 * time)) return std::nullopt;
  return GentleMove{with_flat / time, 2.0 * rounded / with_flat, a / rounded};
}

} // namespace fulmox
