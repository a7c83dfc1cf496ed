#pragma once
#include "core/motion/motion_formula.hpp"

namespace fulmox {

// Kinematics of moves of constant jerk in seven pieces, rest to rest unless a speed before is given: SI
// units, m or rad throughout.

/// Greatest speed an S-curve reaches within v, a, j over the distance: √(a⁴/j² + 4aD)/2 − a²/2j when
/// D ≥ 2a³/j², else (D²j/4)^⅓.
double s_curve_peak_speed(double distance, double speed, double acceleration, double jerk);
double s_curve_ramp(double speed, double acceleration, double jerk);
double s_curve_time(double ramp, double distance, double speed);
double s_curve_acceleration(double speed, double before, double share, double time, double rounding);
double s_curve_jerk(double acceleration, double rounding, double share, double time);
/// Peak speed of a symmetrical S-curve that takes the time t with a and j; a is not reached when the result
/// is below a²/j. NaN when the time is too short.
double s_curve_speed_in_time(double distance, double time, double acceleration, double jerk);
/// Peak acceleration when time, peak speed and jerk are given: the smaller root of a²/j − a·t_r + v = 0 with
/// t_r = t − D/v. NaN when the jerk is too low.
double s_curve_acceleration_in_time(double distance, double time, double speed, double jerk);
/// a/(t − D/v − v/a): the jerk that is left; v/a < t − D/v <= 2·v/a.
double s_curve_jerk_in_time(double distance, double time, double speed, double acceleration);
/// a·(1 − ρ/2).
double mean_ramp_acceleration(double acceleration, double rounding);

namespace book {
extern const MotionFormula s_curve_peak_speed, s_curve_ramp, s_curve_time, s_curve_acceleration, s_curve_jerk,
    s_curve_speed_in_time, s_curve_acceleration_in_time, s_curve_jerk_in_time, mean_ramp_acceleration;
} // namespace book

} // namespace fulmox
