#include "core/supply/surroundings.hpp"

namespace fulmox {

const SectionSpec& surroundings_section() {
  static const SectionSpec spec{
      "surroundings", "Surroundings and bus",
      with_trade_fields(
          {needed("ambient", "Ambient temperature", "T_amb", Kind::temperature, {223.15, 423.15}, "40 °C",
                  "Of the air around the motor.")
               .as_setting(),
           needed("altitude", "Altitude", "h", Kind::length, {-500.0, 10000.0}, "0 m", "Thin air cools less.")
               .as_setting(),
           one_of("mounting", "Motor mounted on",
                  {{"plate", "metal plate as in the data sheet"},
                   {"thin", "thin steel"},
                   {"plastic", "plastic, or hanging free"}},
                  "Data sheets assume an aluminium plate of some 250 × 250 × 6 mm (from memory); what leads "
                  "less "
                  "heat "
                  "away makes the motor hotter.")
               .as_setting(),
           part_number_field(),
           optional("bus", "Bus voltage", "V_bus", Kind::voltage, range::positive, "DC, at the drive."),
           optional("bus_low", "Lowest bus voltage", "V_low", Kind::voltage, range::positive,
                    "Mains low and sagging under load. Blank means 10 % below."),
           optional("bus_high", "Highest bus voltage", "V_high", Kind::voltage, range::positive,
                    "Mains high, no load. Blank means 10 % above."),
           optional("supply_current", "Supply, continuous", "I_s", Kind::current, range::positive,
                    "DC current the supply can give all day."),
           optional("supply_peak", "Supply, peak", "I_s,pk", Kind::current, range::positive,
                    "DC current it can give for a moment."),
           maker_field(),
           written("shared_bus", "On the machine's bus", "",
                   "Name of a bus of the machine. Then the supply is judged with all its axes: see Machine. "
                   "Blank: this axis alone, as above.")
               .as_setting(),
           written("brake_bus", "Brake coil on bus", "", "Usually one of 24 V. Blank: not counted.")
               .as_setting(),
           one_of(
               "waiting", "While it waits",
               {{"holding", "the motor holds"}, {"braked", "brake closed, no torque"}, {"off", "torque off"}},
               "Between its own cycle and the next, in the machine's cycle. With torque off a load may "
               "fall.")
               .as_setting()})};
  return spec;
}

const SlotSpec& surroundings_slot() {
  static const SlotSpec slot{
      "surroundings", "Surroundings and bus",
      [] {
        return std::vector<SlotKind>{
            {.form = &surroundings_section(),
             .summary =
                 [](const Section& section) {
                   return summary_of_fields(section, {"bus", "ambient"});
                 },
             .prominent = {"ambient", "bus", "supply_current", "supply_peak"},
             .library = "supplies.csv",
             .columns = {"bus", "bus_low", "bus_high", "supply_current", "supply_peak", "price"}}};
      },
      ChosenBy::part, "Supply"};
  return slot;
}

Surroundings Surroundings::from(const Section& section) {
  Surroundings s;
  s.ambient = section.term("ambient");
  s.altitude = section.term("altitude");
  const std::string& mounting = section.text("mounting");
  s.mounting = {mounting == "plastic" ? 1.8 : mounting == "thin" ? 1.5 : 1.0, "surroundings.mounting"};
  s.bus = section.term("bus");
  // mains ±10 %: IEC 60038 tolerance of the supply voltage
  s.bus_low = section.term_or("bus_low", 0.9 * s.bus);
  s.bus_high = section.term_or("bus_high", 1.1 * s.bus);
  s.supply_current = section.term("supply_current");
  s.supply_peak = section.term("supply_peak");
  s.shared = !section.blank("shared_bus");
  return s;
}

} // namespace fulmox
