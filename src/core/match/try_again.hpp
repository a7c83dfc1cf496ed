#pragma once
#include "core/match/search.hpp"

#include <span>

namespace fulmox {

/// Combinations of a list of parts judged on an axis, as in search(): those that fit stand in the answer,
/// settled; it has no misses, is not finished, and `tried` tells how many they were. For what was best before
/// an edit, told while all are tried anew.
MatchResult try_again(const Axis& axis, const Section& house_rules, const MatchSpace& space,
                      std::span<const Combination> combinations, const MatchRun& run = {});

/// Whether the parts of some combinations stand at the same places in another list.
bool same_parts(const MatchSpace& a, const MatchSpace& b, std::span<const Combination> combinations);

} // namespace fulmox
