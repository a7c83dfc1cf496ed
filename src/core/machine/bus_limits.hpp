#pragma once
#include "core/machine/bus_state.hpp"
#include "core/rules/rules.hpp"

#include <optional>
#include <span>

namespace fulmox {

/// Everything a limit of a bus may look at.
struct BusContext {
  const MachinePower& machine;
  std::size_t bus = 0;
  const BusState& state;
  const Section& pace;
  const Rules& rules;
  Recorder& recorder;

  [[nodiscard]] const BusPower& power() const { return machine.buses[bus]; }
  [[nodiscard]] const BusData& data() const { return power().data; }
};

/// A limit of a bus or of the machine: nothing where the bus has no such part.
struct BusLimitSpec {
  std::string_view id, label, help;
  std::optional<Limit> (*judge)(const BusContext&);
};

std::span<const BusLimitSpec> bus_limit_specs();

/// Judges all limits of a bus, worst first, those not judged last. After a collapse every limit of its
/// voltage is over and no number follows it.
std::vector<Limit> judge_bus(const BusContext& context);

} // namespace fulmox
