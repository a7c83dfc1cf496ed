#include "core/bus/limit_formulas.hpp"
#include "core/machine/bus_judging.hpp"
#include "core/quantity/format.hpp"

#include <array>
#include <cmath>

namespace fulmox {
namespace {

/// Where nobody tells how long slowing down takes: all go on as if nothing had happened.
Judged ride(const BusContext& c) {
  const double wanted = c.pace.term("stop_time");
  if (!told(wanted) || std::isinf(c.state.ride)) return std::nullopt;
  return compare(
      c, "machine.hold_up", wanted, c.state.ride, Kind::time,
      "Time a controlled stop takes against how long the bus holds when the mains fails at the "
      "worst moment and the axes go on as if nothing happened; down to half the bus at most where a "
      "drive does not tell its lowest. More than that is asked only where slowing down is told for itself.",
      c.state.ride_at, "capacitance");
}

Judged hold_up(const BusContext& c) {
  if (c.state.low->collapsed || (c.power().axes.empty() && c.power().brakes.empty())) return std::nullopt;
  if (!c.state.stop) return ride(c);
  const ControlledStop& stop = *c.state.stop;
  const auto energy = [&](StepName name, double watts, double seconds) {
    return c.recorder.apply(book::energy_of_power, name, {{watts, ""}, {seconds, ""}});
  };
  const Term unnoticed =
      energy({"machine.stop_unnoticed", "Drawn until the loss is noticed"}, stop.going_on, stop.notice);
  const Term others = energy({"machine.stop_others", "Drawn by loads and brake coils meanwhile"}, stop.steady,
                             stop.ramp + stop.brake);
  const Term holding =
      energy({"machine.stop_holding", "Holding until the brakes have closed"}, stop.holding, stop.brake);
  const Term need = c.recorder.apply(book::stop_need, {"machine.stop_need", "What a controlled stop needs"},
                                     {unnoticed, {stop.slowing, ""}, others, holding});
  const Term store =
      c.recorder.apply(book::stored_between, {"machine.stop_store", "What the capacitors hold"},
                       {{c.state.capacitance, ""}, {c.state.low->lowest, ""}, {c.state.trip, ""}});
  std::string way_out;
  if (const double farads = capacitance_for_stop(c.state); need > store && told(farads))
    way_out = " With " + shown(farads, Kind::capacitance) + " in all instead of " +
              shown(c.state.capacitance, Kind::capacitance) + " it would be enough.";
  return compare(c, "machine.hold_up", need, store, Kind::energy,
                 "What a controlled stop begun at the worst moment takes after a loss of the mains, at most, "
                 "against the capacitors from the lowest voltage of the cycle down to where the drives trip "
                 "(at least half the bus where one does not tell). What comes back counts for nothing: it "
                 "may come too late." +
                     way_out,
                 stop.slowing_at, "capacitance");
}

/// What a stop harder than the cycle's own braking gives back.
Judged returned(const BusContext& c) {
  if (!c.state.stop || c.state.high->collapsed || c.power().axes.empty()) return std::nullopt;
  const ControlledStop& stop = *c.state.stop;
  if (stop.returned <= 0.0) return std::nullopt;
  const Borne borne = least_borne(c);
  if (!told(borne.volts)) return missing("No drive on it tells its overvoltage trip.", "drive.overvoltage");
  const auto open = [&](const Limit& limit) {
    return limit.used <= 1.0 && !c.power().no_over.empty()
               ? missing("Not every drive on it tells its overvoltage trip.", "drive.overvoltage")
               : limit;
  };
  if (c.data().nominal.chopper) {
    const Term most = c.recorder.apply(book::resistor_power, "machine.stop_resistor",
                                       {{borne.volts, ""}, {c.data().nominal.chopper->resistance, ""}});
    return open(
        compare(c, "machine.stop_returned", stop.pushed, most, Kind::power,
                "The most that all axes give back at once in a controlled stop, against what the resistor "
                "takes just below the trip of the " +
                    borne.whose + ".",
                stop.pushed_at, "resistor"));
  }
  const Term room =
      c.recorder.apply(book::stored_between, {"machine.stop_room", "What the capacitors can still take"},
                       {{c.state.capacitance, ""}, {borne.volts, ""}, {c.state.high->highest, ""}});
  return open(
      compare(c, "machine.stop_returned", stop.returned, room, Kind::energy,
              "What all axes give back in a controlled stop from the worst moment, at most, against the "
              "capacitors from the highest voltage of the cycle up to the trip of the " +
                  borne.whose + ". A falling load gives back most.",
              stop.returned_at, "capacitance"));
}

/// A stop that asks for more than a motor gives takes longer than told.
Judged effort(const BusContext& c) {
  if (!c.state.stop) return std::nullopt;
  StopEffort worst;
  std::string untold;
  for (StopEffort effort : c.state.stop->efforts) {
    const AxisPower& axis = c.machine.axes[effort.axis];
    if (const auto reserve = axis.model->motor->reserve_rule(); !reserve.empty())
      effort.share *= c.rules.term(reserve);
    if (!told(effort.share)) untold = axis.name;
    if (effort.share > worst.share) worst = effort;
  }
  if (!untold.empty() && worst.share <= 1.0)
    return missing("The peak torque of the motor of " + untold + " is not known.", "motor.peak_curve");
  if (worst.share == 0.0) return std::nullopt;
  return compare(c, "machine.stop_torque", worst.share, 1.0, Kind::share,
                 "Greatest share of its motor's peak torque that an axis needs to slow down so fast, of " +
                     c.machine.axes[worst.axis].name +
                     "; steppers with the factor of the house rules. More than there is takes longer, or the "
                     "axis is lost.",
                 worst.at, "pace.stop_ramp");
}

constexpr std::array specs{
    BusLimitSpec{"machine.hold_up", "Hold-up", "Enough for a controlled stop.", &hold_up},
    BusLimitSpec{"machine.stop_returned", "Stop, given back", "What a controlled stop returns.", &returned},
    BusLimitSpec{"machine.stop_torque", "Stop, torque", "Whether the motors can slow down so fast.",
                 &effort}};

} // namespace

std::span<const BusLimitSpec> stop_limit_specs() { return specs; }

} // namespace fulmox
