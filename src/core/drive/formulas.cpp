#include "core/drive/formulas.hpp"

#include <algorithm>
#include <array>
#include <cmath>
#include <numbers>

namespace fulmox {

double voltage_limit(double bus, double use) { return use * bus / std::numbers::sqrt3; }
double terminal_power(double mechanical, double copper, double iron) { return mechanical + copper + iron; }
double drive_loss(double standby, double device_drop, double current_rms) {
  return standby + device_drop * 2.70 * current_rms;
}
double bridge_loss(double standby, double device_drop, double current) {
  return standby + 2.0 * device_drop * std::abs(current);
}
double stepper_loss(double standby, double device_drop, double current_rms) {
  // two phases, two switches each, mean of a rectified sine 2/π of its crest: 8√2/π = 3.60
  return standby + 8.0 * std::numbers::sqrt2 / std::numbers::pi * device_drop * current_rms;
}
double bridge_volts(double bus, double use, double device_drop) {
  return std::max(0.0, use * bus - 2.0 * device_drop);
}
double risen_voltage(double voltage, double energy, double capacitance) {
  return std::sqrt(voltage * voltage + 2.0 * energy / capacitance);
}
double current_swing(double voltage, double frequency, double inductance) {
  return voltage / (4.0 * frequency * inductance);
}
double overload_limit(double peak, double continuous, double time) {
  return (peak * peak - continuous * continuous) * time;
}

namespace {
double bus_current(double power, double voltage) { return power / voltage; }
} // namespace

namespace book {
namespace {
const Parameter current{"I", "I", Kind::current, "rms line current"};
const Parameter voltage{"V", "V", Kind::voltage, "bus voltage", range::positive};
} // namespace

const Formula terminal_power{"drive.terminal_power",
                             "Power at the motor terminals",
                             "P",
                             "{P_m} + {P_cu} + {P_fe}",
                             Kind::power,
                             {{"P_m", "T·ω", Kind::power, "mechanical power"},
                              {"P_cu", "P_cu", Kind::power, "copper loss", range::not_negative},
                              {"P_fe", "P_Fe", Kind::power, "friction and iron loss", range::not_negative}},
                             "power balance",
                             calling<&fulmox::terminal_power>};
const Formula drive_loss{"drive.loss",
                         "Loss of the drive",
                         "P_d",
                         "{P_0} + 2.70·{V_ce}·{I}",
                         Kind::power,
                         {{"P_0", "P_0", Kind::power, "standby power", range::not_negative},
                          {"V_ce", "V_ce", Kind::voltage, "voltage across a switch", range::not_negative},
                          current},
                         "mean of three rectified sines, 6√2/π = 2.70",
                         calling<&fulmox::drive_loss>};
const Formula risen_voltage{"supply.risen_voltage",
                            "Bus voltage after returned energy",
                            "V_1",
                            "√({V}² + 2·{E}/{C})",
                            Kind::voltage,
                            {voltage,
                             {"E", "E", Kind::energy, "energy returned at once", range::not_negative},
                             {"C", "C", Kind::capacitance, "bus capacitance", range::positive}},
                            "energy of a capacitor",
                            calling<&fulmox::risen_voltage>};
const Formula overload_limit{"drive.overload_limit",
                             "Overload a drive allows",
                             "E_trip",
                             "({I_pk}² − {I_c}²)·{t_pk}",
                             Kind::current_squared_time,
                             {{"I_pk", "I_pk", Kind::current, "peak current", range::positive},
                              {"I_c", "I_c", Kind::current, "continuous current", range::positive},
                              {"t_pk", "t_pk", Kind::time, "time allowed at peak", range::positive}},
                             "I²t integrator, common practice",
                             calling<&fulmox::overload_limit>};
const Formula bus_current{"supply.current", "Current from the bus",
                          "I_bus",          "{P}/{V}",
                          Kind::current,    {{"P", "P", Kind::power, "power from the bus"}, voltage},
                          "power balance",  calling<&fulmox::bus_current>};
const Formula voltage_limit{"envelope.voltage_limit",
                            "Phase voltage the drive can make",
                            "V",
                            "{m}·{V_bus}/√3",
                            Kind::voltage,
                            {{"V_bus", "V_bus", Kind::voltage, "bus voltage", range::positive},
                             {"m", "m", Kind::number, "voltage use of the drive", {0.0, 1.15, true}}},
                            "sine with third harmonic",
                            calling<&fulmox::voltage_limit>};
const Formula bridge_loss{"drive.bridge_loss",
                          "Loss of the drive",
                          "P_d",
                          "{P_0} + 2·{V_ce}·|{I}|",
                          Kind::power,
                          {{"P_0", "P_0", Kind::power, "standby power", range::not_negative},
                           {"V_ce", "V_ce", Kind::voltage, "voltage across a switch", range::not_negative},
                           {"I", "I", Kind::current, "direct current"}},
                          "two switches carry the current",
                          calling<&fulmox::bridge_loss>};
const Formula stepper_loss{"drive.stepper_loss",
                           "Loss of a stepper drive",
                           "P_d",
                           "{P_0} + 3.60·{V_ce}·{I}",
                           Kind::power,
                           {{"P_0", "P_0", Kind::power, "standby power", range::not_negative},
                            {"V_ce", "V_ce", Kind::voltage, "voltage across a switch", range::not_negative},
                            {"I", "I", Kind::current, "rms current of a phase", range::not_negative}},
                           "two phases, two switches each, mean of a rectified sine: 8√2/π = 3.60",
                           calling<&fulmox::stepper_loss>};
const Formula bridge_volts{"envelope.bridge_volts",
                           "Volts the drive can put between two leads",
                           "V",
                           "{m}·{V} − 2·{V_ce}",
                           Kind::voltage,
                           {voltage,
                            {"m", "m", Kind::number, "greatest duty", {0.0, 1.0, true}},
                            {"V_ce", "V_ce", Kind::voltage, "voltage across a switch", range::not_negative}},
                           "two switches carry the current",
                           calling<&fulmox::bridge_volts>};
} // namespace book

std::span<const Formula* const> drive_formulas() {
  static const std::array list{&book::terminal_power, &book::drive_loss,    &book::overload_limit,
                               &book::bus_current,    &book::risen_voltage, &book::voltage_limit,
                               &book::bridge_loss,    &book::bridge_volts,  &book::stepper_loss};
  return list;
}

} // namespace fulmox
