#pragma once
#include "core/support/small_name.hpp"

#include <compare>
#include <cstdint>
#include <limits>

namespace fulmox {

/// One of everything, by its place in the lists.
struct Combination {
  std::uint32_t motor = 0, head = 0, drive = 0, brake = 0, coupling = 0;
  auto operator<=>(const Combination&) const = default; // NOLINT(modernize-use-nullptr): its 0 is no pointer
};

/// What an axis does with a combination. Whether it fits is always as the limits say; the figures of one that
/// is not settled are bounds: nothing less is true. Settler works them out.
struct Trial {
  Combination parts;
  SmallName worst;    ///< label of the worst limit
  SmallName unjudged; ///< label of a limit that cannot be judged; "" where all are
  double used = std::numeric_limits<double>::quiet_NaN();    ///< of the worst limit; NaN when none is judged
  double energy = std::numeric_limits<double>::quiet_NaN();  ///< J from the bus in a cycle; NaN: not known
  double ratio = std::numeric_limits<double>::quiet_NaN();   ///< inertia of the load over the rotor's
  double winding = std::numeric_limits<double>::quiet_NaN(); ///< K, hottest; NaN: not known
  SmallName wanted; ///< input whose value is missing for the limit that is not judged
  bool fits = false;
  bool settled = false;
};
static_assert(sizeof(Trial) <= 64); // there may be a million: each in one line of the processor's memory

} // namespace fulmox
