#pragma once
#include "core/working/formula.hpp"

#include <span>

namespace fulmox {

/// V at which a supply V_s behind R_s rests under a constant power: (V_s + √(V_s² − 4·R_s·P))/2; NaN where
/// none exists. V, Ω > 0, W.
double rest_voltage(double volts, double resistance, double watts);
/// s in which C falls from V0 to V1 < V0 under a constant power P > 0 without supply: C·(V0² − V1²)/(2P).
double holdup_time(double capacitance, double from, double to, double watts);
/// s from V0 to V1 under a constant current I into C and a constant power P out of it; NaN where the bus
/// rests between them (at P/I). Either way.
double constant_current_time(double capacitance, double from, double to, double amps, double watts);
/// s in which C empties into R from V0 to V1: R·C·ln(V0/V1).
double discharge_time(double capacitance, double resistance, double from, double to);
/// Hz at which a chopper switches while P > 0 comes back and nothing else flows: up C(V_on² − V_off²)/(2P),
/// down RC/2·ln((V_on² − PR)/(V_off² − PR)); 0 where it stays on, V_off² <= P·R.
double chopper_frequency(double capacitance, double on, double off, double resistance, double watts);
/// Share of the time a chopper is on under the same; 1 where it stays on.
double chopper_duty(double capacitance, double on, double off, double resistance, double watts);

/// Mean current of a rectifier at a steady voltage V. With β = arccos((V + V_d)/V_pk), at most π/2 (three
/// phases: π/6): [V_pk·sin β − (V + V_d)·β]/(β_0·R_s). A; V, V, Ω, V; phases 1 or 3.
double rectifier_mean(double crest, double drop, double resistance, double volts, int phases);
/// Rms of its pulses: √([V_pk²(β/2 + sin2β/4) − 2V_pk(V + V_d)·sin β + (V + V_d)²·β]/(β_0·R_s²)). A.
double rectifier_rms(double crest, double drop, double resistance, double volts, int phases);
/// V peak to peak of a rectifier's ripple under a constant current, the charge above the mean current with V
/// held: optimistic above a tenth of V.
double rectifier_ripple(double crest, double drop, double resistance, double volts, double amps,
                        double capacitance, double frequency, int phases);
/// I/(2fC), three phases I/(6fC): not below the ripple. V.
double ripple_bound(double amps, double frequency, double capacitance, double phases);

/// No-load crest of a transformer: √2·V_r·(1 + ε), ε its regulation on the rated voltage. V.
double transformer_crest(double rated, double regulation);
/// Ω behind its rectifier: ε·V_r/I_r, three-phase 2ε·V_r/(√3·I_r).
double transformer_resistance(double rated, double regulation, double amps, double phases);

/// W below which a constant power behind R, L and C with ESR r is stable: the least of V²·(R + r)C/(L +
/// R·r·C), V²/R and V²/r.
double stable_power(double volts, double resistance, double inductance, double capacitance, double esr);
/// Ω, the least brake resistor a chopper of that current may switch at that voltage: V/I.
double least_resistor(double volts, double amps);
/// Ω, the most that keeps a bus below its trip for ever while P > 0 comes back: V²/P.
double most_resistor(double volts, double watts);
/// F that swallow W joules between two voltages: 2W/(V_1² − V_0²).
double capacitance_for(double joules, double from, double to);
/// Ω of a cable there and back: 2·ℓ·ρ/A, ρ 0.0172 Ω·mm²/m at 20 °C and +0.393 %/K. m, m², K.
double wire_resistance(double length, double area, double temperature);

namespace book {
extern const Formula rest_voltage, holdup_time, discharge_time, transformer_crest, transformer_resistance,
    ripple_bound, least_resistor, most_resistor, capacitance_for, stable_power;
}
std::span<const Formula* const> bus_formulas();

} // namespace fulmox
