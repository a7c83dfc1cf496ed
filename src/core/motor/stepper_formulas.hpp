#pragma once
#include "core/working/formula.hpp"

#include <span>

namespace fulmox {

/// What a winding gives against one half coil driven alone (the unipolar rating): factors on torque per
/// ampere, rated current, resistance and inductance.
struct Connection {
  double constant = 1.0, current = 1.0, resistance = 1.0, inductance = 1.0;
};
/// "series": both half coils of a phase in a row; "parallel" (8 leads only); "half": one of them; "unipolar":
/// one of them at a time. Turns double in series: K·2, R·2, L·4; heat alone sets the current.
Connection connection_of(std::string_view name);

/// K = T_hold/(√2·I_rated): torque per ampere of one phase; I_rated in both phases at once. N·m/A.
double stepper_constant(double holding_torque, double rated_current);
/// √2·I: crest of the sine whose heat is that of I in both phases at once. A.
double crest_for_rated(double rated_current);
/// I/√2. A, rms of one phase.
double phase_rms(double crest);
/// I = max(f·I_set, |T_g|/K)/√2: rms of one phase where the load angle is controlled; f·I_set is kept without
/// load.
double phase_current_for(double air_gap, double constant, double least_share, double crest);
/// K·√2·I_rated/I_set: above the rating, where more current is not counted as more torque. N·m/A.
double constant_above_rating(double constant, double rated_current, double crest);
/// Rms of a phase where the field is turned ahead of the rotor to meet the voltage V (crest of a phase).
double turned_current(double air_gap, double k_torque, double k_emf, double resistance, double inductance,
                      double teeth, double speed, double volts);
/// Greatest air-gap torque with sine currents placed at will within a crest and a voltage. N·m.
double turned_torque(double k_torque, double k_emf, double resistance, double inductance, double teeth,
                     double crest, double volts, double speed);
/// f = 1/(2π)·√(N·T_hold/J): swing of the rotor in its magnetic spring; J > 0 with the load. Hz.
double step_resonance(double teeth, double holding_torque, double inertia);
/// ω = 2π·f/(4·N): the speed at which full steps come at a rate f. rad/s.
double speed_of_steps(double rate, double teeth);
/// f = ω·4·N·m/(2π): pulses a second at m microsteps a full step. Hz.
double pulse_rate(double speed, double teeth, double microsteps);
/// Greatest speed that can be started at once, finely microstepped and without damping:
/// N·ω = ω_0·√(4√(1−τ²) − 2τ(π − 2·asin τ)), ω_0² = N·T_hold/J, τ = friction/T_hold in 0…1. rad/s.
double pull_in_speed(double teeth, double holding_torque, double inertia, double friction);
/// δ = asin(T/T_hold)/N: how far the rotor hangs behind its field. rad.
double load_angle(double torque, double holding_torque, double teeth);
/// T·f: what is left of the holding torque at a standing current. N·m.
double standing_torque(double holding_torque, double share);

namespace book {
extern const Formula stepper_constant, crest_for_rated, phase_rms, phase_current_for, step_resonance,
    speed_of_steps, pulse_rate, pull_in_speed, load_angle, standing_torque, holding_torque, pull_out_torque,
    beyond_factor, constant_above_rating, turned_current, turned_torque;
}
std::span<const Formula* const> stepper_formulas();

} // namespace fulmox
