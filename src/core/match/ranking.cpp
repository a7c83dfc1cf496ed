#include "core/match/ranking.hpp"

#include "core/match/sieve.hpp"
#include "core/match/sums_of_parts.hpp"

#include <algorithm>
#include <cmath>
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

/// A yardstick for many combinations: what adds up over parts stands in rows, read once.
class YardstickReader {
public:
  YardstickReader(const MatchSpace& space, const Yardstick& yardstick)
      : space_(space), yardstick_(yardstick) {
    if (yardstick.adds == nullptr) return;
    const auto row = [&](const std::vector<PartChoice>& parts) {
      std::vector<double> figures;
      figures.reserve(parts.size());
      for (const PartChoice& part : parts) figures.push_back(part.none() ? 0.0 : part.*yardstick.adds);
      return figures;
    };
    rows_ = {row(space.motors), row(space.heads), row(space.brakes), row(space.couplings), row(space.drives)};
  }

  double operator()(const Trial& trial) const {
    if (yardstick_.adds == nullptr) return yardstick_.value(space_, trial);
    const Combination& parts = trial.parts; // in the order of sum_of(): the same to the last bit
    return rows_[0][parts.motor] + rows_[1][parts.head] + rows_[2][parts.brake] + rows_[3][parts.coupling] +
           rows_[4][parts.drive];
  }

private:
  const MatchSpace& space_;
  const Yardstick& yardstick_;
  std::array<std::vector<double>, 5> rows_;
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

struct Row {
  Standing standing;
  std::size_t place;
};

/// By standing, ties by the places of the parts.
class Sooner {
public:
  explicit Sooner(std::span<const Trial> trials) : trials_(trials) {}
  bool operator()(const Row& a, const Row& b) const {
    if (a.standing != b.standing) return a.standing < b.standing;
    return trials_[a.place].parts < trials_[b.place].parts;
  }

private:
  std::span<const Trial> trials_;
};

std::vector<Row> rows_of(const MatchSpace& space, std::span<const Trial> trials, const Weights& weights,
                         const Filter& filter) {
  std::vector<Row> rows;
  const Sieve sieve(space, filter);
  const Weighted<YardstickReader> standing(
      weights, [&](const Yardstick& yardstick) { return YardstickReader(space, yardstick); });
  for (std::size_t i = 0; i < trials.size(); ++i)
    if (sieve.failed(trials[i]).nothing()) rows.push_back({standing(trials[i]), i});
  return rows;
}

/// Puts so many more rows in order behind those that are; gives where the order ends.
std::vector<Row>::iterator order_more(std::vector<Row>& rows, std::vector<Row>::iterator ordered,
                                      std::size_t more, const Sooner& sooner) {
  const auto left = static_cast<std::size_t>(rows.end() - ordered);
  const auto to = ordered + static_cast<std::ptrdiff_t>(std::min(left, more));
  if (to != rows.end()) std::nth_element(ordered, to, rows.end(), sooner);
  std::sort(ordered, to, sooner);
  return to;
}

std::vector<std::size_t> places_of(std::span<const Row> rows) {
  std::vector<std::size_t> places;
  places.reserve(rows.size());
  for (const Row& row : rows) places.push_back(row.place);
  return places;
}

} // namespace

std::vector<std::size_t> ranked(const MatchSpace& space, std::span<const Trial> trials,
                                const Weights& weights, const Filter& filter) {
  std::vector<Row> rows = rows_of(space, trials, weights, filter);
  std::sort(rows.begin(), rows.end(), Sooner(trials));
  return places_of(rows);
}

std::vector<std::size_t> ranked(const MatchSpace& space, std::span<Trial> trials, const Weights& weights,
                                const Filter& filter, Settler& settle, std::size_t number) {
  std::vector<Row> rows = rows_of(space, trials, weights, filter);
  const Sooner sooner(trials);
  const auto later = [&](const Row& a, const Row& b) { return sooner(b, a); };
  std::vector<Row> settled, out; // a heap of those taken from the rows whose turn may not have come yet
  out.reserve(rows.size());
  auto next = rows.begin(), ordered = order_more(rows, next, longest_order, sooner);
  while (out.size() < number && (next != rows.end() || !settled.empty())) {
    if (next == ordered) ordered = order_more(rows, ordered, longest_order, sooner);
    // what a row is worth at least is what puts it in order: nothing behind it comes before
    if (!settled.empty() && (next == rows.end() || sooner(settled.front(), *next))) {
      std::pop_heap(settled.begin(), settled.end(), later);
      out.push_back(settled.back());
      settled.pop_back();
      continue;
    }
    Trial& trial = trials[next->place];
    settle(trial);
    settled.push_back({standing_of(space, trial, weights), next->place});
    std::push_heap(settled.begin(), settled.end(), later);
    ++next;
  }
  std::sort(settled.begin(), settled.end(), sooner);
  std::merge(settled.begin(), settled.end(), next, ordered, std::back_inserter(out), sooner);
  out.insert(out.end(), ordered, rows.end());
  return places_of(out);
}

std::vector<std::size_t> best_front(const MatchSpace& space, std::span<const Trial> trials,
                                    std::span<const std::size_t> places, const Yardstick& x,
                                    const Yardstick& y) {
  struct Dot {
    double x, y;
    std::size_t place;
  };
  const YardstickReader along(space, x), up(space, y);
  std::vector<Dot> dots;
  for (const std::size_t place : places) {
    const Dot dot{along(trials[place]), up(trials[place]), place};
    if (std::isfinite(dot.x) && std::isfinite(dot.y)) dots.push_back(dot);
  }
  std::sort(dots.begin(), dots.end(), [&](const Dot& a, const Dot& b) {
    return std::tie(a.x, a.y, trials[a.place].parts) < std::tie(b.x, b.y, trials[b.place].parts);
  });
  std::vector<std::size_t> front;
  double least = std::numeric_limits<double>::infinity();
  for (const Dot& dot : dots)
    if (dot.y < least) {
      least = dot.y;
      front.push_back(dot.place);
    }
  return front;
}

std::vector<std::size_t> best_front(const MatchSpace& space, std::span<Trial> trials,
                                    std::span<const std::size_t> places, const Yardstick& x,
                                    const Yardstick& y, Settler& settle) {
  // what is beaten even at the least it may be worth is beaten; what is not must be known
  for (;;) {
    auto front = best_front(space, std::span<const Trial>(trials), places, x, y);
    bool moved = false;
    for (const std::size_t place : front) {
      if (trials[place].settled) continue;
      settle(trials[place]);
      moved = moved || trials[place].settled;
    }
    if (!moved) return front;
  }
}

} // namespace fulmox
