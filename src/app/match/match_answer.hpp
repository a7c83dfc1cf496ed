#pragma once
#include "core/match/ranking.hpp"

#include <memory>
#include <optional>

namespace fulmox::app {

/// How combinations are listed and pictured.
struct ListAsked {
  Weights weights;
  Filter filter;
  const Yardstick *across = find_yardstick("price"), *up = find_yardstick("used");
  bool operator==(const ListAsked&) const = default;
};

/// What is shown of an answer.
struct MatchList {
  ListAsked asked;
  std::vector<std::size_t> order;  ///< places of those that pass, best first down to longest_order
  std::vector<std::size_t> others; ///< some of those that come later
  std::size_t passing = 0;         ///< how many pass
  std::vector<std::size_t> front;  ///< of those the ones that no other beats, by rising x
  std::vector<std::size_t> dots;   ///< of very many the best, the front and some of all others
  std::vector<std::size_t> rows;   ///< what is in order, and what else is pictured
};

/// What a search found, with the lists its places point into. Of very many that fit, the figures of those
/// that are looked at are worked out then.
struct MatchAnswer {
  MatchSpace space;
  mutable MatchResult result; ///< what is settled later is only better known
  std::shared_ptr<Settler> settle;
  std::vector<Combination> best = {}; ///< by weights and filter when it was asked for, the best first
  double seconds = 0.0;               ///< that the search took
  mutable std::shared_ptr<const MatchList> last = nullptr;

  /// What was asked last is known: a search works it out beside the window. The first rows are settled, what
  /// is below when it comes into sight.
  [[nodiscard]] const MatchList& list(const ListAsked& asked) const;

  /// One that fits, settled.
  [[nodiscard]] Trial fit(std::size_t place) const { return result.fits.settle(place, *settle); }
};

} // namespace fulmox::app
