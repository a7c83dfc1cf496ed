#pragma once
#include "core/working/formula.hpp"

#include <span>

namespace fulmox {

/// Speed at which the brake bites: ω + (T_L − T_f)/J·t_d, never below 0. rad/s.
double speed_at_brake(double inertia, double speed, double pull, double friction, double delay);
/// Angle from the loss of power until the brake bites: ω·t_d + ½(T_L − T_f)/J·t_d², or until it rests before.
/// rad.
double angle_to_brake(double inertia, double speed, double pull, double friction, double delay);
/// Angle under the brake: ω_1²·J/(2(T_b + T_f − T_L)); ∞ where that is not above 0. rad.
double angle_under_brake(double inertia, double speed, double pull, double friction, double brake);
/// Energy that the brake takes: T_b times its angle. J.
double brake_energy(double brake, double angle);
/// Greatest torque when inertia J at ω runs into a spring k while T_m goes on: T_m + √(T_m² + k·J·ω²). N·m.
double jam_torque(double motor, double stiffness, double inertia, double speed);

/// A motor whose leads are shorted brakes with T = c·ω/(R² + (p·L·ω)²), N·m at ω rad/s: c = 1.5·K²·R for
/// three phases, K²·R for two, K²·R for brushes (L then 0).
double short_torque(double c, double resistance, double reactance, double speed);
/// Its greatest, c/(2·R·pL) at ω = R/(pL), when it passes there; at `speed` where that is below. N·m.
double short_peak(double c, double resistance, double reactance, double speed);
/// Angle from ω to rest without friction: J·ω·(R² + (pLω)²/3)/c. rad. Time is not finite: friction ends it.
double short_angle(double inertia, double speed, double c, double resistance, double reactance);
/// Speed at which it sinks under a torque T: the slower root of short_torque = T; ∞ where it never holds.
/// rad/s.
double short_creep(double pull, double c, double resistance, double reactance);

namespace book {
extern const Formula brake_in_motion, speed_at_brake, angle_to_brake, angle_under_brake, brake_energy,
    load_travel, load_turn, jam_torque, driven_torque, short_peak, short_angle, short_creep;
}
std::span<const Formula* const> stop_formulas();

} // namespace fulmox
