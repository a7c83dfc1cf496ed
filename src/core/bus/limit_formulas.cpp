#include "core/bus/limit_formulas.hpp"

#include <algorithm>
#include <array>
#include <cmath>
#include <numbers>

namespace fulmox {

double mean_of_cycle(double joules, double cycle) { return joules / cycle; }
double share_of_power(double watts, double share) { return watts * share; }
double share_of_voltage(double volts, double share) { return volts * share; }
double resistor_power(double volts, double resistance) { return volts * volts / resistance; }
double apparent_power(double volts, double amps, double phases) {
  return (phases == 3.0 ? std::numbers::sqrt3 : 1.0) * volts * amps;
}
double rms_without_mean(double rms, double mean) { return std::sqrt(std::max(0.0, rms * rms - mean * mean)); }
double voltage_drop(double amps, double resistance) { return amps * resistance; }
double energy_of_power(double watts, double seconds) { return watts * seconds; }
double stop_need(double unnoticed, double slowing, double others, double holding) {
  return unnoticed + slowing + others + holding;
}
double stored_between(double capacitance, double high, double low) {
  return std::max(0.0, 0.5 * capacitance * (high + low) * (high - low));
}

namespace book {
const Formula mean_of_cycle{"bus.mean_of_cycle",
                            "Mean power over the cycle",
                            "P",
                            "{E}/{T}",
                            Kind::power,
                            {{"E", "E", Kind::energy, "energy of a cycle"},
                             {"T", "T", Kind::time, "cycle of the machine", range::positive}},
                            "definition",
                            calling<&fulmox::mean_of_cycle>};
const Formula share_of_power{"bus.share_of_power",
                             "Share of a power",
                             "P",
                             "{P}·{k}",
                             Kind::power,
                             {{"P", "P", Kind::power, "the whole power"},
                              {"k", "k", Kind::share, "share that may be used", range::not_negative}},
                             "definition",
                             calling<&fulmox::share_of_power>};
const Formula share_of_voltage{"bus.share_of_voltage",
                               "Share of a voltage",
                               "V",
                               "{V}·{k}",
                               Kind::voltage,
                               {{"V", "V", Kind::voltage, "the whole voltage"},
                                {"k", "k", Kind::share, "share of it", range::not_negative}},
                               "definition",
                               calling<&fulmox::share_of_voltage>};
const Formula resistor_power{"resistor.power",
                             "Power of the brake resistor",
                             "P",
                             "{V}²/{R}",
                             Kind::power,
                             {{"V", "V", Kind::voltage, "voltage of the bus"},
                              {"R", "R", Kind::resistance, "brake resistor", range::positive}},
                             "power of a resistor",
                             calling<&fulmox::resistor_power>};
const Formula apparent_power{"supply.apparent",
                             "Apparent power of the transformer",
                             "S",
                             "{V_r}·{I}; three phases √3 of it",
                             Kind::power,
                             {{"V_r", "V_r", Kind::voltage, "rated voltage of the secondary"},
                              {"I", "I", Kind::current, "rms current of the winding", range::not_negative},
                              {"n", "n", Kind::number, "phases, 1 or 3", range::positive}},
                             "apparent power",
                             calling<&fulmox::apparent_power>};
const Formula rms_without_mean{"bus.rms_without_mean",
                               "Ripple current into the capacitors",
                               "I_C",
                               "√({I_rms}² − {I_mean}²)",
                               Kind::current,
                               {{"I_rms", "I_rms", Kind::current, "rms of the rectifier's pulses"},
                                {"I_mean", "I_mean", Kind::current, "their mean"}},
                               "a mean flows on into the drives, the rest through the capacitors",
                               calling<&fulmox::rms_without_mean>};
const Formula voltage_drop{"bus.voltage_drop",
                           "Drop in the cable",
                           "ΔV",
                           "{I}·{R}",
                           Kind::voltage,
                           {{"I", "I", Kind::current, "greatest current"},
                            {"R", "R", Kind::resistance, "cable there and back, warm", range::not_negative}},
                           "Ohm's law",
                           calling<&fulmox::voltage_drop>};
const Formula energy_of_power{"bus.energy_of_power",
                              "Energy of a power over a time",
                              "E",
                              "{P}·{t}",
                              Kind::energy,
                              {{"P", "P", Kind::power, "power"}, {"t", "t", Kind::time, "time"}},
                              "definition",
                              calling<&fulmox::energy_of_power>};
const Formula stop_need{"bus.stop_need",
                        "Energy a controlled stop needs",
                        "E",
                        "{E_n} + {E_s} + {E_o} + {E_h}",
                        Kind::energy,
                        {{"E_n", "E_n", Kind::energy, "until the loss is noticed"},
                         {"E_s", "E_s", Kind::energy, "of all axes slowing down"},
                         {"E_o", "E_o", Kind::energy, "of all else on the bus meanwhile"},
                         {"E_h", "E_h", Kind::energy, "holding until the brakes have closed"}},
                        "balance of energy; what comes back counts for nothing",
                        calling<&fulmox::stop_need>};
const Formula stored_between{"bus.stored_between",
                             "Energy of the capacitors between two voltages",
                             "E",
                             "½·{C}·({V}² − {V_0}²)",
                             Kind::energy,
                             {{"C", "C", Kind::capacitance, "all on the bus", range::positive},
                              {"V", "V", Kind::voltage, "the higher voltage"},
                              {"V_0", "V_0", Kind::voltage, "the lower voltage"}},
                             "energy of a capacitor",
                             calling<&fulmox::stored_between>};
} // namespace book

std::span<const Formula* const> bus_limit_formulas() {
  static const std::array list{&book::mean_of_cycle,  &book::share_of_power,  &book::share_of_voltage,
                               &book::resistor_power, &book::apparent_power,  &book::rms_without_mean,
                               &book::voltage_drop,   &book::energy_of_power, &book::stop_need,
                               &book::stored_between};
  return list;
}

} // namespace fulmox
