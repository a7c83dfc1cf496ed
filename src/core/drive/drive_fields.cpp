#include "core/drive/drive_fields.hpp"

#include <iterator>

namespace fulmox {

FieldSpec standby_field() {
  return optional("standby", "Standby power", "P_0", Kind::power, range::not_negative, "");
}

FieldSpec device_drop_field() {
  return optional("device_drop", "Device drop", "V_ce", Kind::voltage, range::not_negative,
                  "Voltage lost in a power switch.");
}

std::vector<FieldSpec> drive_fields(std::string_view amperes, std::vector<FieldSpec> own) {
  std::vector<FieldSpec> all{
      part_number_field(),
      maker_field(),
      optional("continuous_current", "Continuous current", "I_c", Kind::current, range::positive, amperes),
      optional("peak_current", "Peak current", "I_pk", Kind::current, range::positive, amperes),
      optional("peak_time", "Peak time", "t_pk", Kind::time, range::positive, "How long the peak may last."),
      optional("bus_min", "Lowest bus voltage", "V_min", Kind::voltage, range::positive, "DC bus."),
      optional("bus_max", "Highest bus voltage", "V_max", Kind::voltage, range::positive,
               "DC bus, operating."),
      optional("overvoltage", "Overvoltage trip", "V_ov", Kind::voltage, range::positive,
               "Bus voltage at which the drive switches off."),
      optional("capacitance", "Bus capacitance", "C", Kind::capacitance, range::positive, "")};
  all.insert(all.end(), std::make_move_iterator(own.begin()), std::make_move_iterator(own.end()));
  all.push_back(mass_field());
  return all;
}

} // namespace fulmox
