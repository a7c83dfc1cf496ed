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
#include <unordered_set>

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

  /// No drive of a block stands before that; nor, with its parts, does one of them.
  template <class... Parts> Standing least(const FitBlock& block, const Parts&... parts) const {
    double sum = 0.0;
    for (const auto& [value_of, factor] : counted_)
      if (const double value = value_of.least(block, parts...); std::isfinite(value)) sum += factor * value;
    return {block.floor.wanted.empty() ? 0 : 1, sum};
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
  explicit Sooner(const Fits& fits) : fits_(fits) {}
  bool operator()(const Row& a, const Row& b) const {
    if (a.missing != b.missing) return a.missing < b.missing;
    if (a.sum != b.sum) return a.sum < b.sum;
    return fits_.parts(a.place) < fits_.parts(b.place);
  }

private:
  const Fits& fits_;
};

bool earlier(const Row& a, const Row& b) { return std::tie(a.missing, a.sum) < std::tie(b.missing, b.sum); }

/// Rows behind one, up to another: nothing is no bound.
struct Range {
  std::optional<Row> behind, last;
  [[nodiscard]] bool holds(const Row& row) const {
    return (!behind || earlier(*behind, row)) && (!last || !earlier(*last, row));
  }
  /// Whether neither a row nor what comes later is in it.
  [[nodiscard]] bool ends_before(const Row& row) const { return last && earlier(*last, row); }
};

/// What passes a filter.
struct Passing {
  std::vector<Row> rows;  ///< that are in some range
  std::size_t number = 0; ///< of all
};

/// Tells combinations that pass a filter by where they stand.
class Sorter {
public:
  Sorter(const MatchSpace& space, const Fits& fits, const Weights& weights, const Filter& filter)
      : fits_(fits), sieve_(space, filter), standing_(weights, [&](const Yardstick& yardstick) {
          return YardstickReader(space, yardstick, fits);
        }) {}

  [[nodiscard]] Passing rows(const Range& range, unsigned threads) const {
    const auto parts = in_parts(fits_.size(), threads, many_trials, [&](std::size_t from, std::size_t to) {
      std::vector<Passing> one; // not copied
      one.push_back(in_part(from, to, range));
      return one;
    });
    Passing all;
    for (const Passing& part : parts) {
      all.rows.insert(all.rows.end(), part.rows.begin(), part.rows.end());
      all.number += part.number;
    }
    return all;
  }

  /// Every so manieth of those that pass.
  [[nodiscard]] std::vector<Row> sample(std::size_t so_manieth) const {
    std::vector<Row> some;
    const auto add = [&](std::size_t place, const Trial& trial) {
      if (sieve_.passes(trial.parts)) some.emplace_back(standing_(trial), place);
    };
    fits_.each(
        0, fits_.size(),
        [&](std::size_t place, const Trial& trial) {
          if (place % so_manieth == 0) add(place, trial);
        },
        [&](const Fits::Part& part) {
          const std::size_t over = part.place(0) % so_manieth;
          for (std::size_t drive = over == 0 ? 0 : so_manieth - over; drive < part.to(); drive += so_manieth)
            add(part.place(static_cast<std::uint32_t>(drive)), part.trial(static_cast<std::uint32_t>(drive)));
        });
    return some;
  }

private:
  [[nodiscard]] Passing in_part(std::size_t from, std::size_t to, const Range& range) const {
    Passing out;
    const auto add = [&](std::size_t place, const Trial& trial) {
      if (const Row row(standing_(trial), place); range.holds(row)) out.rows.push_back(row);
    };
    fits_.each(
        from, to,
        [&](std::size_t place, const Trial& trial) {
          if (!sieve_.passes(trial.parts)) return;
          ++out.number;
          add(place, trial);
        },
        [&](const Fits::Part& part) {
          if (range.ends_before(Row(standing_.least(part.block()), 0)))
            out.number += sieve_.passing(part);
          else
            out.number += sieve_.passing(part, [&](std::uint32_t drive) {
              if (!range.ends_before(Row(standing_.least(part.block(), part.parts(drive)), 0)))
                add(part.place(drive), part.trial(drive));
            });
        });
    return out;
  }

  const Fits& fits_;
  Sieve sieve_;
  Weighted<YardstickReader> standing_;
};

