#include "core/match/ranking.hpp"

#include "core/match/sieve.hpp"
#include "core/match/yardstick_reader.hpp"
#include "core/support/in_parts.hpp"

#include <algorithm>
#include <cmath>
#include <cstdint>
#include <iterator>
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
              Kind::share, 1.0, [](const MatchSpace&, const Trial& t) { return t.used; }, nullptr,
              &Trial::used},
    Yardstick{"price", "Price", "", "Of all parts together, in the money of their lists.", Kind::number,
              1000.0, [](const MatchSpace& s, const Trial& t) { return sum_of(s, t, &PartChoice::price); },
              &PartChoice::price},
    Yardstick{"mass", "Mass", "m", "Of all parts together.", Kind::mass, 10.0,
              [](const MatchSpace& s, const Trial& t) { return sum_of(s, t, &PartChoice::mass); },
              &PartChoice::mass},
    Yardstick{"energy", "Energy", "E", "Drawn from the bus in a cycle; what comes back counts as lost.",
              Kind::energy, 3600.0, [](const MatchSpace&, const Trial& t) { return t.energy; }, nullptr,
              &Trial::energy},
    Yardstick{"ratio", "Inertia ratio", "J_L/J_m", "Inertia of the load over that of the rotor.",
              Kind::number, 10.0, [](const MatchSpace&, const Trial& t) { return t.ratio; }, nullptr,
              &Trial::ratio},
    Yardstick{"winding", "Winding", "T_w", "Hottest temperature of the winding in the steady cycle.",
              Kind::temperature, 400.0, [](const MatchSpace&, const Trial& t) { return t.winding; }, nullptr,
              &Trial::winding},
    Yardstick{"length", "Length", "L", "Of motor, gearhead, brake and coupling one after the other.",
              Kind::length, 1.0, &length_of},
    Yardstick{"lead_time", "Lead time", "", "Until the last of the parts is there.", Kind::time,
              90.0 * 86400.0, &lead_time_of}};

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
        counted_.push_back({make(yardstick), weight->second / yardstick.scale});
  }

  Standing operator()(const Trial& trial) const {
    int missing = trial.wanted.empty() ? 0 : 1;
    double sum = 0.0;
    for (const auto& [value_of, factor] : counted_) {
      const double value = value_of(trial);
      if (std::isfinite(value))
        sum += factor * value;
      else
        ++missing;
    }
    return {missing, sum};
  }

private:
  struct Counted {
    Value value_of;
    double factor; ///< weight over scale
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

bool earlier(const Row& a, const Row& b) { return std::tie(a.missing, a.sum) < std::tie(b.missing, b.sum); }

/// What passes a filter: rows that come first, and the places of those that come behind them all.
struct Sorted {
  std::vector<Row> near;
  std::vector<std::size_t> far;
};

/// Tells combinations that pass a filter by where they stand.
class Sorter {
public:
  Sorter(const MatchSpace& space, std::span<const Trial> trials, const Weights& weights, const Filter& filter)
      : trials_(trials), sieve_(space, filter),
        standing_(weights, [&](const Yardstick& yardstick) { return YardstickReader(space, yardstick); }) {}

  /// All rows are near.
  [[nodiscard]] std::vector<Row> all() const {
    return in_part(0, trials_.size(), [](const Row&) { return true; }).near;
  }
  /// At least so many are near, where there are so many, and not many more: a sample tells where they stand,
  /// so that one pass over millions keeps no more of most of them than their places.
  [[nodiscard]] Sorted first(std::size_t number, unsigned threads) const {
    const auto last = about_where(number);
    const auto parts = in_parts(trials_.size(), threads, many_trials, [&](std::size_t from, std::size_t to) {
      std::vector<Sorted> one; // not copied
      one.push_back(in_part(from, to, [&](const Row& row) { return !last || !earlier(*last, row); }));
      return one;
    });
    Sorted all;
    for (const Sorted& part : parts) {
      all.near.insert(all.near.end(), part.near.begin(), part.near.end());
      all.far.insert(all.far.end(), part.far.begin(), part.far.end());
    }
    if (all.near.size() < number) bring_near(all);
    return all;
  }
  /// No place is far any more.
  void bring_near(Sorted& sorted) const {
    sorted.near.reserve(sorted.near.size() + sorted.far.size());
    for (const std::size_t place : sorted.far) sorted.near.emplace_back(standing_(trials_[place]), place);
    sorted.far.clear();
  }

private:
  template <class IsNear>
  [[nodiscard]] Sorted in_part(std::size_t from, std::size_t to, const IsNear& near) const {
    Sorted out;
    out.far.reserve(to - from);
    for (std::size_t i = from; i < to; ++i) {
      if (!sieve_.passes(trials_[i])) continue;
      const Row row(standing_(trials_[i]), i);
      if (near(row))
        out.near.push_back(row);
      else
        out.far.push_back(i);
    }
    return out;
  }

  /// The row up to which there are likely more than so many; nothing where all should be near.
  [[nodiscard]] std::optional<Row> about_where(std::size_t number) const {
    constexpr std::size_t sampled = 64; ///< every so manieth
    std::vector<Row> sample;
    for (std::size_t i = 0; i < trials_.size(); i += sampled)
      if (sieve_.passes(trials_[i])) sample.emplace_back(standing_(trials_[i]), i);
    const std::size_t sought = (number + number / 2) / sampled;
    if (sample.size() * sampled < 4 * number || sought == 0) return std::nullopt;
    const auto last = sample.begin() + static_cast<std::ptrdiff_t>(sought);
    std::nth_element(sample.begin(), last, sample.end(), earlier);
    return *last;
  }

  std::span<const Trial> trials_;
  Sieve sieve_;
  Weighted<YardstickReader> standing_;
};

/// Puts so many more rows in order behind those that are; gives how many are then.
std::size_t order_more(std::vector<Row>& rows, std::size_t ordered, std::size_t more, const Sooner& sooner) {
  const auto from = rows.begin() + static_cast<std::ptrdiff_t>(ordered);
  const auto to = from + static_cast<std::ptrdiff_t>(std::min(rows.size() - ordered, more));
  if (to != rows.end()) std::nth_element(from, to, rows.end(), sooner);
  std::sort(from, to, sooner);
  return static_cast<std::size_t>(to - rows.begin());
}

void add_places(std::vector<std::size_t>& places, std::span<const Row> rows) {
  for (const Row& row : rows) places.push_back(row.place);
}

} // namespace

