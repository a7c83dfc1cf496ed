#include "core/machine/supply_choice.hpp"

#include "core/bus/formulas.hpp"
#include "core/drive/drive.hpp"
#include "core/quantity/format.hpp"
#include "core/requirements/duty.hpp"

#include <algorithm>
#include <cmath>
#include <optional>

namespace fulmox {
namespace {

constexpr double joules_of_kwh = 3.6e6;
constexpr double seconds_of_hour = 3600.0;

/// Money a year for an energy of every cycle.
double yearly(const MachineRun& run, const Document& document, double joules) {
  const Duty duty = Duty::from(document.duty);
  return joules / run.power.schedule.cycle * duty.hours * seconds_of_hour / joules_of_kwh * duty.energy_price;
}

std::string money(double value) { return significant(value, 3); }

/// W that the motors on a bus are good for, each by the greatest power on its continuous curve, and how many
/// have one.
std::pair<double, int> rated_powers(const BusPower& bus, const Document& document) {
  std::pair<double, int> sum{0.0, 0};
  for (const std::size_t i : bus.axes) {
    const Section& motor = document.axes[i]["motor"];
    if (!motor.has("continuous_curve")) continue;
    double rated = 0.0;
    for (const CurvePoint& point : motor.entry("continuous_curve").curve)
      rated = std::max(rated, point[0] * point[1]);
    if (!(rated > 0.0)) continue;
    sum.first += rated;
    ++sum.second;
  }
  return sum;
}

} // namespace

double adding_school(std::span<const double> phase_currents, bool microstepping) {
  double sum = 0.0;
  for (const double amps : phase_currents) sum += 2.0 * amps;
  return microstepping ? sum * std::numbers::sqrt2 / 2.0 : sum;
}

std::vector<std::string> supply_schools(const MachineRun& run, std::size_t bus, const Document& document) {
  const BusPower& power = run.power.buses[bus];
  const BusState& state = run.buses[bus];
  std::vector<std::string> out;
  std::vector<double> phases;
  for (const std::size_t i : power.axes) {
    const Axis& axis = document.axes[i];
    const double crest = axis["drive"].term_if("current_setting");
    const double own = axis["motor"].term_if("rated_current");
    const bool stepper = axis["motor"].spec().id.find("stepper") != std::string_view::npos;
    if (const double amps = std::isnan(own) ? crest : own; stepper && !std::isnan(amps))
      phases.push_back(amps);
  }
  if (!phases.empty())
    out.emplace_back(
        "All phases added (common practice): " + std::to_string(phases.size()) + " two-phase motors, " +
        shown(adding_school(phases, false), Kind::current) + "; × 0.707 with microstepping, " +
        shown(adding_school(phases, true), Kind::current) +
        ". Right for linear and full-step drives; it overrates the mean of drives that chop, whose "
        "current from the bus is power over voltage, and is no bound while they accelerate.");
  if (const auto [watts, motors] = rated_powers(power, document); motors > 0)
    out.emplace_back("Rated powers added, × 0.5 to 0.7 (a habit, from memory): " + std::to_string(motors) +
                     (motors == 1 ? " motor of " : " motors of together ") + shown(watts, Kind::power) +
                     ", so " + shown(0.5 * watts, Kind::power) + " to " + shown(0.7 * watts, Kind::power) +
                     ". It knows nothing of this machine's cycles: shown beside the balance, never used.");
  const double set = power.data.nominal.supply.highest();
  out.emplace_back("Power balance (used here): mean " + shown(power.mean, Kind::power) + ", " +
                   shown(power.mean / set, Kind::current) + " if all that comes back were used again; " +
                   (std::isnan(state.supplied_watts)
                        ? std::string("what comes out of the supply is not known, since the bus collapses")
                        : shown(state.supplied_watts, Kind::power) + ", " +
                              shown(state.supplied_watts / set, Kind::current) + " out of the supply") +
                   "; peak " + shown(power.peak.watts, Kind::power) + ", " +
                   shown(state.low->most_current, Kind::current) +
                   (power.data.feed == BusData::Feed::regulated
                        ? " at the voltage it sags to."
                        : " at the crest of the rectifier's pulses."));
  out.emplace_back(
      "Regulated or not: regulated holds the voltage near what the drives allow and suits several "
      "machines alike; unregulated takes high short peaks and what comes back, and brings the mains' "
      "± 10 % and the rise without load with it.");
  out.emplace_back(
      "Highest or lowest voltage: high gives torque at speed; low leaves steppers cooler and room for "
      "what comes back. Never above the drives' limit with rise and mains.");
  return out;
}

std::vector<std::string> brake_ways(const MachineRun& run, std::size_t bus, const Document& document) {
  const BusPower& power = run.power.buses[bus];
  const BusState& state = run.buses[bus];
  std::vector<std::string> out;
  const double set = power.data.highest_supply();
  if (power.returned <= 0.0) {
    out.emplace_back("Nothing comes back to this bus.");
    return out;
  }
  out.emplace_back("What comes back: " + shown(power.returned, Kind::energy) + " a cycle, " +
                   shown(power.each_returned, Kind::energy) +
                   " if every axis had a bus of its own; the bus must "
                   "swallow " +
                   shown(power.reflected.greatest, Kind::energy) + " at once as scheduled, " +
                   shown(state.worst_returned, Kind::energy) + " at the worst alignment.");
  if (power.over > set && std::isfinite(power.reflected.greatest)) {
    constexpr double margin = 0.97, aged = 0.64; // −20 % tolerance, −20 % at the end of life: common practice
    const double farads = capacitance_for(power.reflected.greatest, set, margin * power.over) / aged;
    out.emplace_back(
        "Capacitor instead: " + shown(farads, Kind::capacitance) + " from " + shown(set, Kind::voltage) +
        " to 3 % below the trip at " + shown(power.over, Kind::voltage) +
        ", tolerance and age counted. No loss; right where the energy is small and comes often.");
  }
  double returning = 0.0;
  for (const std::size_t i : power.axes)
    returning += std::max(0.0, -least_power(run.power.axes[i].placed).watts);
  if (power.over > 0.0 && returning > 0.0)
    out.emplace_back(
        "Brake resistor: at most " + shown(most_resistor(power.over, returning), Kind::resistance) +
        (power.data.chopper_current > 0.0
             ? ", at least " + shown(least_resistor(power.over, power.data.chopper_current), Kind::resistance)
             : std::string()) +
        ", " + shown(returning, Kind::power) + " for a moment, " +
        shown(power.data.nominal.chopper ? state.high->burnt / run.power.schedule.cycle
                                         : power.returned / run.power.schedule.cycle,
              Kind::power) +
        (power.data.nominal.chopper ? " on the mean." : " on the mean at most.") +
        " Right where the energy is large or seldom. One chopper for the whole bus: several fight, the "
        "lowest "
        "takes all. Its surface burns skin and lights paper.");
  const double shared = power.each_returned - power.returned;
  out.emplace_back(
      "Shared bus against one for each axis: " + shown(shared, Kind::energy) +
      " a cycle used by another "
      "axis at once, up to " +
      money(yearly(run, document, shared)) +
      " a year in the money of your lists. Join buses only of drives that are made for it: precharge "
      "and fuses differ.");
  return out;
}

/// What happens when one of three phases is lost; nothing where there are no three.
static std::optional<std::string> lost_phase_words(const BusState& state, const BusPower& power) {
  if (!state.lost_phase) return std::nullopt;
  const LostPhase& lost = *state.lost_phase;
  if (lost.collapsed)
    return "If one phase is lost the bus collapses at " + shown(lost.collapsed_at, Kind::time) +
           " of the cycle under full work: the axes stop without control. Ask for a monitor of the phases.";
  std::string text = "If one phase is lost the bus sags to " + shown(lost.lowest, Kind::voltage) + " (now " +
                     shown(state.nominal->lowest, Kind::voltage) + ") and its pulses rise to " +
                     shown(lost.rms_current, Kind::current) + " rms (now " +
                     shown(state.nominal->rms_current, Kind::current) + ")";
  if (lost.lowest < power.under)
    return text + ": below " + shown(power.under, Kind::voltage) +
           " drives trip. Ask for a monitor of the phases.";
  return text +
         ": the machine may run on unnoticed, with diodes and capacitors overloaded. Ask for a monitor of "
         "the phases.";
}

std::vector<std::string> installer_words(const MachineRun& run, std::size_t bus) {
  const BusPower& power = run.power.buses[bus];
  const BusState& state = run.buses[bus];
  const BusData& data = power.data;
  std::vector<std::string> out;
  const double mean = state.supplied_watts / data.efficiency;
  if (std::isnan(mean))
    out.emplace_back("Power from the mains: not known as long as the bus collapses.");
  else
    out.emplace_back("Power from the mains: " + shown(mean, Kind::power) + " on the mean" +
                     (data.feed == BusData::Feed::regulated
                          ? ", at the supply's efficiency; current by its power factor, to be asked for."
                          : "; behind a rectifier the power factor is 0.5 to 0.7, so up to " +
                                shown(mean / 0.5, Kind::power) + " (VA)."));
  if (data.feed == BusData::Feed::mains && data.precharge > 0.0)
    out.emplace_back("Switch-on: " + shown(data.highest_supply() / data.precharge, Kind::current) +
                     " through the precharge resistor, 95 % charged after " +
                     shown(3.0 * data.precharge * (data.own_capacitance + power.drives), Kind::time) + ".");
  else
    out.emplace_back(
        "Current at switch-on and how long it lasts: to be asked for; a hot limiter limits nothing.");
  out.emplace_back(
      "Leakage to earth of filters: to be asked for; that of several drives adds, and the kind of "
      "residual current device follows from it.");
  out.push_back(
      data.nominal.supply.sink > 0.0
          ? "Energy is taken back by the supply: whether it reaches the mains has to be told and allowed."
          : "Energy that comes back does not reach the mains.");
  if (auto lost = lost_phase_words(state, power)) out.push_back(*std::move(lost));
  const double farads = data.own_capacitance + power.drives;
  if (std::isfinite(data.nominal.bleeder) && data.highest_supply() > 60.0)
    out.emplace_back(
        "The bus stays charged after switch-off: " +
        shown(discharge_time(farads, data.nominal.bleeder, data.highest_supply(), 60.0), Kind::time) +
        " down to 60 V with the bleeder whole. Wait, measure, then touch; a motor that is turned "
        "charges it again.");
  else if (data.highest_supply() > 60.0)
    out.emplace_back(
        "The bus stays charged long after switch-off, and no bleeder is told: measure before touching; "
        "a motor that is turned charges it again.");
  if (data.cable > 0.0 && !state.low->collapsed)
    out.push_back(
        "The cable from the supply loses " + shown(state.low->most_current * data.cable, Kind::voltage) +
        " at the greatest current and " +
        shown(state.low->rms_current * state.low->rms_current * data.cable, Kind::power) +
        " on the mean, warm: an estimate. Star from the capacitors, no chain; its cross-section for heat and "
        "its fuse follow from bundling, duct and the local code.");
  out.emplace_back(
      "A supply that trips stops the axes without control; a vertical load falls unless it is braked.");
  if (data.nominal.chopper)
    out.emplace_back(
        "A chopper that fails shorted heats its resistor from the mains: a thermal contact belongs "
        "into the chain.");
  out.emplace_back(
      "Earthing of the bus at one point, fuses, wires and protection: by the responsible, licensed "
      "person and the local code (IEC 60204-1 is the usual start for machines).");
  return out;
}

} // namespace fulmox
