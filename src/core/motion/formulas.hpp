#pragma once
#include "core/motion/motion_formula.hpp"

#include <span>

namespace fulmox {

// Kinematics of single moves: SI units, m or rad throughout. Each is entered in the book along a line and
// about an axis.

/// D in m or rad, t > 0 in s, ramp shares α, δ in (0, 1], α + δ <= 1.
double trapezoid_peak_speed(double distance, double time, double accel_share, double decel_share);
double trapezoid_speed_between(double distance, double time, double accel_share, double decel_share,
                               double start, double end);
double trapezoid_time_from_speed(double distance, double speed, double accel_share, double decel_share);
double trapezoid_time_from_acceleration(double distance, double acceleration, double accel_share,
                                        double decel_share);
double ramp_share(double distance, double time, double speed, double start, double end);
/// Peak speed when time and accelerations are given; NaN when the ramps do not fit. The smaller root leaves a
/// cruise of its own.
double speed_from_acceleration(double distance, double time, double acceleration, double deceleration,
                               double start, double end);
double time_from_limits(double distance, double speed, double acceleration, double deceleration, double start,
                        double end);
double ramp_acceleration(double peak_speed, double share, double time);
double ramp_deceleration(double peak_speed, double share, double time);
double acceleration_between(double speed, double before, double time);
double speed_at(double start_speed, double acceleration, double elapsed);
/// 3.6742·D/t² for thirds.
double trapezoid_rms_acceleration(double distance, double time, double accel_share, double decel_share);
double law_peak_speed(double shape, double distance, double time);
double law_peak_acceleration(double shape, double distance, double time);
double law_peak_jerk(double shape, double distance, double time);
double time_from_speed(double shape, double distance, double speed);
double time_from_acceleration(double shape, double distance, double acceleration);
double law_speed(double distance, double time, double slope);
double law_acceleration(double distance, double time, double curvature);
double run_time(double distance, double speed);
double run_distance(double speed, double time);
/// F_0 + (F_1 − F_0)·share: a process force or torque that changes over its segment.
double ramped_effort(double first, double last, double share);

namespace book {
extern const MotionFormula trapezoid_peak_speed, trapezoid_speed_between, trapezoid_time_from_speed,
    trapezoid_time_from_acceleration, ramp_share, speed_from_acceleration, time_from_limits,
    ramp_acceleration, ramp_deceleration, acceleration_between, speed_at, trapezoid_rms_acceleration,
    law_peak_speed, law_peak_acceleration, law_peak_jerk, time_from_speed, time_from_acceleration, law_speed,
    law_acceleration, run_time, run_distance;
extern const Formula ramped_force, ramped_torque;
} // namespace book
std::span<const Formula* const> motion_formulas();

} // namespace fulmox
