#pragma once
#include "core/working/formula.hpp"

#include <span>

namespace fulmox {

/// ω = 2π·v/p in rad/s; v in m/s, lead p > 0 in m per turn.
double screw_speed(double speed, double lead);
/// α = 2π·a/p in rad/s².
double screw_acceleration(double acceleration, double lead);
/// T = F·p/(2π·η) in N·m when the screw drives the load; 0 < η <= 1.
double screw_torque_driving(double force, double lead, double efficiency);
/// T = F·p·η_b/(2π) when the load drives the screw; η_b <= 1, negative for a self-locking screw.
double screw_torque_backdriven(double force, double lead, double back_efficiency);
/// T = F·p/(2π) at rest, friction not counted as help.
double screw_torque_rest(double force, double lead);
/// η_b = 2 − 1/η, approximate, up to 7 % low; negative below η = 0.5.
double screw_back_efficiency(double efficiency);
/// J = (π/32)·ρ·L·d⁴ in kg·m²: solid cylinder of the nominal diameter.
double screw_inertia(double density, double length, double diameter);
/// J = m·(p/2π)² in kg·m²: the moved mass as seen by the screw.
double screw_load_inertia(double mass, double lead);
/// T = 0.05/√tanλ·F_pl·p/2π, empirical (from memory): drag of a nut preloaded with F_pl >= 0 N.
double screw_preload_drag(double preload, double lead, double diameter);
/// η of a sliding thread driving its load: friction μ, lead p, mean diameter d_m, flank half-angle α in rad.
double power_screw_efficiency(double friction, double lead, double diameter, double flank);
/// η_b of a sliding thread driven by its load; <= 0 means it locks itself.
double power_screw_back_efficiency(double friction, double lead, double diameter, double flank);
/// T = s·|F|·μ_c·d_c/2: friction of a plain thrust collar.
double collar_torque(double direction, double force, double friction, double diameter);

namespace book {
extern const Formula screw_speed, screw_acceleration, screw_torque_driving, screw_torque_backdriven,
    screw_torque_rest, screw_back_efficiency, screw_inertia, screw_load_inertia, screw_preload_drag,
    power_screw_efficiency, power_screw_back_efficiency, collar_torque;
}
std::span<const Formula* const> screw_formulas();

} // namespace fulmox
