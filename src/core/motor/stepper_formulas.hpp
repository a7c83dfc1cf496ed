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
/// √(2·k)·I: crest of the sine whose heat is that of I in a share k of the phases at once (all of two phases;
/// four of five). A.
double crest_for_rated(double rated_current, double share_on = 1.0);
/// K = 2.5·T_hold/(v·I_rated): torque per ampere of sine currents in five phases; v = 3.078 phases' worth
/// with four on, 3.236 with five. N·m/A.
double five_phase_constant(double holding_torque, double rated_current, double worth);
/// Crest of a phase's voltage with sines from a bus: k = ½ in a star, ½·2·sin 72° or ½·2·sin 36° in a
/// pentagon whose phases lie between legs 144° or 72° apart; 1 on full bridges. V.
double phase_volts(double volts, double share);
/// What the trade takes for the supply: both phases at the current set, 2·I. A.
double supply_for_both(double crest);
/// The same where it microsteps: × 0.707, as the phases share. A.
double supply_for_fine(double crest);
/// f·R·I_rated: the school that multiplies the winding's rated voltage, 10 to 15 times. V.
double school_rated(double factor, double resistance, double rated_current);
/// 32·√L with L in mH: the school of the inductance, an upper bound. V.
double school_inductance(double inductance);
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
/// ω = 2π·f/S: the speed at which full steps, S a turn, come at a rate f. rad/s.
double speed_of_steps(double rate, double steps);
/// f = ω·S·m/(2π): pulses a second at S full steps a turn, m microsteps each. Hz.
double pulse_rate(double speed, double steps, double microsteps);
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
    beyond_factor, constant_above_rating, turned_current, turned_torque, five_phase_constant, phase_volts,
    supply_for_both, supply_for_fine, school_rated, school_inductance;
}
std::span<const Formula* const> stepper_formulas();

} // namespace fulmox
