#pragma once
#include "core/motion/law.hpp"

namespace fulmox {

/// Two ramps with a cruise between: peak speed as a magnitude, time and ramp shares.
struct Ramps {
  Term time, speed, accel_share, decel_share;
  bool limits_given = false; ///< the accelerations were typed, not worked out
};

/// Finds time, peak speed and ramp shares from any two of time, peak speed and mean acceleration, or from one
/// of them with shares (a third each when nothing is said). `fullness` is the mean over the peak acceleration
/// of a ramp, 1 when it does not change: messages tell peak values. Refuses what contradicts itself or does
/// not fit, with the nearest that does.
Expected<Ramps> solve_ramps(const MoveGiven& given, double fullness, Recorder& recorder);

} // namespace fulmox
