#include "core/match/ranking.hpp"

#include "core/match/sieve.hpp"
#include "core/match/sums_of_parts.hpp"
#include "core/support/in_parts.hpp"

#include <algorithm>
#include <cmath>
#include <cstdint>
#include <iterator>
#include <limits>
#include <numeric>
#include <optional>
#include <tuple>

namespace fulmox {
namespace {

/// What stands in one line: all but the drive.
double length_of(const MatchSpace& s, const Trial& t) {
  const auto parts = parts_of(s, t);
  return sum_of(std::span(parts).first(4), &PartChoice::length);
}

/// Of the part that comes last; one that is not known leaves it open.
double lead_time_of(const MatchSpace& s, const Trial& t) {
  double longest = 0.0;
  for (const PartChoice* part : parts_of(s, t)) {
    if (part->none()) continue;
    if (std::isnan(part->lead_time)) return part->lead_time;
    longest = std::max(longest, part->lead_time);
  }
  return longest;
}

constexpr std::array all_yardsticks{
    Yardstick{"used", "Worst limit", "", "Used share of the worst limit: what is left of it is the margin.",
              Kind::share, 1.0, [](const MatchSpace&, const Trial& t) { return t.used; }},
    Yardstick{"price", "Price", "", "Of all parts together, in the money of their lists.", Kind::number,
              1000.0, [](const MatchSpace& s, const Trial& t) { return sum_of(s, t, &PartChoice::price); },
              &PartChoice::price},
    Yardstick{"mass", "Mass", "m", "Of all parts together.", Kind::mass, 10.0,
              [](const MatchSpace& s, const Trial& t) { return sum_of(s, t, &PartChoice::mass); },
              &PartChoice::mass},
    Yardstick{"energy", "Energy", "E", "Drawn from the bus in a cycle; what comes back counts as lost.",
              Kind::energy, 3600.0, [](const MatchSpace&, const Trial& t) { return t.energy; }},
    Yardstick{"ratio", "Inertia ratio", "J_L/J_m", "Inertia of the load over that of the rotor.",
              Kind::number, 10.0, [](const MatchSpace&, const Trial& t) { return t.ratio; }},
    Yardstick{"winding", "Winding", "T_w", "Hottest temperature of the winding in the steady cycle.",
              Kind::temperature, 400.0, [](const MatchSpace&, const Trial& t) { return t.winding; }},
    Yardstick{"length", "Length", "L", "Of motor, gearhead, brake and coupling one after the other.",
              Kind::length, 1.0, &length_of},
    Yardstick{"lead_time", "Lead time", "", "Until the last of the parts is there.", Kind::time,
              90.0 * 86400.0, &lead_time_of}};

/// A yardstick for many combinations: what adds up over parts stands in rows.
class YardstickReader {
public:
  YardstickReader(const MatchSpace& space, const Yardstick& yardstick)
      : space_(space), yardstick_(yardstick) {
    if (yardstick.adds != nullptr) sums_.emplace(space, yardstick.adds);
  }

  double operator()(const Trial& trial) const {
    return sums_ ? (*sums_)(trial.parts) : yardstick_.value(space_, trial);
  }

private:
  const MatchSpace& space_;
  const Yardstick& yardstick_;
  std::optional<SumsOfParts> sums_;
};

} // namespace

std::span<const Yardstick> yardsticks() { return all_yardsticks; }
const Yardstick* find_yardstick(std::string_view id) {
  const auto found = std::find_if(all_yardsticks.begin(), all_yardsticks.end(),
                                  [&](const Yardstick& m) { return m.id == id; });
  return found == all_yardsticks.end() ? nullptr : &*found;
}

Weights usual_weights() { return {{"used", 1.0}, {"price", 1.0}}; }

namespace {

/// The yardsticks that count, and how much: `Value` tells a combination's by one of them.
template <class Value> class Weighted {
public:
  template <class Make> Weighted(const Weights& weights, const Make& make) {
    for (const Yardstick& yardstick : all_yardsticks)
      if (const auto weight = weights.find(yardstick.id); weight != weights.end() && weight->second != 0.0)
        counted_.push_back({make(yardstick), weight->second, yardstick.scale});
  }

  Standing operator()(const Trial& trial) const {
    Standing standing{trial.wanted.empty() ? 0 : 1, 0.0};
    for (const auto& [value_of, weight, scale] : counted_) {
      const double value = value_of(trial);
      if (std::isfinite(value))
        standing.sum += weight * value / scale;
      else
        ++standing.missing;
    }
    return standing;
  }

private:
  struct Counted {
    Value value_of;
    double weight, scale;
  };
  std::vector<Counted> counted_;
};

} // namespace

Standing standing_of(const MatchSpace& space, const Trial& trial, const Weights& weights) {
  struct Value {
    const MatchSpace& space;
    const Yardstick& yardstick;
    double operator()(const Trial& t) const { return yardstick.value(space, t); }
  };
  return Weighted<Value>(weights, [&](const Yardstick& yardstick) { return Value{space, yardstick}; })(trial);
}

namespace {

/// There may be millions: kept small.
struct Row {
  double sum;
  std::uint32_t missing, place;

