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

namespace book {
extern const Formula mean_of_cycle, share_of_power, share_of_voltage, resistor_power, apparent_power,
    rms_without_mean, voltage_drop;
}
std::span<const Formula* const> bus_limit_formulas();

} // namespace fulmox
