#include "core/drive/formulas.hpp"
#include "core/limits/limit.hpp"

#include <algorithm>
#include <array>
#include <cmath>

namespace fulmox {
namespace {

/// On a bus of the machine the supply is judged with all its axes, see core/machine.
bool judged_here(const LimitContext& c) {
  const Surroundings& s = c.model.surroundings;
  return !s.shared && !std::isnan(s.bus) && c.model.motor->electric();
}

std::optional<Limit> mean(const LimitContext& c) {
  const Surroundings& s = c.model.surroundings;
  if (!judged_here(c)) return std::nullopt; // without a bus voltage it is told by the drive limits
  if (std::isnan(s.supply_current))
    return missing("The supply's continuous current is not given.", "surroundings.supply_current");
  return compare(
      c, "supply.mean", c.demand.mean_bus_current, s.supply_current, Kind::current,
      "Mean of what is drawn, what comes back counted as lost: the most it can be. This axis alone.");
}

std::optional<Limit> peak(const LimitContext& c) {
  const Surroundings& s = c.model.surroundings;
  if (!judged_here(c)) return std::nullopt;
  if (std::isnan(s.supply_peak))
    return missing("The supply's peak current is not given.", "surroundings.supply_peak");
  return compare_at(c, "supply.peak", c.demand.peak_power_at, c.demand.peak_bus_current, s.supply_peak,
                    Kind::current,
                    "Greatest power at the lowest bus voltage, all three phases and losses counted.");
}

/// What the shaft gives back, losses no help, against the resistor that takes it off the bus.
Limit into_resistor(const LimitContext& c, const Term& bears) {
  const Moment moment = greatest_of(
      c.model, c.course,
      {[](const Stretch&, double torque, double speed) { return -torque * speed; },
       [](const Stretch&, double torque, double, double fastest) { return std::abs(torque) * fastest; }});
  const Term back{std::max(0.0, moment.value), ""};
  return compare_at(
      c, "supply.overvoltage", moment, back, bears, Kind::power,
      "Greatest power that the shaft gives back, losses no help, against what the brake resistor "
      "takes for a moment. Its mean power has to suit as well.");
}

std::optional<Limit> overvoltage(const LimitContext& c) {
  const Surroundings& s = c.model.surroundings;
  const Drive& drive = *c.model.drive;
  if (!judged_here(c) || !drive.chosen) return std::nullopt;
  if (!std::isnan(drive.brake_power)) return into_resistor(c, drive.brake_power);
  if (std::isnan(drive.overvoltage))
    return missing("The drive's overvoltage trip is missing.", "drive.overvoltage");
  if (std::isnan(drive.capacitance))
    return missing("The drive's bus capacitance is missing.", "drive.capacitance");
  const Term demand = c.recorder.apply(book::risen_voltage, "supply.risen_voltage",
                                       {s.bus_high, {c.demand.integrals.reflected, ""}, drive.capacitance});
  return compare(
      c, "supply.overvoltage", demand, drive.overvoltage, Kind::voltage,
      std::isinf(c.demand.integrals.reflected)
          ? "More comes back than is drawn: the bus rises from cycle to cycle. A brake resistor is "
            "needed, or a supply that takes energy back."
          : "Bus at its highest, all that comes back before it is drawn again into the drive's "
            "capacitors alone. Over: a brake resistor or more capacitance is needed.");
}

} // namespace

std::span<const LimitSpec> supply_limits() {
  static constexpr std::array list{LimitSpec{"supply.mean", "Supply current, mean",
                                             "Mean bus current against the supply's continuous current.",
                                             &mean, LooksAt::drive, Follows::power},
                                   LimitSpec{"supply.peak", "Supply current, peak",
                                             "Greatest bus current against the supply's peak current.", &peak,
                                             LooksAt::drive, Follows::power},
                                   LimitSpec{"supply.overvoltage", "Bus rise when braking",
                                             "Bus voltage after what comes back against the drive's trip.",
                                             &overvoltage, LooksAt::drive, Follows::power}};
  return list;
}

} // namespace fulmox
