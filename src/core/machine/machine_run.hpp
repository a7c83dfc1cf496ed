#pragma once
#include "core/machine/bus_state.hpp"

namespace fulmox {

/// All that follows from a machine beyond its axes: schedule, power, buses, limits. A value.
struct MachineRun {
  MachinePower power;
  std::vector<BusState> buses; ///< one per bus of `power`; without limits where its voltage is not known
  std::vector<FedVolts> fed;   ///< one per axis
  std::optional<Limit> rate;   ///< the machine's own limit: parts an hour
  std::vector<Step> steps;     ///< of that limit
  bool complete = false;       ///< buses are worked out, not the power alone
  std::size_t number = 0;      ///< the same for every stage of one run: who shows it need not show it twice

  /// Worst used share of any limit; NaN where none is judged.
  [[nodiscard]] double worst_used() const;
};

/// The quick part: schedule and power. `before`: an earlier run; axes that did not change keep what they had
/// there.
MachineRun begin_machine(const Document& document, const MachineResult& results,
                         const MachineRun* before = nullptr);
/// The rest: every bus simulated and judged. `wanted` is asked between buses.
void finish_machine(
    MachineRun& run, const Document& document, const std::function<bool()>& wanted = [] { return true; });
/// What takes longest and judges nothing: what comes back at the worst alignment.
void finish_returns(
    MachineRun& run, const std::function<bool()>& wanted = [] { return true; });
/// All of it.
MachineRun run_machine(const Document& document, const MachineResult& results);

/// The axis as its bus really feeds it: its typed bus voltages replaced by what it gets; itself where it is
/// on no bus, or the bus is not known.
Axis as_fed(const Axis& axis, const FedVolts& fed);

} // namespace fulmox
