#include "core/drive/drive.hpp"

#include <array>
#include <cmath>

namespace fulmox {

const SectionSpec& drive_section() {
  static const SectionSpec spec{
      "drive",
      "Drive",
      {part_number_field(), maker_field(),
       optional("continuous_current", "Continuous current", "I_c", Kind::current, range::positive,
                "Rms line current."),
       optional("peak_current", "Peak current", "I_pk", Kind::current, range::positive, "Rms line current."),
       optional("peak_time", "Peak time", "t_pk", Kind::time, range::positive, "How long the peak may last."),
       optional("bus_min", "Lowest bus voltage", "V_min", Kind::voltage, range::positive, "DC bus."),
       optional("bus_max", "Highest bus voltage", "V_max", Kind::voltage, range::positive,
                "DC bus, operating."),
       optional("overvoltage", "Overvoltage trip", "V_ov", Kind::voltage, range::positive,
                "Bus voltage at which the drive switches off."),
       optional("capacitance", "Bus capacitance", "C", Kind::capacitance, range::positive, ""),
       optional("voltage_use", "Voltage use", "m", Kind::number, {0.0, 1.15, true},
                "Share of the bus a sine can use; blank means 0.95."),
       optional("standby", "Standby power", "P_0", Kind::power, range::not_negative, ""),
       optional("device_drop", "Device drop", "V_ce", Kind::voltage, range::not_negative,
                "Voltage lost in a power switch."),
       maybe_one_of("weakening", "Field weakening", {{"no", "no"}, {"yes", "yes"}}, ""), mass_field()}};
  return spec;
}

double torque_current(double torque, double kt_rms) { return std::abs(torque) / kt_rms; }
double terminal_power(double mechanical, double copper, double iron) { return mechanical + copper + iron; }
double drive_loss(double standby, double device_drop, double current_rms) {
  return standby + device_drop * 2.70 * current_rms;
}
double risen_voltage(double voltage, double energy, double capacitance) {
  return std::sqrt(voltage * voltage + 2.0 * energy / capacitance);
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

const Formula torque_current{
    "drive.current",
    "Line current",
    "I",
    "|{T}|/{Kt}",
    Kind::current,
    {{"T", "T", Kind::torque, "shaft torque with the motor's drag"},
     {"Kt", "Kt(rms)", Kind::torque_constant, "torque per rms ampere", range::positive}},
    "definition of the torque constant",
    calling<&fulmox::torque_current>};
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
} // namespace book

std::span<const Formula* const> drive_formulas() {
  static const std::array list{&book::torque_current, &book::terminal_power, &book::drive_loss,
                               &book::overload_limit, &book::bus_current,    &book::risen_voltage};
  return list;
}

const SlotSpec& drive_slot() {
  static const SlotSpec slot{
      "drive", "Drive", [] {
        return std::vector<SlotKind>{
            {.form = &drive_section(),
             .summary = &told_part,
             .prominent = {"continuous_current", "peak_current"},
             .library = "drives.csv",
             .columns = {"continuous_current", "peak_current", "bus_min", "bus_max", "overvoltage"}}};
      }};
  return slot;
}

Drive Drive::from(const Section& section) {
  Drive drive;
  drive.continuous_current = section.term("continuous_current");
  drive.peak_current = section.term("peak_current");
  drive.peak_time = section.term("peak_time");
  drive.voltage_use = section.term_or("voltage_use", 0.95);
  drive.standby = section.term_or("standby", 0.0);
  drive.device_drop = section.term_or("device_drop", 0.0);
  drive.capacitance = section.term("capacitance");
  drive.overvoltage = section.term("overvoltage");
  drive.bus_min = section.term("bus_min");
  drive.bus_max = section.term("bus_max");
  drive.weakening = section.text("weakening") == "yes";
  drive.chosen = !section.blank("peak_current") || !section.blank("continuous_current");
  return drive;
}

} // namespace fulmox
