#pragma once
#include "core/machine/supply_choice.hpp"
#include "core/rules/rules.hpp"

namespace fulmox {

/// What a bus would be with another supply: the machine's power as it is, the bus's form replaced.
class Trying {
public:
  Trying(const MachineRun& run, std::size_t bus, const Document& document);

  /// Simulated and judged as the bus itself is.
  SupplyTrial judge(std::string title, const Section& form);

  /// Of the form judged last.
  [[nodiscard]] const BusState& state() const { return state_; }
  [[nodiscard]] const BusPower& bus() const { return power_.buses[bus_]; }

private:
  void weigh(SupplyTrial& trial, const std::vector<Limit>& limits) const;

  MachinePower power_;
  std::size_t bus_;
  const Document& document_;
  Rules rules_;
  std::optional<ControlledStop> stop_; ///< the same whatever the supply
  BusState state_;
};

} // namespace fulmox
