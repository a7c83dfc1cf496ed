#include "core/machine/bus_data.hpp"

#include "core/bus/formulas.hpp"
#include "core/plan/buses.hpp"

#include <array>
#include <cmath>

namespace fulmox {
namespace {

/// A rule between fields: where it is mended, and what it says.
std::optional<Problem> contradiction(const Section& s) {
  const auto at = [&](std::string_view field, std::string_view what, std::string_view remedy) {
    return Problem{s.path + "." + std::string(field), std::string(what), std::string(remedy)};
  };
  const double on = s.term("chopper_on"), off = s.term("chopper_off");
  if (s.text("name").empty()) return at("name", "the bus has no name.", "Axes and loads call it by one.");
  if (!std::isnan(on)) {
    if (std::isnan(off))
      return at("chopper_off", "the chopper needs a voltage at which it goes off.",
                "Type one some volts below the one at which it goes on.");
    if (off >= on)
      return at("chopper_off", "it must be below the voltage at which the chopper goes on.",
                "A chopper without hysteresis would switch without end.");
    if (std::isnan(s.term("resistor").value))
      return at("resistor", "the chopper has no resistor.", "Type its resistance.");
  }
  if (s.is("regulated")) {
    if (const auto wrong = overload_fault(s)) return at(wrong->field, wrong->what, wrong->remedy);
  } else {
    const double frequency = s.term("frequency");
    if (frequency > 70.0 && frequency != 400.0)
      return at("frequency", "mains have 40 to 70 Hz, or 400 Hz.", "Type the frequency of the mains.");
  }
  return std::nullopt;
}

double or_else(double value, double otherwise) { return std::isnan(value) ? otherwise : value; }

BusSupply regulated(const Section& s) {
  BusSupply out;
  out.volts = s.term("volts");
  out.resistance = s.term("droop");
  out.limit = or_else(s.term("limit"), std::numeric_limits<double>::infinity());
  if (s.text("overload") == "foldback") out.short_current = s.term("short_current");
  if (s.text("overload") == "hiccup") {
    out.trip_time = s.term("trip_time");
    out.off_time = s.term("off_time");
  }
  out.sink = or_else(s.term("sink"), 0.0);
  return out;
}

BusSupply rectified(const Section& s) {
  BusSupply out;
  out.kind = BusSupply::Kind::rectifier;
  out.phases = s.text("phases") == "3" ? 3 : 1;
  out.frequency = s.term("frequency");
  out.drop = s.term("drop");
  const double volts = s.term("volts");
  if (s.is("mains")) {
    out.crest = std::numbers::sqrt2 * volts;
    out.resistance = s.term("source") * (out.phases == 3 ? 2.0 : 1.0);
    return out;
  }
  double regulation = s.term("regulation");
  if (s.text("quoted") == "no_load") regulation = regulation / (1.0 - regulation);
  out.crest = transformer_crest(volts, regulation);
  out.resistance = transformer_resistance(volts, regulation, s.term("amps"), out.phases);
  return out;
}

} // namespace

BusModel BusData::at(double share, double drives) const {
  BusModel model = nominal;
  model.capacitance += drives;
  model.supply.crest *= 1.0 + share;
  return model;
}

Expected<BusData> BusData::from(const Section& s) {
  if (auto wrong = contradiction(s)) return *wrong;
  BusData out;
  out.name = s.text("name");
  const bool is_regulated = s.is("regulated");
  out.feed = is_regulated ? Feed::regulated : s.is("mains") ? Feed::mains : Feed::transformer;
  out.nominal.supply = is_regulated ? regulated(s) : rectified(s);
  out.swing = is_regulated ? 0.0 : s.term("swing").value;
  if (out.feed == Feed::transformer) out.rated_volts = s.term("volts"), out.rated_amps = s.term("amps");
  out.continuous = s.term_if("power");
  out.peak = s.term_if("peak");
  out.peak_time = s.term_if("peak_time");
  out.derating = or_else(s.term_if("derating"), 1.0);
  out.efficiency = or_else(s.term_if("efficiency"), 1.0);
  out.backfed_trip = s.term_if("backfed_trip");
  out.precharge = s.term_if("precharge");
  out.own_capacitance = or_else(s.term("capacitance"), 0.0);
  out.nominal.capacitance = out.own_capacitance;
  out.nominal.bleeder = or_else(s.term("bleeder"), std::numeric_limits<double>::infinity());
  out.capacitor_volts = s.term("capacitor_volts");
  out.capacitor_ripple = s.term("capacitor_ripple");
  out.chopper_current = s.term("chopper_current");
  out.resistor_power = s.term("resistor_power");
  out.resistor_peak = s.term("resistor_peak");
  out.resistor_pulse = s.term("resistor_pulse");
  out.inductance = s.term("inductance");
  if (!s.blank("chopper_on"))
    out.nominal.chopper = Chopper{s.term("chopper_on"), s.term("chopper_off"), s.term("resistor")};
  if (!s.blank("cable_length") && !s.blank("cable_area")) {
    constexpr double warm = 343.15; // K, copper under load
    out.cable = wire_resistance(s.term("cable_length"), s.term("cable_area"), warm);
    out.nominal.supply.resistance += out.cable;
  }
  if (out.nominal.chopper && out.nominal.chopper->off <= out.highest_supply())
    return Problem{
        s.path + ".chopper_off",
        "the supply alone can make the bus as high as this: the resistor would heat from the mains "
        "for ever.",
        "Let the chopper go off above the highest voltage of the supply, without load and with "
        "the mains high."};
  return out;
}

} // namespace fulmox