std::vector<std::size_t> ranked(const MatchSpace& space, std::span<const Trial> trials,
                                const Weights& weights, const Filter& filter) {
  std::vector<Row> rows = Sorter(space, trials, weights, filter).all();
  std::sort(rows.begin(), rows.end(), Sooner(trials));
  std::vector<std::size_t> places;
  places.reserve(rows.size());
  add_places(places, rows);
  return places;
}

std::vector<std::size_t> ranked(const MatchSpace& space, std::span<Trial> trials, const Weights& weights,
                                const Filter& filter, Settler& settle, std::size_t number, unsigned threads) {
  const Sorter sorter(space, trials, weights, filter);
  Sorted sorted = sorter.first(longest_order, threads);
  std::vector<Row>& rows = sorted.near;
  const Sooner sooner(trials);
  const auto later = [&](const Row& a, const Row& b) { return sooner(b, a); };
  std::vector<std::size_t> places;
  places.reserve(rows.size() + sorted.far.size());
  std::vector<Row> settled; // a heap of those taken from the rows whose turn may not have come yet
  std::size_t next = 0, ordered = order_more(rows, next, longest_order, sooner);
  while (places.size() < number) {
    if (next == rows.size()) sorter.bring_near(sorted); // seldom: all that was near is settled
    if (next == ordered) ordered = order_more(rows, ordered, longest_order, sooner);
    if (next == rows.size() && settled.empty()) break;
    // what a row is worth at least is what puts it in order: nothing behind it comes before
    if (!settled.empty() && (next == rows.size() || sooner(settled.front(), rows[next]))) {
      std::pop_heap(settled.begin(), settled.end(), later);
      places.push_back(settled.back().place);
      settled.pop_back();
      continue;
    }
    Trial& trial = trials[rows[next].place];
    settle(trial);
    settled.emplace_back(standing_of(space, trial, weights), rows[next].place);
    std::push_heap(settled.begin(), settled.end(), later);
    ++next;
  }
  std::sort(settled.begin(), settled.end(), sooner);
  const auto in_order = std::span(rows).subspan(next, ordered - next);
  std::vector<Row> merged;
  merged.reserve(settled.size() + in_order.size());
  std::merge(settled.begin(), settled.end(), in_order.begin(), in_order.end(), std::back_inserter(merged),
             sooner);
  add_places(places, merged);
  add_places(places, std::span(rows).subspan(ordered));
  places.insert(places.end(), sorted.far.begin(), sorted.far.end());
  return places;
}

} // namespace fulmox
