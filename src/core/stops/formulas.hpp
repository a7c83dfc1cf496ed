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

/// A motor whose leads are shorted brakes with T = c·ω·(R² + (x_q·ω)²)/(R² + x_d·x_q·ω²)², N·m at ω rad/s:
/// c = 1.5·K²·R for three phases, K²·R for two, K²·R for brushes (x_d = x_q = 0); x_d, x_q pole pairs times a
/// phase's inductance along and across the magnets, H. A round rotor has x_d = x_q: T = c·ω/(R² + (x·ω)²).
double short_torque(double c, double resistance, double along, double across, double speed);
/// Its greatest up to `speed`; of a round rotor c/(2·R·x) at ω = R/x where it passes there. N·m.
double short_peak(double c, double resistance, double along, double across, double speed);
/// Angle from ω to rest without friction: J·∫ω/T·dω; of a round rotor J·ω·(R² + (xω)²/3)/c. rad. Time is not
/// finite: friction ends it.
double short_angle(double inertia, double speed, double c, double resistance, double along, double across);
/// Speed at which it sinks under a torque T: the slower root of short_torque = T; ∞ where it never holds.
/// rad/s.
double short_creep(double pull, double c, double resistance, double along, double across);

/// Energy that comes back when a motor of torque T stops inertia J from ω while T_L pulls on:
/// ½·J·ω²·T/(T − T_L), losses no help; ∞ where it does not stop. J.
double stop_return(double inertia, double speed, double torque, double pull);

/// Until a loop of this bandwidth stands within 2 % of a step: 4/(2π·f). s; bandwidth in Hz, > 0.
double settling_time(double bandwidth);

namespace book {
extern const Formula brake_in_motion, speed_at_brake, angle_to_brake, angle_under_brake, brake_energy,
    load_travel, load_turn, jam_torque, driven_torque, short_peak, short_angle, short_creep, stop_return,
    settling_time;
}
std::span<const Formula* const> stop_formulas();

} // namespace fulmox
