#pragma once
#include "core/study/quick.hpp"
#include "core/support/wanted.hpp"

#include <array>
#include <vector>

namespace fulmox {

/// Ratios gearheads are usually made in (common practice).
inline constexpr std::array standard_ratios{3.0,  4.0,  5.0,  7.0,  8.0,  10.0, 12.0, 15.0, 16.0, 20.0,
                                            25.0, 28.0, 32.0, 35.0, 40.0, 50.0, 64.0, 70.0, 80.0, 100.0};

/// The gearhead's ratio swept, all else as it is: with the motor in hand and with no rotor at all, which is
/// what every motor has to give besides accelerating itself.
struct RatioPoint {
  double ratio = 1.0;
  QuickNumbers with_motor, bare;
};

struct RatioSweep {
  std::vector<RatioPoint> points;
  double present = 1.0;
  double inertia_match = 0.0; ///< √(J_load/J_motor) with J_load at the gearhead's output; NaN without a rotor
  double least_rms = 0.0,
         least_peak = 0.0; ///< ratio at which the motor in hand has least; NaN without a rotor
  double top_speed = 0.0;  ///< rad/s the motor may turn; NaN unknown
};

/// i* = √(J_load/J_motor): the ratio at which a pure inertia is accelerated with least torque.
double inertia_match_ratio(double load_inertia, double rotor_inertia);

/// Sweeps from `low` to `high` in equal factors.
Expected<RatioSweep> sweep_ratio(const Axis& axis, double low, double high, int steps,
                                 const Wanted& wanted = always_wanted);

} // namespace fulmox
