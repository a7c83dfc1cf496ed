#include "core/drive/drive_fields.hpp"

#include "core/mounting/mounting.hpp"

#include <iterator>
#include <utility>

namespace fulmox {

FieldSpec standby_field() {
  return optional("standby", "Standby power", "P_0", Kind::power, range::not_negative, "");
}

FieldSpec device_drop_field() {
  return optional("device_drop", "Device drop", "V_ce", Kind::voltage, range::not_negative,
                  "Voltage lost in a power switch.");
}

std::vector<FieldSpec> overload_currents(std::string_view amperes) {
  return {
      optional("continuous_current", "Continuous current", "I_c", Kind::current, range::positive, amperes),
      optional("peak_current", "Peak current", "I_pk", Kind::current, range::positive, amperes),
      optional("peak_time", "Peak time", "t_pk", Kind::time, range::positive, "How long the peak may last."),
      optional("current_limit", "Peak current set", "I_set", Kind::current, range::positive,
               "What the drive is set to at most, to spare gearhead and coupling. Blank: its own peak.")
          .as_setting()};
}

std::vector<FieldSpec> drive_fields(std::vector<FieldSpec> currents, std::vector<FieldSpec> own) {
  std::vector<FieldSpec> all{part_number_field(), maker_field()};
  const auto add = [&](std::vector<FieldSpec> more) {
    all.insert(all.end(), std::make_move_iterator(more.begin()), std::make_move_iterator(more.end()));
  };
  add(std::move(currents));
  add({optional("bus_min", "Lowest bus voltage", "V_min", Kind::voltage, range::positive, "DC bus."),
       optional("bus_max", "Highest bus voltage", "V_max", Kind::voltage, range::positive,
                "DC bus, operating."),
       optional("overvoltage", "Overvoltage trip", "V_ov", Kind::voltage, range::positive,
                "Bus voltage at which the drive switches off."),
       optional("capacitance", "Bus capacitance", "C", Kind::capacitance, range::positive, "")});
  add({optional(
           "brake_power", "Brake resistor", "P_br", Kind::power, range::positive,
           "The most that a resistor, built in or outside, takes off the bus for a moment. Blank: none."),
       optional("switching", "Switching frequency", "f_pwm", Kind::frequency, range::positive,
                "Of its bridge: with a motor of little inductance the current ripples."),
       optional("rated_ambient", "Full current up to", "T_max", Kind::temperature, {223.15, 423.15},
                "Ambient temperature above which it gives less."),
       optional("rated_altitude", "Full current below", "h_max", Kind::length, {0.0, 10000.0},
                "Altitude above which it gives less: 1000 m usually (from memory).")});
  add(std::move(own));
  add({reads_feedback_field(),
       optional("brake_volts", "Brake output", "V_b", Kind::voltage, range::positive,
                "Voltage of its output for a holding brake. Blank: none, or not told.")});
  return with_trade_fields(std::move(all));
}

std::vector<Problem> check_drive_sheet(const Section& sheet) {
  const auto told = read_feedbacks(sheet.text("reads"));
  return told ? std::vector<Problem>{} : std::vector<Problem>{told.problem()};
}

} // namespace fulmox
