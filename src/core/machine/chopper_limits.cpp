#include "core/bus/formulas.hpp"
#include "core/bus/limit_formulas.hpp"
#include "core/machine/bus_judging.hpp"
#include "core/power/alignment.hpp"

#include <algorithm>
#include <array>

namespace fulmox {
namespace {

Judged chopper_margin(const BusContext& c) {
  const auto& chopper = c.data().nominal.chopper;
  if (!chopper) return std::nullopt;
  constexpr double tolerance = 0.01;
  return compare(
      c, "machine.chopper_margin", c.data().highest_supply(),
      c.recorder.apply(book::share_of_voltage,
                       {"machine.chopper_surely_off", "Where the chopper is off for sure"},
                       {{chopper->off, ""}, {1.0 - tolerance, ""}}),
      Kind::voltage,
      "Highest the supply can make, mains high and no load, against where the chopper goes off, 1 % "
      "lower for tolerance (choice): above it the resistor heats from the mains for ever.",
      std::nullopt, "chopper_off");
}

Judged resistor_low(const BusContext& c) {
  const auto& chopper = c.data().nominal.chopper;
  if (!chopper) return std::nullopt;
  if (!told(c.data().chopper_current))
    return missing("The chopper's current is not given.", "chopper_current");
  const double volts = told(c.power().over) ? std::max(c.power().over, chopper->on) : chopper->on;
  const Term least = c.recorder.apply(book::least_resistor, "machine.least_resistor",
                                      {{volts, ""}, {c.data().chopper_current, ""}});
  return compare(c, "machine.resistor_low", least, chopper->resistance, Kind::resistance,
                 "The least its chopper can switch at the highest voltage it is on at.", std::nullopt,
                 "resistor");
}

/// W that come back at most if all axes brake at once.
double greatest_return(const BusContext& c) {
  double sum = 0.0;
  for (const std::size_t i : c.power().axes)
    sum += std::max(0.0, -least_power(c.machine.axes[i].placed).watts);
  return sum;
}

Judged resistor_high(const BusContext& c) {
  const auto& chopper = c.data().nominal.chopper;
  const double returned = greatest_return(c);
  if (!chopper || returned <= 0.0) return std::nullopt;
  if (!told(c.power().over))
    return missing("No drive on it tells its overvoltage trip.", "drive.overvoltage");
  const Term most =
      c.recorder.apply(book::most_resistor, "machine.most_resistor", {{c.power().over, ""}, {returned, ""}});
  return compare(c, "machine.resistor_high", chopper->resistance, most, Kind::resistance,
                 "The most that keeps the bus below the trip for ever while all axes give back at once. A "
                 "short return may be borne beyond it: then the highest voltage decides.",
                 std::nullopt, "resistor");
}

Judged resistor_mean(const BusContext& c) {
  if (!c.data().nominal.chopper || c.state.high->collapsed) return std::nullopt;
  if (!told(c.data().resistor_power))
    return missing("The resistor's continuous power is not given.", "resistor_power");
  return compare(
      c, "machine.resistor_mean",
      c.recorder.apply(book::mean_of_cycle,
                       {"machine.resistor_mean_power", "Mean power of the brake resistor"},
                       {{c.state.high->burnt, ""}, {c.machine.schedule.cycle, ""}}),
      c.data().resistor_power, Kind::power,
      "What it burns over the cycle, mains high. Its rating holds at its sheet's air and mounting.",
      std::nullopt, "resistor_power");
}

Judged resistor_heat(const BusContext& c) {
  if (!c.data().nominal.chopper || c.state.high->collapsed || !told(c.data().resistor_power))
    return std::nullopt;
  if (!told(c.data().resistor_pulse))
    return missing("The energy it bears in a pulse is not given.", "resistor_pulse");
  return compare(
      c, "machine.resistor_heat", c.state.hottest, c.data().resistor_power, Kind::power,
      "Its power as its body feels it, through the time its pulse energy stands for, in the steady "
      "cycle.",
      c.state.hottest_at, "resistor_pulse");
}

Judged resistor_peak(const BusContext& c) {
  const auto& chopper = c.data().nominal.chopper;
  if (!chopper || c.state.high->switched == 0) return std::nullopt;
  if (!told(c.data().resistor_peak))
    return missing("The resistor's peak power is not given.", "resistor_peak");
  return compare(c, "machine.resistor_peak",
                 c.recorder.apply(book::resistor_power, "machine.resistor_power",
                                  {{c.state.high->highest, ""}, {chopper->resistance, ""}}),
                 c.data().resistor_peak, Kind::power, "At the highest voltage of the bus.",
                 c.state.high->highest_at, "resistor_peak");
}

constexpr std::array specs{
    BusLimitSpec{"machine.chopper_margin", "Chopper margin",
                 "Whether the supply alone can hold the chopper on.", &chopper_margin},
    BusLimitSpec{"machine.resistor_low", "Resistor, least", "Its chopper's current.", &resistor_low},
    BusLimitSpec{"machine.resistor_high", "Resistor, most", "Whether it takes all that comes back.",
                 &resistor_high},
    BusLimitSpec{"machine.resistor_mean", "Resistor, mean", "What it burns over the cycle.", &resistor_mean},
    BusLimitSpec{"machine.resistor_heat", "Resistor, heat", "What its body feels.", &resistor_heat},
    BusLimitSpec{"machine.resistor_peak", "Resistor, peak", "Its power when it is on.", &resistor_peak}};

} // namespace

std::span<const BusLimitSpec> chopper_limit_specs() { return specs; }

} // namespace fulmox
