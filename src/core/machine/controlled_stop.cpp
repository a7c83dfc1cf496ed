#include "core/machine/controlled_stop.hpp"

#include "core/bus/limit_formulas.hpp"
#include "core/machine/laid_out.hpp"
#include "core/power/stop_power.hpp"

#include <algorithm>
#include <cmath>

namespace fulmox {
namespace {

/// The stops of all axes of a bus over the machine's cycle, one figure of them.
class Sum {
public:
  explicit Sum(const MachinePower& machine) : machine_(machine) {}

  void add(const AxisPower& axis, const PowerCurve& stops, double waiting) {
    placed_.push_back(
        laid_out(stops, waiting, machine_.schedule.cycle, machine_.blocks, machine_.schedule, axis.blocks));
  }
  [[nodiscard]] PowerAt greatest() const {
    if (placed_.empty()) return {};
    std::vector<const PowerCurve*> parts;
    for (const PowerCurve& curve : placed_) parts.push_back(&curve);
    return greatest_power(sum_of(parts));
  }

private:
  const MachinePower& machine_;
  std::vector<PowerCurve> placed_;
};

std::shared_ptr<const StopPower> stops_of(const AxisPower& axis, double ramp) {
  const bool known = axis.stops != nullptr && axis.stops->ramp == ramp;
  return known ? axis.stops : std::make_shared<const StopPower>(stop_power(*axis.model, ramp));
}

void add_axes(const MachinePower& machine, const BusPower& bus, ControlledStop& out) {
  Sum needed(machine), returned(machine), pushed(machine);
  for (const std::size_t i : bus.axes) {
    const AxisPower& axis = machine.axes[i];
    if (axis.model == nullptr || axis.own.pieces.empty()) continue;
    const std::shared_ptr<const StopPower> known = stops_of(axis, out.ramp);
    const StopPower& stops = *known;
    needed.add(axis, stops.needed, out.ramp * std::max(0.0, axis.waiting));
    returned.add(axis, stops.returned, 0.0);
    pushed.add(axis, stops.pushed, 0.0);
    out.holding += std::max(0.0, axis.holding);
    const double start = axis.blocks.empty() ? 0.0 : machine.schedule.blocks[axis.blocks.front()].start;
    out.efforts.push_back({i, stops.effort, std::fmod(start + stops.effort_at, machine.schedule.cycle)});
  }
  const PowerAt most = needed.greatest(), back = returned.greatest(), at_once = pushed.greatest();
  out.slowing = most.watts;
  out.slowing_at = most.time;
  out.returned = back.watts;
  out.returned_at = back.time;
  out.pushed = at_once.watts;
  out.pushed_at = at_once.time;
}

} // namespace

void keep_stops(MachinePower& machine, const Section& pace, const Wanted& wanted) {
  const double ramp = pace.term("stop_ramp");
  if (std::isnan(ramp)) return;
  for (AxisPower& axis : machine.axes)
    if (wanted() && axis.bus && axis.model != nullptr && !axis.own.pieces.empty())
      axis.stops = stops_of(axis, ramp);
}

double energy_of_stop(const ControlledStop& stop) {
  return stop_need(energy_of_power(stop.going_on, stop.notice), stop.slowing,
                   energy_of_power(stop.steady, stop.ramp + stop.brake),
                   energy_of_power(stop.holding, stop.brake));
}

std::optional<ControlledStop> controlled_stop(const MachinePower& machine, std::size_t index,
                                              const Section& pace) {
  const BusPower& bus = machine.buses[index];
  const double ramp = pace.term("stop_ramp"), whole = pace.term("stop_time");
  if (std::isnan(ramp) || (bus.axes.empty() && bus.brakes.empty())) return std::nullopt;
  ControlledStop out;
  out.ramp = ramp;
  out.steady = bus.steady_watts;
  const auto closing = [&](std::size_t i) {
    const AxisPower& axis = machine.axes[i];
    if (axis.model != nullptr && axis.model->brake.fitted && !std::isnan(axis.model->brake.delay))
      out.brake = std::max(out.brake, axis.model->brake.delay.value);
  };
  for (const std::size_t i : bus.axes) closing(i);
  for (const std::size_t i : bus.brakes) {
    closing(i);
    out.steady += machine.axes[i].coil;
  }
  if (!std::isnan(whole)) out.notice = std::max(0.0, whole - out.ramp - out.brake);
  if (out.notice > 0.0)
    out.going_on = std::max(0.0, greatest_window(drawn_part(bus.total), out.notice).watts);
  add_axes(machine, bus, out);
  return out;
}

} // namespace fulmox
