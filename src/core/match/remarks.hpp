#pragma once
#include "core/match/settler.hpp"

#include <optional>

namespace fulmox {

/// A smaller motor of the same make and kind, on the same train, that does better.
struct SmallerBetter {
  std::uint32_t motor = 0; ///< its place
  double used = 0.0;       ///< its worst share with the best of its drives
  double inertia = 0.0;    ///< of the larger rotor over the smaller one
};

/// Where torque decides and a smaller motor of the same maker and kind does clearly better on the same train:
/// the larger one's own rotor takes more than its torque gives. Of several the best one; nothing where there
/// is none. What is not settled is worked out where it may be the one, or passed over without a Settler.
std::optional<SmallerBetter> smaller_does_better(const MatchSpace& space, const MatchResult& result,
                                                 const Trial& trial, Settler* settle = nullptr);

/// All that does not fit, by what rules it out, the most frequent first: with the limits the drives that
/// cannot feed such a motor at all, which are not judged any further.
std::vector<Killer> ruled_out(const MatchResult& result);

} // namespace fulmox
