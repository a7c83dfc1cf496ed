#include "core/machine/bus_state.hpp"

#include "core/bus/formulas.hpp"
#include "core/bus/limit_formulas.hpp"
#include "core/power/alignment.hpp"

#include <algorithm>
#include <cmath>
#include <future>

namespace fulmox {
namespace {

/// The voltage below which a drive does not start, where its own is not told: half of what the bus has.
double threshold(double told, double bus) { return std::isnan(told) ? 0.5 * bus : told; }

void look_at_start(const MachinePower& machine, std::size_t bus, const BusModel& model, BusState& out) {
  const std::vector<ThresholdLoad> loads = starting_loads(machine, bus);
  const BusSupply& supply = model.supply;
  if (supply.kind == BusSupply::Kind::rectifier || std::isinf(supply.limit)) return;
  double worst = 0.0;
  for (const ThresholdLoad& load : loads) {
    double on = 0.0;
    for (const ThresholdLoad& other : loads)
      if (other.on <= load.on) on += other.power;
    const double given = load.on * supply.most_current(load.on);
    if (on / given < worst) continue;
    worst = on / given;
    out.start_charge = on;
    out.start_given = given;
    out.start_at = load.on;
  }
  out.start = start_bus(model, loads);
}

} // namespace

std::shared_ptr<const BusRun> no_run() {
  static const auto none = std::make_shared<const BusRun>();
  return none;
}

std::vector<ThresholdLoad> starting_loads(const MachinePower& machine, std::size_t index) {
  const BusPower& bus = machine.buses[index];
  const double set = bus.data.nominal.supply.highest();
  std::vector<ThresholdLoad> loads;
  constexpr double lets_go = 0.8; // of the voltage at which it came on
  for (const std::size_t i : bus.axes) {
    if (machine.axes[i].own.pieces.empty()) continue;
    const double on = threshold(machine.axes[i].least_volts, set);
    loads.push_back({on, lets_go * on, std::max(0.0, machine.axes[i].waiting)});
  }
  double coils = 0.0;
  for (const std::size_t i : bus.brakes) coils += machine.axes[i].coil;
  constexpr double early = 0.25; // of the bus: electronics
  if (bus.steady_watts + coils > 0.0)
    loads.push_back({early * set, lets_go * early * set, bus.steady_watts + coils});
  return loads;
}

/// With the mains as told: two faults at once, a lost phase and low mains, are not counted.
static std::optional<LostPhase> without_a_phase(BusModel model, const PowerCurve& power, double tolerance) {
  if (model.supply.kind != BusSupply::Kind::rectifier || model.supply.phases != 3) return std::nullopt;
  model.supply.phases = 1;
  const BusRun run = run_bus(model, power, tolerance);
  if (run.gave_up) return std::nullopt;
  return LostPhase{run.collapsed, run.collapsed_at, run.lowest, run.lowest_at, run.rms_current};
}

BusState run_of(const MachinePower& machine, std::size_t index) {
  const BusPower& bus = machine.buses[index];
  BusState out;
  // the lowest voltage hangs on the phase of the mains, the highest (no load) does not
  const bool mains = bus.data.nominal.supply.kind == BusSupply::Kind::rectifier;
  // many short pieces and pulses keep their own steps short: what a step may be wrong by is never used up
  constexpr std::size_t several_pieces = 200, many = 1000;
  const std::size_t pieces = bus.total.pieces.size();
  const double coarser = pieces > many ? 100.0 : mains ? 2.0 : pieces > several_pieces ? 10.0 : 1.0;
  const double tolerance = coarser * usual_tolerance;
  // a long cycle meets the pulses in many phases anyway
  constexpr double long_cycle = 300.0; // pulses
  const int several = mains && machine.schedule.cycle > long_cycle * bus.data.nominal.supply.pulse() ? 4 : 8;
  const auto at = [&](double share, int phases) {
    return std::make_shared<const BusRun>(
        run_worst_phase(bus.data.at(share, bus.drives), bus.total, tolerance, phases));
  };
  // the low one takes as long as all others together
  std::future<std::shared_ptr<const BusRun>> low_run;
  if (mains) low_run = std::async(std::launch::async, at, -bus.data.swing, several);
  out.nominal = at(0.0, 1);
  out.high = mains ? at(bus.data.swing, 2) : out.nominal;
  out.lost_phase = without_a_phase(bus.data.at(0.0, bus.drives), bus.total, tolerance);
  out.low = mains ? low_run.get() : out.nominal;
  if (out.nominal->gave_up || out.low->gave_up || out.high->gave_up) return out;
  const double period = machine.schedule.cycle;
  if (!out.nominal->collapsed) out.supplied_watts = out.nominal->supplied / period;
  const BusModel low = bus.data.at(-bus.data.swing, bus.drives);
  look_at_start(machine, index, low, out);

  out.capacitance = low.capacitance;
  const double set = bus.data.nominal.supply.highest();
  out.trip = threshold(bus.under, set);
  // a drive that does not tell its own may trip before those that do
  if (!bus.no_under.empty()) out.trip = std::max(out.trip, threshold(std::nan(""), set));
  if (!out.low->collapsed)
    out.ride = ride_through(*out.low, bus.total, low.capacitance, out.trip, &out.ride_at);
  if (bus.data.nominal.chopper && !out.high->collapsed && bus.data.resistor_power > 0.0 &&
      bus.data.resistor_pulse > 0.0) {
    const PowerAt hot =
        greatest_heat(out.high->resistor_power, bus.data.resistor_pulse / bus.data.resistor_power);
    out.hottest = hot.watts;
    out.hottest_at = hot.time;
  }
  if (low.supply.kind == BusSupply::Kind::rectifier && !out.low->collapsed && out.low->lowest > 0.0) {
    const double most = greatest_window(bus.total, low.supply.pulse()).watts;
    out.ripple = ripple_bound(std::max(0.0, most) / out.low->lowest, low.supply.frequency, low.capacitance,
                              low.supply.phases);
  }
  return out;
}

double capacitance_for_stop(const BusState& state) {
  if (!state.stop || !(state.low->lowest > state.trip)) return std::numeric_limits<double>::quiet_NaN();
  return energy_of_stop(*state.stop) / stored_between(1.0, state.low->lowest, state.trip);
}

double worst_return_to(const MachinePower& machine, std::size_t bus, const std::function<bool()>& wanted) {
  std::vector<const PowerCurve*> parts;
  for (const std::size_t i : machine.buses[bus].axes) parts.push_back(&machine.axes[i].placed);
  return parts.empty() ? 0.0 : worst_return(parts, wanted);
}

std::vector<FedVolts> fed_volts(const MachinePower& machine, std::span<const BusState> buses) {
  std::vector<FedVolts> out(machine.axes.size());
  for (std::size_t b = 0; b < buses.size() && b < machine.buses.size(); ++b) {
    const BusState& state = buses[b];
    if (state.low->collapsed || state.high->collapsed || !machine.buses[b].problem.empty()) continue;
    for (const std::size_t i : machine.buses[b].axes) {
      FedVolts& fed = out[i];
      fed.high = state.high->highest;
      fed.set = machine.buses[b].data.nominal.supply.highest();
      fed.low = state.low->highest;
      for (const std::size_t block : machine.axes[i].blocks) {
        const PlacedBlock& placed = machine.schedule.blocks[block];
        fed.low = std::min(fed.low, state.low->lowest_within(placed.start, placed.end - placed.start));
      }
    }
  }
  return out;
}

} // namespace fulmox