/// Rows of a list of very many, no more of them than are asked for: a sample tells how far that is, so that
/// of millions most are only looked at.
class Rows {
public:
  Rows(const Sorter& sorter, std::size_t all, unsigned threads)
      : sorter_(sorter), threads_(threads), so_manieth_(all / sampled + 1),
        sample_(sorter.sample(so_manieth_)) {
    std::sort(sample_.begin(), sample_.end(), earlier);
    more();
  }
  [[nodiscard]] bool complete() const { return !range_.last; }
  [[nodiscard]] std::size_t passing() const { return passing_; }
  [[nodiscard]] const std::vector<Row>& sample() const { return sample_; }
  std::vector<Row> rows;

  /// Those behind, so that there are four times as many; but for the first `taken`, which may stand there by
  /// now.
  void more(std::size_t taken = 0) {
    range_.behind = range_.last;
    const std::size_t sought = (wanted_ + wanted_ / 2) / so_manieth_;
    wanted_ *= 4;
    range_.last = sought < sample_.size() ? std::optional(sample_[sought]) : std::nullopt;
    Passing found = sorter_.rows(range_, threads_);
    passing_ = found.number;
    std::unordered_set<std::uint32_t> known;
    for (const Row& row : std::span(rows).first(taken)) known.insert(row.place);
    std::erase_if(found.rows, [&](const Row& row) { return known.contains(row.place); });
    rows.insert(rows.end(), found.rows.begin(), found.rows.end());
  }

private:
  static constexpr std::size_t sampled = 16'384;
  const Sorter& sorter_;
  unsigned threads_;
  std::size_t so_manieth_, wanted_ = longest_order;
  std::vector<Row> sample_; ///< in order
  Range range_;
  std::size_t passing_ = 0;
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
  const Sieve sieve(space, filter);
  std::vector<std::pair<Standing, std::size_t>> rows;
  for (std::size_t i = 0; i < trials.size(); ++i)
    if (sieve.passes(trials[i].parts)) rows.emplace_back(standing_of(space, trials[i], weights), i);
  std::sort(rows.begin(), rows.end(), [&](const auto& a, const auto& b) {
    return std::tie(a.first, trials[a.second].parts) < std::tie(b.first, trials[b.second].parts);
  });
  std::vector<std::size_t> places;
  places.reserve(rows.size());
  for (const auto& [standing, place] : rows) places.push_back(place);
  return places;
}

Ranked ranked(const MatchSpace& space, Fits& fits, const Weights& weights, const Filter& filter,
              Settler& settle, std::size_t number, unsigned threads) {
  const Sorter sorter(space, fits, weights, filter);
  Rows found(sorter, fits.size(), threads);
  std::vector<Row>& rows = found.rows;
  while (rows.size() < longest_order && !found.complete()) found.more();
  const Sooner sooner(fits);
  const auto later = [&](const Row& a, const Row& b) { return sooner(b, a); };
  Ranked out;
  std::vector<Row> settled; // a heap of those taken from the rows whose turn may not have come yet
  std::size_t next = 0, ordered = order_more(rows, next, longest_order, sooner);
  while (out.order.size() < number) {
    while (next == rows.size() && !found.complete()) found.more(next); // seldom: all that was near is settled
    if (next == ordered) ordered = order_more(rows, ordered, longest_order, sooner);
    if (next == rows.size() && settled.empty()) break;
    // what a row is worth at least is what puts it in order: nothing behind it comes before
    if (!settled.empty() && (next == rows.size() || sooner(settled.front(), rows[next]))) {
      std::pop_heap(settled.begin(), settled.end(), later);
      out.order.push_back(settled.back().place);
      settled.pop_back();
      continue;
    }
    const std::size_t place = rows[next++].place;
    settled.emplace_back(standing_of(space, fits.settle(place, settle), weights), place);
    std::push_heap(settled.begin(), settled.end(), later);
  }
  std::sort(settled.begin(), settled.end(), sooner);
  const auto in_order = std::span(rows).subspan(next, ordered - next);
  std::vector<Row> merged;
  merged.reserve(settled.size() + in_order.size());
  std::merge(settled.begin(), settled.end(), in_order.begin(), in_order.end(), std::back_inserter(merged),
             sooner);
  add_places(out.order, merged);
  if (!merged.empty())
    for (const Row& row : found.sample())
      if (earlier(merged.back(), row)) out.others.push_back(row.place);
  out.passing = found.passing();
  return out;
}

} // namespace fulmox
