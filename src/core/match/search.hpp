#pragma once
#include "core/limits/limit.hpp"
#include "core/match/choices.hpp"
#include "core/match/fits.hpp"

#include <functional>
#include <limits>

namespace fulmox {

/// What is tried, each with each: none of the lists is empty. Where nothing is to be searched in a slot, what
/// stands there now is the only choice.
struct MatchSpace {
  std::vector<PartChoice> motors, heads, drives, brakes, couplings;
};

/// The list of a slot ("motor"), and where a combination tells its place in it.
const std::vector<PartChoice>& choices_of(const MatchSpace& space, std::string_view slot);
std::vector<PartChoice>& choices_of(MatchSpace& space, std::string_view slot);
std::uint32_t Combination::*place_in(std::string_view slot);

/// The slots in which several parts are tried.
std::vector<std::string_view> searched_slots(const MatchSpace& space);

/// Which slots are searched beside motor, gearhead and drive.
struct AlsoSearched {
  bool brake = false, coupling = false;
};
MatchSpace match_space(const Axis& axis, const Library& library, AlsoSearched also = {},
                       unsigned threads = 1);

/// A pair of motor and train that no drive makes fit, with the drive that comes nearest.
struct Miss {
  Trial trial;
  std::vector<Verdict::Over> over; ///< the limits it breaks, the worst first
};

/// Combinations that a limit rules out; of several the one that was found to be broken most.
struct Killer {
  std::string_view limit;
  double combinations = 0.0;
};

/// A part that cannot be tried, and why.
struct Unusable {
  std::string name;
  Problem problem;
};

struct MatchResult {
  Problem problem;             ///< of the axis or the rules; then nothing below holds
  Fits fits;                   ///< all that fit; once all are settled by their places in the lists
  std::vector<Miss> misses;    ///< the nearest ones first
  std::vector<Killer> killers; ///< the most frequent first
  std::vector<Unusable> unusable;
  double tried = 0.0;    ///< combinations
  double feedless = 0.0; ///< of them, those whose drive cannot feed the motor at all
  bool finished = false; ///< false where it was cancelled
};

/// How a search runs beside others.
struct MatchRun {
  unsigned threads = 1;
  /// Only every so manieth pair of motor and train, from this one on: the parts of a search that is shared
  /// out. Each pair is in one part, whole.
  std::size_t part = 0, parts = 1;
  std::size_t misses = 100; ///< how many are worked out to the end
  /// Of misses that are equally near those of the first parts are told; else any of them, which takes far
  /// less where one limit is what millions of pairs break.
  bool first_of_ties = true;
  /// Where no more than so many fit, all of them are settled; else what is asked for later is, by a Settler.
  std::size_t settle = std::numeric_limits<std::size_t>::max();
  std::function<bool()> wanted;               ///< asked often; blank: always
  std::function<void(double share)> progress; ///< called from any of the threads; may be blank
  /// Called once with some of what fits, before all of it is known, where that takes longer than `patience`;
  /// may be blank.
  std::function<void(const MatchResult&)> some;
  double patience = 0.1; ///< s
  /// Called once all that fits is known, settled or not; may be blank.
  std::function<void(const MatchResult&)> first;
  std::function<void()> begins; ///< called by each thread as it begins; may be blank
};

/// Tries every combination on an axis, judged as in evaluate(). The answer does not depend on the number of
/// threads.
MatchResult search(const Axis& axis, const Section& house_rules, const MatchSpace& space,
                   const MatchRun& run = {});

/// "HS23-76-28, bipolar series · TP60-5 · SS50-060"; brake and coupling where they are searched.
std::string name_of(const MatchSpace& space, const Combination& parts);

/// The axis with a combination put in.
Axis with_parts(Axis axis, const MatchSpace& space, const Combination& parts);

} // namespace fulmox
