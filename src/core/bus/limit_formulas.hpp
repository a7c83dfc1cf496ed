#pragma once
#include "core/working/formula.hpp"

#include <span>

namespace fulmox {

/// W on the mean of an energy over a cycle. J, s.
double mean_of_cycle(double joules, double cycle);
/// A share of a power, as of a rating at its place or what a house rule leaves of a bound. W.
double share_of_power(double watts, double share);
/// A share of a voltage, as a house rule on ripple or drop asks. V.
double share_of_voltage(double volts, double share);
/// W burnt by a resistor across the bus: V²/R.
double resistor_power(double volts, double resistance);
/// VA of a transformer whose winding carries an rms current at its rated voltage; three phases: √3 of it.
double apparent_power(double volts, double amps, double phases);
/// A rms of a pulsed current without its mean: √(I_rms² − I̅²), not below 0.
double rms_without_mean(double rms, double mean);
/// V lost in a resistance.
double voltage_drop(double amps, double resistance);
/// J of a power over a time.
double energy_of_power(double watts, double seconds);
/// J that a controlled stop takes out of a bus: until it is noticed, while all slow down, for what else hangs
/// on the bus, for holding until the brakes have closed.
double stop_need(double unnoticed, double slowing, double others, double holding);
/// J between two voltages of a capacitance: ½C(V² − V_0²); not below 0. F, V, V.
double stored_between(double capacitance, double high, double low);

namespace book {
extern const Formula mean_of_cycle, share_of_power, share_of_voltage, resistor_power, apparent_power,
    rms_without_mean, voltage_drop, energy_of_power, stop_need, stored_between;
}
std::span<const Formula* const> bus_limit_formulas();

} // namespace fulmox
