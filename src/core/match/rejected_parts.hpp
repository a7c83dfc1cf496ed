#pragma once
#include "core/match/search.hpp"

namespace fulmox {

/// A part that is tried: its slot ("motor") and its place in the list of that.
struct PartPlace {
  std::string_view slot;
  std::uint32_t place = 0;
  auto operator<=>(const PartPlace&) const = default; // NOLINT(modernize-use-nullptr): its 0 is no pointer
};

/// Those of a slot that are in nothing that fits.
std::vector<PartPlace> rejected_parts(const MatchSpace& space, const Fits& fits, std::string_view slot);

/// How near a part comes: with all others, each with each.
struct PartOutlook {
  std::size_t fits = 0; ///< combinations with it
  /// The nearest of those that no drive makes fit, with all limits that it breaks; of several that are out
  /// without end the one that breaks the fewest.
  std::optional<Miss> nearest;
  std::string why; ///< where there is neither: why nothing is known
};

/// Exact: a search of its own, with all that a search gives (MatchRun), in which the part is the only one of
/// its slot. Of a run that is not wanted any more nothing counts.
PartOutlook outlook_of(const Axis& axis, const Section& house_rules, const MatchSpace& space, PartPlace part,
                       MatchRun run = {});

} // namespace fulmox
