#pragma once
#include "core/machine/machine_run.hpp"

#include <limits>
#include <optional>

namespace fulmox {

/// What the machine's bus says of one of its axes. Points into what it was made from.
struct BusOnAxis {
  std::size_t bus = 0;           ///< its place in the run
  const Limit* of_bus = nullptr; ///< the bus's worst limit; null while none is judged
  /// Of the axis's own limits the worst that breaks at the voltage it gets, but not at the one typed.
  const Limit* own = nullptr;
  double low = std::numeric_limits<double>::quiet_NaN(); ///< V, the least it gets while it moves
};

/// Nothing for an axis on no bus of the machine. `typed` are the axes as they stand, `fed` at the voltages
/// they get; either may lack a result.
std::optional<BusOnAxis> bus_on_axis(const MachineRun& run, const MachineResult& typed,
                                     const MachineResult& fed, std::size_t axis);

} // namespace fulmox
