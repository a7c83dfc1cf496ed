#pragma once
#include "core/match/kinds.hpp"

namespace fulmox {

/// How far off an input marked as a guess may be where it tells no spread of its own; common practice.
inline constexpr double guess_may_be_off = 0.2;
inline constexpr double guessed_temperature_off = 10.0; ///< K: a share of it means nothing

/// An input that is not known well, and at which end of what it may be another kind would be the one to take.
struct KindTurn {
  std::string path; ///< "load.friction"
  double value = 0.0;
  bool breaks = false; ///< there the first breaks a limit that the second keeps; else the order turns
  double used = 0.0;   ///< what the first uses its worst limit to there
  std::string text;    ///< a sentence
};

/// Tries both ends of every input of the axis that carries a spread or is a guess, the others as they stand,
/// with the parts that stand for the two kinds; sheets of these parts themselves are left alone. What breaks
/// a limit comes first, the worst before others. Both kinds must fit. Where it is given up: what is known by
/// then.
std::vector<KindTurn> kind_turns(const KindCandidate& first, const KindCandidate& second,
                                 const Section& house_rules, const KindsRun& run);

} // namespace fulmox
