#pragma once
#include "core/match/search.hpp"
#include "core/match/settler.hpp"

#include <array>
#include <map>
#include <set>
#include <span>

namespace fulmox {

/// What combinations are compared by. Less is better in all of them.
struct Yardstick {
  std::string_view id, label, symbol, help;
  Kind kind;
  double scale; ///< what counts as much as a worst share of 100 %: fixed, so that a filter changes no order
  double (*value)(const MatchSpace& space, const Trial& trial); ///< NaN: not known
  /// Where it is the sum of a figure of the parts: that figure.
  double PartChoice::*adds = nullptr;
  /// Where it is a figure of the combination itself: that one.
  double Trial::*reads = nullptr;
};
std::span<const Yardstick> yardsticks();
/// nullptr when there is none of that id.
const Yardstick* find_yardstick(std::string_view id);

/// How much each yardstick counts, >= 0, by its id; what is not named does not count.
using Weights = std::map<std::string, double, std::less<>>;
/// Price and margin alike.
Weights usual_weights();

/// A property by which parts are told apart: "Motor, kind".
struct Facet {
  std::string_view id, label, slot;
  std::string (*value)(const PartChoice& choice); ///< "" = not told
};
std::span<const Facet> facets();
/// What the parts that are tried have of it.
std::set<std::string> values_of(const MatchSpace& space, const Facet& facet);

/// What is to be listed: of every facet named one of the values; nothing at all where none is given.
struct Filter {
  std::map<std::string, std::set<std::string>, std::less<>> of; ///< by the facet's id
  double most_price = std::numeric_limits<double>::infinity();  ///< a price that is not known stays
  bool in_stock = false; ///< only where every part is told to be at hand

  bool operator==(const Filter&) const = default;
};

/// How many of those that pass the rest of the filter are in stock.
std::size_t count_in_stock(const MatchSpace& space, const Fits& fits, Filter filter, unsigned threads = 1);

/// How many combinations a value of a facet would leave, all other facets as they are set.
struct FacetCount {
  std::string value;
  std::size_t combinations = 0;
  bool operator==(const FacetCount&) const = default;
};
std::vector<std::vector<FacetCount>> facet_counts(const MatchSpace& space, const Fits& fits,
                                                  const Filter& filter, unsigned threads = 1);

/// What decides about the place of a combination, the lesser first; ties go by the places of its parts.
struct Standing {
  int missing = 0;  ///< figures that count and are not known, a limit that cannot be judged
  double sum = 0.0; ///< weighted
  auto operator<=>(const Standing&) const = default; // NOLINT(modernize-use-nullptr): its 0 is no pointer
};
Standing standing_of(const MatchSpace& space, const Trial& trial, const Weights& weights);

/// Places in `trials` of those that pass, best first: those whose parts tell all that is asked, then by the
/// weighted sum, then by their places in the lists of parts.
std::vector<std::size_t> ranked(const MatchSpace& space, std::span<const Trial> trials,
                                const Weights& weights, const Filter& filter);

/// How far down a list of very many is put in order: nobody reads on.
inline constexpr std::size_t longest_order = 20'000;
/// A list of what passes.
struct Ranked {
  std::vector<std::size_t> order;  ///< places, best first; of very many no more than `longest_order`
  std::vector<std::size_t> others; ///< some of those that come later, from all over the list
  std::size_t passing = 0;         ///< how many pass
};
/// The same where figures may be bounds: as many as wanted are settled and in their true order. What follows
/// is ordered by what is known of it.
Ranked ranked(const MatchSpace& space, Fits& fits, const Weights& weights, const Filter& filter,
              Settler& settle, std::size_t number, unsigned threads = 1);

/// Of the places given those that no other beats in both measures, by rising x.
std::vector<std::size_t> best_front(const MatchSpace& space, std::span<const Trial> trials,
                                    std::span<const std::size_t> places, const Yardstick& x,
                                    const Yardstick& y);
/// Of all that pass, where figures may be bounds: all that are on it are settled.
std::vector<std::size_t> best_front(const MatchSpace& space, Fits& fits, const Filter& filter,
                                    const Yardstick& x, const Yardstick& y, Settler& settle,
                                    unsigned threads = 1);

} // namespace fulmox
