#include "core/machine/bus_limits.hpp"

#include "core/bus/formulas.hpp"
#include "core/bus/limit_formulas.hpp"
#include "core/machine/bus_judging.hpp"
#include "core/power/alignment.hpp"

#include <algorithm>
#include <array>
#include <cmath>

namespace fulmox {
namespace {

bool fed_by(const BusContext& c, BusData::Feed feed) { return c.data().feed == feed; }

/// A rating of the supply at its place.
Term rating(const BusContext& c, StepName name, double watts) {
  return c.recorder.apply(book::share_of_power, name, {{watts, ""}, {c.data().derating, ""}});
}
/// What a house rule allows of the bus's highest voltage.
Term allowed(const BusContext& c, StepName name, std::string_view rule) {
  return c.recorder.apply(book::share_of_voltage, name,
                          {{c.data().nominal.supply.highest(), ""}, c.rules.term(rule)});
}

Judged supply_mean(const BusContext& c) {
  if (fed_by(c, BusData::Feed::transformer)) return std::nullopt;
  if (!told(c.data().continuous)) return missing("The supply's continuous power is not given.", "power");
  if (c.state.low->collapsed) return collapsed(c, "The supply cannot hold this bus.");
  const double period = c.machine.schedule.cycle;
  const double energy = std::max(c.state.low->supplied, c.state.high->supplied);
  const Term mean =
      c.recorder.apply(book::mean_of_cycle, {"machine.supply_mean_power", "Mean power of the supply"},
                       {{energy, ""}, {period, ""}});
  return compare(
      c, "machine.supply_mean", mean,
      rating(c, {"machine.supply_continuous", "Continuous power at its place"}, c.data().continuous),
      Kind::power,
      "Energy out of the supply over the cycle: what a resistor burns has to come from it again.",
      std::nullopt, "power");
}

Judged supply_peak(const BusContext& c) {
  if (!fed_by(c, BusData::Feed::regulated)) return std::nullopt;
  if (!told(c.data().peak)) return missing("The supply's peak power is not given.", "peak");
  if (c.state.low->collapsed) return collapsed(c, "The supply cannot hold this bus.");
  const bool timed = c.data().peak_time > 0.0;
  const PowerAt most = timed ? greatest_window(c.state.low->supply_power, c.data().peak_time)
                             : greatest_power(c.state.low->supply_power);
  return compare(c, "machine.supply_peak", most.watts,
                 rating(c, {"machine.supply_rated_peak", "Peak power at its place"}, c.data().peak),
                 Kind::power,
                 timed ? "Greatest mean over the time for which its peak power is told."
                       : "Greatest at any moment: no time is told for its peak power.",
                 most.time, "peak");
}

Judged supply_overload(const BusContext& c) {
  if (!fed_by(c, BusData::Feed::regulated)) return std::nullopt;
  const BusSupply& s = c.data().nominal.supply;
  if (std::isinf(s.limit)) return missing("The supply's current limit is not given.", "limit");
  if (std::isinf(s.trip_time)) return std::nullopt; // what it does to the voltage is judged there
  if (c.state.low->collapsed && c.state.low->trips == 0)
    return collapsed(c, "The bus collapses before it trips.");
  return compare(c, "machine.supply_overload", c.state.low->longest_limit, s.trip_time, Kind::time,
                 "Longest time in its current limit against the time after which it switches off.",
                 c.state.low->limit_at, "trip_time");
}

Judged start(const BusContext& c) {
  if (!c.state.start) {
    if (fed_by(c, BusData::Feed::regulated))
      return missing("The supply's current limit is not given: whether it starts is open.", "limit");
    return std::nullopt;
  }
  const BusStart& s = *c.state.start;
  const std::string rule =
      s.up ? "All that is on at a threshold against what the supply gives at that voltage. Drives that are "
             "enabled after the bus is up ask nothing of this."
           : "It does not come up: it " +
                 std::string(s.trips > 0 ? "switches off in overload again and again."
                                         : "hovers where the loads come on.") +
                 " Enable the drives after the supply is good, or choose a larger one.";
  Limit limit = compare(c, "machine.start", c.state.start_charge, c.state.start_given, Kind::power, rule,
                        std::nullopt, "limit");
  if (!s.up && limit.used <= 1.0) limit.used = std::numeric_limits<double>::infinity();
  if (!s.up) limit.state = LimitState::over;
  return limit;
}

Judged ripple(const BusContext& c) {
  if (fed_by(c, BusData::Feed::regulated)) return std::nullopt;
  if (c.state.low->collapsed) return collapsed(c, "The rectifier cannot hold this bus.");
  return compare(c, "machine.ripple", c.state.ripple,
                 allowed(c, {"machine.ripple_allowed", "Ripple allowed"}, "ripple_max"), Kind::voltage,
                 "Peak to peak if the capacitors alone carry the greatest power from pulse to pulse: at most "
                 "that. House rule.",
                 greatest_window(c.power().total, c.data().nominal.supply.pulse()).time, "capacitance");
}

Judged bus_low(const BusContext& c) {
  if (c.power().axes.empty()) return std::nullopt;
  if (c.state.low->collapsed)
    return collapsed(c,
                     "The supply cannot hold the load: the lower the bus, the more current the drives draw. "
                     "Nothing after this moment is true.");
  if (!told(c.power().under))
    return missing("No drive on it tells the lowest bus it works on.", "drive.bus_min");
  if (!c.power().no_under.empty() && c.power().under <= c.state.low->lowest)
    return missing("Not every drive on it tells the lowest bus it works on.", "drive.bus_min");
  return compare(c, "machine.bus_low", c.power().under, c.state.low->lowest, Kind::voltage,
                 "Highest of the drives' lowest voltages, of " + c.power().under_of +
                     ", against the lowest of the bus, mains low.",
                 c.state.low->lowest_at);
}

Judged bus_high(const BusContext& c) {
  if (c.state.high->collapsed) return std::nullopt; // told by the low side
  const Borne borne = least_borne(c);
  if (!told(borne.volts)) {
    if (c.power().axes.empty()) return std::nullopt;
    return missing("No drive on it tells its overvoltage trip.", "drive.overvoltage");
  }
  if (!c.power().no_over.empty() && c.state.high->highest <= borne.volts)
    return missing("Not every drive on it tells its overvoltage trip.", "drive.overvoltage");
  return compare(c, "machine.bus_high", c.state.high->highest, borne.volts, Kind::voltage,
                 "Highest of the bus, mains high, against what bears least: the " + borne.whose + ".",
                 c.state.high->highest_at);
}

Judged brakes(const BusContext& c) {
  if (c.power().brakes.empty()) return std::nullopt;
  double watts = c.power().steady_watts;
  for (const std::size_t i : c.power().brakes) watts += c.machine.axes[i].coil;
  const double most = told(c.data().peak) ? c.data().peak : c.data().continuous;
  if (!told(most)) return missing("Neither peak nor continuous power of the supply is given.", "power");
  return compare(c, "machine.brakes", watts,
                 rating(c, {"machine.brake_supply", "Power of the supply at its place"}, most), Kind::power,
                 "All brakes opening at once, at machine enable, with every other load on.", std::nullopt,
                 "power");
}

Judged transformer(const BusContext& c) {
  if (!fed_by(c, BusData::Feed::transformer)) return std::nullopt;
  if (c.state.low->collapsed) return collapsed(c, "The rectifier cannot hold this bus.");
  const bool three = c.data().nominal.supply.phases == 3;
  const double rms = std::max(c.state.low->rms_current, c.state.high->rms_current);
  const double line = three ? std::sqrt(2.0 / 3.0) * rms : rms;
  const double phases = three ? 3.0 : 1.0;
  const auto apparent = [&](StepName name, double amps) {
    return c.recorder.apply(book::apparent_power, name,
                            {{c.data().rated_volts, ""}, {amps, ""}, {phases, ""}});
  };
  const Term rated = apparent({"machine.rated_apparent", "Rated apparent power"}, c.data().rated_amps);
  const Term at_place =
      c.recorder.apply(book::share_of_power, {"machine.apparent_at_place", "Apparent power at its place"},
                       {rated, {c.data().derating, ""}});
  return compare(c, "machine.transformer",
                 apparent({"machine.apparent", "Apparent power over the cycle"}, line), at_place, Kind::power,
                 "Rated volts times the rms of the pulses in its winding over the cycle (VA): 1.3 to 2 times "
                 "the power of the bus.",
                 std::nullopt, "amps");
}

Judged capacitor(const BusContext& c) {
  if (fed_by(c, BusData::Feed::regulated) || c.data().own_capacitance <= 0.0) return std::nullopt;
  if (c.state.low->collapsed) return std::nullopt;
  if (!told(c.data().capacitor_ripple))
    return missing("The ripple current of the capacitors is not given.", "capacitor_ripple");
  const double rms = c.state.low->rms_current;
  const double mean = c.state.low->supplied / c.machine.schedule.cycle / c.state.low->lowest;
  return compare(
      c, "machine.capacitor",
      c.recorder.apply(book::rms_without_mean, "machine.capacitor_current", {{rms, ""}, {mean, ""}}),
      c.data().capacitor_ripple, Kind::current,
      "Rms of the rectifier's pulses less their mean, all into these capacitors. The drives' own "
      "ripple comes on top: ask.",
      std::nullopt, "capacitor_ripple");
}

Judged stability(const BusContext& c) {
  if (c.power().axes.empty() || c.power().peak.watts <= 0.0 || c.state.low->collapsed) return std::nullopt;
  if (!told(c.data().inductance))
    return missing("The inductance of source and cable is not given.", "inductance");
  const BusModel model = c.data().at(-c.data().swing, c.power().drives);
  const Term most = c.recorder.apply(book::stable_power, "machine.stable_power",
                                     {{c.state.low->lowest, ""},
                                      {model.supply.resistance, ""},
                                      {c.data().inductance, ""},
                                      {model.capacitance, ""},
                                      {0.0, ""}});
  return compare(
      c, "machine.stability", c.power().peak.watts,
      c.recorder.apply(book::share_of_power, {"machine.stable_share", "What the house leaves of it"},
                       {most, c.rules.term("stability_share")}),
      Kind::power,
      "Greatest power against the house's share of what is stable with small signals at the lowest "
      "voltage. The supply's own control is not in it.",
      c.power().peak.time, "inductance");
}

Judged drop(const BusContext& c) {
  if (c.data().cable <= 0.0 || c.state.low->collapsed) return std::nullopt;
  return compare(
      c, "machine.drop",
      c.recorder.apply(book::voltage_drop, "machine.cable_drop",
                       {{c.state.low->most_current, ""}, {c.data().cable, ""}}),
      allowed(c, {"machine.drop_allowed", "Drop allowed"}, "drop_max"), Kind::voltage,
      "Greatest current through the cable, warm. House rule; fuses, wires and protection follow the "
      "local code.",
      c.state.low->most_current_at, "cable_area");
}

constexpr std::array own_specs{
    BusLimitSpec{"machine.supply_mean", "Supply, mean", "Mean power out of the supply.", &supply_mean},
    BusLimitSpec{"machine.supply_peak", "Supply, peak", "Greatest power out of the supply.", &supply_peak},
    BusLimitSpec{"machine.supply_overload", "Supply in its limit", "Time in the current limit.",
                 &supply_overload},
    BusLimitSpec{"machine.start", "Start-up", "Whether the bus comes up under its loads.", &start},
    BusLimitSpec{"machine.ripple", "Ripple", "Of the rectified voltage.", &ripple},
    BusLimitSpec{"machine.bus_low", "Bus low", "The lowest voltage against the drives' trips.", &bus_low},
    BusLimitSpec{"machine.bus_high", "Bus high", "The highest voltage against all trips and ratings.",
                 &bus_high},
    BusLimitSpec{"machine.brakes", "Brakes opening", "All coils at once.", &brakes},
    BusLimitSpec{"machine.transformer", "Transformer", "Its VA.", &transformer},
    BusLimitSpec{"machine.capacitor", "Capacitor ripple", "Rms current of the capacitors.", &capacitor},
    BusLimitSpec{"machine.stability", "Stability", "Constant power behind a lead.", &stability},
    BusLimitSpec{"machine.drop", "Cable drop", "Of the bus cable.", &drop}};

} // namespace

std::span<const BusLimitSpec> bus_limit_specs() {
  static const std::vector<BusLimitSpec> all = [] {
    std::vector<BusLimitSpec> specs(own_specs.begin(), own_specs.end());
    for (const auto& more : {stop_limit_specs(), chopper_limit_specs()})
      specs.insert(specs.end(), more.begin(), more.end());
    return specs;
  }();
  return all;
}

std::vector<Limit> judge_bus(const BusContext& context) {
  std::vector<Limit> limits;
  for (const BusLimitSpec& spec : bus_limit_specs()) {
    auto limit = spec.judge(context);
    if (!limit) continue;
    limit->id = spec.id;
    limit->label = spec.label;
    limits.push_back(std::move(*limit));
  }
  sort_limits(limits);
  return limits;
}

} // namespace fulmox
