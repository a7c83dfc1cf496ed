#pragma once
#include "core/working/formula.hpp"

#include <span>

namespace fulmox {

/// Peak speed of a trapezoid move, v = D/(t·(1 − (α+δ)/2)). D in m or rad, t > 0 in s, ramp shares α, δ in
/// (0, 1], α+δ <= 1.
double trapezoid_peak_speed(double distance, double time, double accel_share, double decel_share);

/// Acceleration of a ramp that takes the share α of the time t: a = v/(α·t). m/s² or rad/s².
double ramp_acceleration(double peak_speed, double share, double time);

/// Deceleration of a ramp down, signed: a = −v/(δ·t).
double ramp_deceleration(double peak_speed, double share, double time);

/// Speed at the time τ into a ramp: v = v0 + a·τ.
double speed_at(double start_speed, double acceleration, double elapsed);

/// Rms acceleration over the move, C_v·√(1/α + 1/δ)·D/t² with C_v = 1/(1 − (α+δ)/2): 3.6742·D/t² for thirds.
double trapezoid_rms_acceleration(double distance, double time, double accel_share, double decel_share);

namespace book {
extern const Formula trapezoid_peak_speed, ramp_acceleration, ramp_deceleration, speed_at,
    trapezoid_rms_acceleration;
}
std::span<const Formula* const> motion_formulas();

} // namespace fulmox