  Row(const Standing& standing, std::size_t at)
      : sum(standing.sum), missing(static_cast<std::uint32_t>(standing.missing)),
        place(static_cast<std::uint32_t>(at)) {}
};

/// By standing, ties by the places of the parts.
class Sooner {
public:
  explicit Sooner(std::span<const Trial> trials) : trials_(trials) {}
  bool operator()(const Row& a, const Row& b) const {
    if (a.missing != b.missing) return a.missing < b.missing;
    if (a.sum != b.sum) return a.sum < b.sum;
    return trials_[a.place].parts < trials_[b.place].parts;
  }

private:
  std::span<const Trial> trials_;
};

std::vector<Row> rows_of(const MatchSpace& space, std::span<const Trial> trials, const Weights& weights,
                         const Filter& filter, unsigned threads) {
  const Sieve sieve(space, filter);
  const Weighted<YardstickReader> standing(
      weights, [&](const Yardstick& yardstick) { return YardstickReader(space, yardstick); });
  return in_parts(trials.size(), threads, many_trials, [&](std::size_t from, std::size_t to) {
    std::vector<Row> rows;
    rows.reserve(to - from);
    for (std::size_t i = from; i < to; ++i)
      if (sieve.passes(trials[i])) rows.emplace_back(standing(trials[i]), i);
    return rows;
  });
}

/// Puts the first so many rows and some more to the front, and gives the end of those: where they stand is
/// told by a sample, so that one pass sorts out most of millions.
std::vector<Row>::iterator likely_first(std::vector<Row>::iterator from, std::vector<Row>::iterator to,
                                        std::size_t number) {
  constexpr std::size_t sampled = 64; ///< every so manieth
  const auto size = static_cast<std::size_t>(to - from);
  const std::size_t sought = (number + number / 2) / sampled;
  if (size < 4 * number || sought == 0) return to;
  const auto earlier = [](const Row& a, const Row& b) {
    return std::tie(a.missing, a.sum) < std::tie(b.missing, b.sum);
  };
  std::vector<Row> sample;
  for (std::size_t i = 0; i < size; i += sampled) sample.push_back(from[static_cast<std::ptrdiff_t>(i)]);
  const auto last = sample.begin() + static_cast<std::ptrdiff_t>(sought);
  std::nth_element(sample.begin(), last, sample.end(), earlier);
  const auto end = std::partition(from, to, [&](const Row& row) { return !earlier(*last, row); });
  return static_cast<std::size_t>(end - from) >= number ? end : to;
}

/// Puts so many more rows in order behind those that are; gives where the order ends.
std::vector<Row>::iterator order_more(std::vector<Row>& rows, std::vector<Row>::iterator ordered,
                                      std::size_t more, const Sooner& sooner) {
  const auto left = static_cast<std::size_t>(rows.end() - ordered);
  const auto to = ordered + static_cast<std::ptrdiff_t>(std::min(left, more));
  if (to != rows.end()) std::nth_element(ordered, to, likely_first(ordered, rows.end(), more), sooner);
  std::sort(ordered, to, sooner);
  return to;
}

void add_places(std::vector<std::size_t>& places, std::span<const Row> rows) {
  for (const Row& row : rows) places.push_back(row.place);
}

} // namespace

std::vector<std::size_t> ranked(const MatchSpace& space, std::span<const Trial> trials,
                                const Weights& weights, const Filter& filter) {
  std::vector<Row> rows = rows_of(space, trials, weights, filter, 1);
  std::sort(rows.begin(), rows.end(), Sooner(trials));
  std::vector<std::size_t> places;
  places.reserve(rows.size());
  add_places(places, rows);
  return places;
}

std::vector<std::size_t> ranked(const MatchSpace& space, std::span<Trial> trials, const Weights& weights,
                                const Filter& filter, Settler& settle, std::size_t number, unsigned threads) {
  std::vector<Row> rows = rows_of(space, trials, weights, filter, threads);
  const Sooner sooner(trials);
  const auto later = [&](const Row& a, const Row& b) { return sooner(b, a); };
  std::vector<std::size_t> places;
  places.reserve(rows.size());
  std::vector<Row> settled; // a heap of those taken from the rows whose turn may not have come yet
  auto next = rows.begin(), ordered = order_more(rows, next, longest_order, sooner);
  while (places.size() < number && (next != rows.end() || !settled.empty())) {
    if (next == ordered) ordered = order_more(rows, ordered, longest_order, sooner);
    // what a row is worth at least is what puts it in order: nothing behind it comes before
    if (!settled.empty() && (next == rows.end() || sooner(settled.front(), *next))) {
      std::pop_heap(settled.begin(), settled.end(), later);
      places.push_back(settled.back().place);
      settled.pop_back();
      continue;
    }
    Trial& trial = trials[next->place];
    settle(trial);
    settled.emplace_back(standing_of(space, trial, weights), next->place);
    std::push_heap(settled.begin(), settled.end(), later);
    ++next;
  }
  std::sort(settled.begin(), settled.end(), sooner);
  std::vector<Row> merged;
  merged.reserve(settled.size() + static_cast<std::size_t>(ordered - next));
  std::merge(settled.begin(), settled.end(), next, ordered, std::back_inserter(merged), sooner);
  add_places(places, merged);
  add_places(places, std::span(ordered, rows.end()));
  return places;
}

namespace {

struct Dot {
  double x, y;
  std::size_t place;
};

/// Those of `dots` that none of `by` further left beats, and few that one does: by columns, each against the
/// lowest of all columns before it. Putting millions in order takes longer than anything else of a picture.
std::vector<Dot> not_beaten(const std::vector<Dot>& dots, const std::vector<Dot>& by) {
  if (dots.empty()) return dots;
  const auto [first, last] =
      std::minmax_element(dots.begin(), dots.end(), [](const Dot& a, const Dot& b) { return a.x < b.x; });
  const double left = first->x, width = last->x - first->x;
  if (!(width > 0.0)) return dots;
  constexpr std::size_t columns = 4096;
  const auto column = [&](const Dot& dot) { // never falls where x rises
    const double at = std::clamp((dot.x - left) / width * columns, 0.0, columns - 1.0);
    return static_cast<std::size_t>(at);
  };
  std::vector<double> lowest(columns + 1, std::numeric_limits<double>::infinity()); // before each column
  for (const Dot& dot : by) {
    double& there = lowest[column(dot) + 1];
    there = std::min(there, dot.y);
  }
  std::partial_sum(lowest.begin(), lowest.end(), lowest.begin(),
                   [](double a, double b) { return std::min(a, b); });
  std::vector<Dot> left_over;
  std::copy_if(dots.begin(), dots.end(), std::back_inserter(left_over),
               [&](const Dot& dot) { return dot.y < lowest[column(dot)]; });
  return left_over;
}

/// Dots that are known for good, rising in x and falling in y: what lies right of one and not below is
/// beaten.
class Stair {
public:
  void add(const Dot& dot) { steps_.push_back(dot); }
  [[nodiscard]] bool beats(const Dot& dot) const {
    const auto right = std::lower_bound(steps_.begin(), steps_.end(), dot.x,
                                        [](const Dot& step, double x) { return step.x < x; });
    return right != steps_.begin() && std::prev(right)->y <= dot.y;
  }

private:
  std::vector<Dot> steps_;
};

/// Those that no stair beats, by rising place, which is the order in which they lie in memory: that of the
/// list leads all over it.
std::vector<Dot> dots_of(std::span<const Trial> trials, std::span<const std::size_t> places,
                         const YardstickReader& along, const YardstickReader& up, unsigned threads,
                         const Stair& stair = {}) {
  std::vector<bool> looked_at(trials.size(), false);
  for (const std::size_t place : places) looked_at[place] = true;
  return in_parts(trials.size(), threads, many_trials, [&](std::size_t from, std::size_t to) {
    std::vector<Dot> dots;
    for (std::size_t place = from; place < to; ++place) {
      if (!looked_at[place]) continue;
      const Dot dot{along(trials[place]), up(trials[place]), place};
      if (std::isfinite(dot.x) && std::isfinite(dot.y) && !stair.beats(dot)) dots.push_back(dot);
    }
    return dots;
  });
}

std::vector<std::size_t> front_of(const std::vector<Dot>& dots, std::span<const Trial> trials) {
  std::vector<Dot> some = not_beaten(dots, dots);
  std::sort(some.begin(), some.end(), [&](const Dot& a, const Dot& b) {
    return std::tie(a.x, a.y, trials[a.place].parts) < std::tie(b.x, b.y, trials[b.place].parts);
  });
  std::vector<std::size_t> front;
  double least = std::numeric_limits<double>::infinity();
  for (const Dot& dot : some)
    if (dot.y < least) {
      least = dot.y;
      front.push_back(dot.place);
    }
  return front;
}

/// The front of dots of which some are not known yet: those on it are settled, until all of it are.
std::vector<std::size_t> settled_front(std::vector<Dot> dots, std::span<Trial> trials,
                                       const YardstickReader& along, const YardstickReader& up,
                                       Settler& settle) {
  // what is beaten even at the least it may be worth is beaten; what is not must be known
  for (;;) {
    auto front = front_of(dots, trials);
    bool moved = false;
    std::vector<Dot> known;
    for (const std::size_t place : front) {
      const bool before = trials[place].settled;
      if (!before) settle(trials[place]);
      if (!trials[place].settled) continue;
      moved = moved || !before;
      const auto dot = std::lower_bound(dots.begin(), dots.end(), place,
                                        [](const Dot& a, std::size_t b) { return a.place < b; });
      const Dot settled{along(trials[place]), up(trials[place]), place};
      if (std::isfinite(settled.x) && std::isfinite(settled.y))
        known.push_back(*dot = settled);
      else
        dot->y = std::numeric_limits<double>::infinity(); // is nowhere in the picture
    }
    if (!moved) return front;
    dots = not_beaten(dots, known); // for good: what is not known yet only gets worse
  }
}

/// The front of some of the places, as many as cost little: it beats most of the others before they are
/// looked at closely.
Stair stair_of_some(std::span<Trial> trials, std::span<const std::size_t> places,
                    const YardstickReader& along, const YardstickReader& up, Settler& settle) {
  constexpr std::size_t few = 2000;
  Stair stair;
  if (places.size() < 8 * few) return stair;
  std::vector<std::size_t> some;
  for (std::size_t i = 0; i < places.size(); i += places.size() / few) some.push_back(places[i]);
  for (const std::size_t place :
       settled_front(dots_of(trials, some, along, up, 1), trials, along, up, settle))
    if (trials[place].settled) stair.add({along(trials[place]), up(trials[place]), place});
  return stair;
}

} // namespace

std::vector<std::size_t> best_front(const MatchSpace& space, std::span<const Trial> trials,
                                    std::span<const std::size_t> places, const Yardstick& x,
                                    const Yardstick& y) {
  return front_of(dots_of(trials, places, YardstickReader(space, x), YardstickReader(space, y), 1), trials);
}

std::vector<std::size_t> best_front(const MatchSpace& space, std::span<Trial> trials,
                                    std::span<const std::size_t> places, const Yardstick& x,
                                    const Yardstick& y, Settler& settle, unsigned threads) {
  const YardstickReader along(space, x), up(space, y);
  const Stair stair = stair_of_some(trials, places, along, up, settle);
  return settled_front(dots_of(trials, places, along, up, threads, stair), trials, along, up, settle);
}

} // namespace fulmox
