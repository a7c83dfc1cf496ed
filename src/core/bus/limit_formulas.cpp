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
} // namespace book

std::span<const Formula* const> bus_limit_formulas() {
  static const std::array list{&book::mean_of_cycle,  &book::share_of_power, &book::share_of_voltage,
                               &book::resistor_power, &book::apparent_power, &book::rms_without_mean,
                               &book::voltage_drop};
  return list;
}

} // namespace fulmox
