#include "core/machine/bus_on_axis.hpp"

#include <algorithm>

namespace fulmox {
namespace {

const Evaluation* evaluation_of(const MachineResult& results, std::size_t axis) {
  return axis < results.size() && results[axis] != nullptr ? results[axis]->evaluation.get() : nullptr;
}

bool breaks(const Evaluation& evaluation, std::string_view id) {
  return std::any_of(evaluation.limits.begin(), evaluation.limits.end(),
                     [&](const Limit& limit) { return limit.id == id && limit.state == LimitState::over; });
}

} // namespace

std::optional<BusOnAxis> bus_on_axis(const MachineRun& run, const MachineResult& typed,
                                     const MachineResult& fed, std::size_t axis) {
  const auto& buses = run.power.buses;
  const auto its = std::find_if(buses.begin(), buses.end(), [&](const BusPower& bus) {
    return std::find(bus.axes.begin(), bus.axes.end(), axis) != bus.axes.end();
  });
  if (its == buses.end()) return std::nullopt;
  BusOnAxis out;
  out.bus = static_cast<std::size_t>(its - buses.begin());
  if (out.bus < run.buses.size()) {
    const auto& limits = run.buses[out.bus].limits; // the worst first, those not judged last
    if (!limits.empty() && limits.front().state != LimitState::not_judged) out.of_bus = &limits.front();
  }
  if (axis < run.fed.size()) out.low = run.fed[axis].low;
  const Evaluation *as_typed = evaluation_of(typed, axis), *as_fed = evaluation_of(fed, axis);
  if (as_typed == nullptr || as_fed == nullptr) return out;
  for (const Limit& limit : as_fed->limits) {
    if (limit.state != LimitState::over || breaks(*as_typed, limit.id)) continue;
    out.own = &limit;
    break;
  }
  return out;
}

} // namespace fulmox
