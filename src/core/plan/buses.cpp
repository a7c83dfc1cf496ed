#include "core/plan/buses.hpp"

#include <algorithm>
#include <array>
#include <cmath>

namespace fulmox {
namespace {

using Fields = std::vector<FieldSpec>;

void add(Fields& to, Fields more) {
  for (FieldSpec& field : more) to.push_back(std::move(field));
}

FieldSpec name_field() { return written("name", "Name", "Bus", "As axes and loads call it."); }

/// What stands on every bus beside the supply.
Fields bus_fields() {
  return {
      optional("capacitance", "Capacitors on the bus", "C", Kind::capacitance, range::positive,
               "Beside those in the drives."),
      optional("capacitor_volts", "… rated for", "", Kind::voltage, range::positive, ""),
      optional("capacitor_ripple", "… ripple current", "", Kind::current, range::positive,
               "Rms, at the temperature they get."),
      optional("bleeder", "Bleeder", "", Kind::resistance, range::positive,
               "Discharges the bus after switch-off. Blank: none told; the bus stays charged for long."),
      optional("chopper_on", "Chopper on at", "V_on", Kind::voltage, range::positive,
               "Burns in a resistor what comes back. Blank: no chopper."),
      optional("chopper_off", "… off at", "V_off", Kind::voltage, range::positive,
               "Below the voltage at which it goes on."),
      optional("chopper_current", "… current", "", Kind::current, range::positive,
               "Most it may switch; sets the least resistor."),
      optional("resistor", "Brake resistor", "R", Kind::resistance, range::positive, ""),
      optional("resistor_power", "… continuous", "", Kind::power, range::positive, ""),
      optional("resistor_peak", "… peak", "", Kind::power, range::positive, "For a moment."),
      optional("resistor_pulse", "… energy of a pulse", "", Kind::energy, range::positive,
               "From its sheet, for short pulses: gives how fast it heats."),
      optional("cable_length", "Cable length", "ℓ", Kind::length, range::positive,
               "From the supply to the drives, one way."),
      optional("cable_area", "… cross-section", "A", Kind::area, range::positive,
               "An estimate of drop and heat follows. Fuses, wires and protection follow the local code."),
      optional("inductance", "Inductance of the source", "L", Kind::inductance, range::not_negative,
               "Cable 0.5 to 1 µH a metre of go and return (from memory), chokes more."),
      optional("price", "Price", "", Kind::number, range::not_negative, "")};
}

FieldSpec phases_field() { return one_of("phases", "Phases", {{"1", "one"}, {"3", "three"}}, ""); }

/// What the mains are.
Fields mains_fields() {
  return {usually("frequency", "Mains frequency", "f", Kind::frequency, {40.0, 440.0}, "50 Hz", ""),
          usually("swing", "Mains varies by", "±", Kind::share, {0.0, 0.3}, "10 %", "IEC 60038: ±10 %."),
          usually("drop", "Diodes in the path", "V_d", Kind::voltage, range::not_negative, "1.8 V",
                  "Two at 0.8 to 1.1 V (from memory).")};
}

Fields part_fields() { return {part_number_field(), maker_field()}; }

} // namespace

std::vector<FieldSpec> regulated_supply_fields() {
  Fields fields = part_fields();
  add(fields, {needed("volts", "Voltage set", "V_s", Kind::voltage, range::positive, "48 V", ""),
               usually("droop", "Droop", "R_s", Kind::resistance, range::positive, "20 mΩ",
                       "Volts an ampere takes off it, the cable beside it. 1 to 100 mΩ (from memory)."),
               optional("limit", "Current limit", "I_lim", Kind::current, range::positive,
                        "The most it gives, not what it is rated for. Blank: none told."),
               one_of("overload", "In overload",
                      {{"constant", "gives its limit on"},
                       {"foldback", "gives less the lower the voltage"},
                       {"hiccup", "switches off for a while"}},
                      "Switching off is the usual cause of a bus that will not start."),
               optional("short_current", "… into a short", "I_sc", Kind::current, range::positive,
                        "Foldback; below the limit."),
               optional("trip_time", "… switches off after", "", Kind::time, range::positive, "Hiccup."),
               optional("off_time", "… for", "", Kind::time, range::positive, "Hiccup."),
               optional("power", "Continuous power", "", Kind::power, range::positive, ""),
               optional("peak", "Peak power", "", Kind::power, range::positive, ""),
               optional("peak_time", "… for", "", Kind::time, range::positive,
                        "Blank: the peak is compared with every moment."),
               optional("sink", "Takes back", "I_sink", Kind::current, range::not_negative,
                        "Blank or 0: nothing, as most."),
               optional("backfed_trip", "Trips when fed back at", "", Kind::voltage, range::positive,
                        "Many do at 1.15 to 1.4 times their voltage (from memory): ask."),
               usually("efficiency", "Efficiency", "η", Kind::share, range::efficiency, "90 %", "")});
  return fields;
}

std::vector<FieldSpec> transformer_fields() {
  Fields fields = part_fields();
  add(fields,
      {needed("volts", "Secondary, rated", "V_r", Kind::voltage, range::positive, "36 V", "Rms, under load."),
       needed("amps", "… current", "I_r", Kind::current, range::positive, "10 A",
              "Rms; volts times amperes are its VA, three-phase times √3."),
       needed("regulation", "Regulation", "ε", Kind::share, {0.0, 0.5, true, false}, "10 %",
              "Rise without load: real, and on top of the mains' own."),
       one_of("quoted", "… quoted on",
              {{"rated", "the rated voltage"}, {"no_load", "the voltage without load"}},
              "Ask where the sheet does not say."),
       phases_field()});
  return fields;
}

const SectionSpec& regulated_bus_section() {
  static const SectionSpec spec = [] {
    Fields fields{name_field()};
    add(fields, regulated_supply_fields());
    add(fields,
        {optional("derating", "Share left at its place", "", Kind::share, range::efficiency,
                  "In heat and altitude: above 40 to 50 °C about 2.5 % a kelvin less, above 1000 m about 1 % "
                  "for 100 m (from memory: ask). Blank: all of it.")});
    add(fields, bus_fields());
    return SectionSpec{"regulated", "Regulated supply", std::move(fields)};
  }();
  return spec;
}

const SectionSpec& transformer_bus_section() {
  static const SectionSpec spec = [] {
    Fields fields{name_field()};
    add(fields, transformer_fields());
    add(fields, mains_fields());
    add(fields, {optional("derating", "Share left at its place", "", Kind::share, range::efficiency,
                          "In heat and altitude. Blank: all of it.")});
    add(fields, bus_fields());
    return SectionSpec{"transformer", "Transformer and rectifier", std::move(fields)};
  }();
  return spec;
}

const SectionSpec& mains_bus_section() {
  static const SectionSpec spec = [] {
    Fields fields{name_field()};
    add(fields, {needed("volts", "Mains", "V", Kind::voltage, range::positive, "230 V",
                        "Rms; three-phase between lines. Not isolated: for licensed people."),
                 usually("source", "Resistance of the source", "R_s", Kind::resistance, range::positive,
                         "0.4 Ω", "Mains, cable and choke; three-phase two of them in series."),
                 phases_field()});
    add(fields, mains_fields());
    add(fields,
        {optional("precharge", "Precharge resistor", "", Kind::resistance, range::positive,
                  "Limits the current at switch-on. Blank: none."),
         optional("power", "Continuous power", "", Kind::power, range::positive, "Of the rectifier.")});
    add(fields, bus_fields());
    return SectionSpec{"mains", "Rectified mains", std::move(fields)};
  }();
  return spec;
}

std::span<const SectionSpec* const> bus_sections() {
  static const std::array all{&regulated_bus_section(), &transformer_bus_section(), &mains_bus_section()};
  return all;
}

bool stays_with_bus(std::string_view field) {
  static const std::vector<std::string> of_bus = [] {
    std::vector<std::string> ids{"name", "derating"};
    for (const Fields& fields : {bus_fields(), mains_fields()})
      for (const FieldSpec& one : fields)
        if (one.id != "price") ids.emplace_back(one.id);
    return ids;
  }();
  return std::find(of_bus.begin(), of_bus.end(), field) != of_bus.end();
}

std::optional<OverloadFault> overload_fault(const Section& s) {
  const std::string& overload = s.text("overload");
  const double limit = s.term("limit"), shorted = s.term("short_current");
  if (overload == "foldback" && std::isnan(shorted))
    return OverloadFault{"short_current", "a supply that folds back needs its current into a short.",
                         "Type it."};
  if (overload != "constant" && std::isnan(limit))
    return OverloadFault{"limit", "what it does in overload needs its current limit.", "Type the limit."};
  if (overload == "foldback" && shorted > limit)
    return OverloadFault{"short_current", "it is above the current limit.", "A supply folds back to less."};
  for (const char* time : {"trip_time", "off_time"})
    if (overload == "hiccup" && std::isnan(s.term(time).value))
      return OverloadFault{time, "a supply that switches off needs the times after which and for which.",
                           "Type both."};
  return std::nullopt;
}

} // namespace fulmox
