#include "core/match/ranking.hpp"

#include "core/quantity/format.hpp"

#include <algorithm>
#include <cmath>
#include <tuple>

namespace fulmox {
namespace {

/// The parts of a combination; where there is none, nothing.
std::array<const PartChoice*, 5> parts_of(const MatchSpace& s, const Trial& t) {
  return {&s.motors[t.parts.motor], &s.heads[t.parts.head], &s.brakes[t.parts.brake],
          &s.couplings[t.parts.coupling], &s.drives[t.parts.drive]};
}

double sum_of(std::span<const PartChoice* const> parts, double PartChoice::*what) {
  double sum = 0.0;
  for (const PartChoice* part : parts)
    if (!part->none()) sum += part->*what;
  return sum;
}
double sum_of(const MatchSpace& s, const Trial& t, double PartChoice::*what) {
  return sum_of(parts_of(s, t), what);
}

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

bool in_stock(const MatchSpace& s, const Trial& t) {
  const auto parts = parts_of(s, t);
  return std::all_of(parts.begin(), parts.end(),
                     [](const PartChoice* part) { return part->none() || part->stock >= 1.0; });
}

constexpr std::array all_yardsticks{
    Yardstick{"used", "Worst limit", "", "Used share of the worst limit: what is left of it is the margin.",
              Kind::share, 1.0, [](const MatchSpace&, const Trial& t) { return t.used; }},
    Yardstick{"price", "Price", "", "Of all parts together, in the money of their lists.", Kind::number,
              1000.0, [](const MatchSpace& s, const Trial& t) { return sum_of(s, t, &PartChoice::price); }},
    Yardstick{"mass", "Mass", "m", "Of all parts together.", Kind::mass, 10.0,
              [](const MatchSpace& s, const Trial& t) { return sum_of(s, t, &PartChoice::mass); }},
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

std::string text_of(const PartChoice& choice, std::string_view field) {
  return choice.section.has(field) ? choice.section.text(field) : std::string();
}
std::string maker_of(const PartChoice& choice) { return choice.none() ? "none" : choice.maker; }
std::string kind_of(const PartChoice& choice) { return std::string(choice.section.spec().title); }
std::string frame_of(const PartChoice& choice) { return text_of(choice, "frame"); }

constexpr std::array all_facets{Facet{"motor.kind", "Kind of motor", "motor", &kind_of},
                                Facet{"motor.maker", "Motor, maker", "motor", &maker_of},
                                Facet{"motor.frame", "Motor, frame", "motor", &frame_of},
                                Facet{"gearhead.maker", "Gearhead, maker", "gearhead", &maker_of},
                                Facet{"gearhead.ratio", "Gearhead, ratio", "gearhead",
                                      [](const PartChoice& c) { return text_of(c, "ratio"); }},
                                Facet{"drive.maker", "Drive, maker", "drive", &maker_of},
                                Facet{"drive.bus_max", "Drive, highest bus", "drive",
                                      [](const PartChoice& c) { return text_of(c, "bus_max"); }}};

const std::vector<PartChoice>& choices_of(const MatchSpace& space, std::string_view slot) {
  if (slot == "motor") return space.motors;
  return slot == "gearhead" ? space.heads : space.drives;
}
std::uint32_t Combination::*place_in(std::string_view slot) {
  if (slot == "motor") return &Combination::motor;
  return slot == "gearhead" ? &Combination::head : &Combination::drive;
}

/// What a filter says of each part, read once: a combination is looked at without a word being compared.
class Sieve {
public:
  Sieve(const MatchSpace& space, const Filter& filter) : space_(space), filter_(filter) {
    for (const Facet& facet : all_facets) {
      Column& column = columns_.emplace_back();
      column.place = place_in(facet.slot);
      const auto set = filter.of.find(facet.id);
      std::map<std::string, std::uint32_t> known;
      for (const PartChoice& part : choices_of(space, facet.slot)) {
        const auto [place, fresh] = known.emplace(facet.value(part), known.size());
        if (fresh) column.values.push_back(place->first);
        column.value_of.push_back(place->second);
        column.passes.push_back(set == filter.of.end() || set->second.empty() ||
                                set->second.contains(place->first));
      }
    }
  }

  /// The facets that are set and that a combination does not have, at most two are told apart.
  struct Failed {
    int number = 0;
    std::size_t facet = 0; ///< the only one
    bool price_or_stock = false;
    [[nodiscard]] bool nothing() const { return number == 0 && !price_or_stock; }
  };
  [[nodiscard]] Failed failed(const Trial& trial) const {
    Failed out;
    for (std::size_t f = 0; f < columns_.size(); ++f) {
      if (columns_[f].passes[trial.parts.*columns_[f].place]) continue;
      ++out.number;
      out.facet = f;
    }
    out.price_or_stock = (filter_.most_price < std::numeric_limits<double>::infinity() &&
                          sum_of(space_, trial, &PartChoice::price) > filter_.most_price) ||
                         (filter_.in_stock && !in_stock(space_, trial));
    return out;
  }

  [[nodiscard]] std::uint32_t value(std::size_t facet, const Trial& trial) const {
    return columns_[facet].value_of[trial.parts.*columns_[facet].place];
  }
  [[nodiscard]] const std::vector<std::string>& values(std::size_t facet) const {
    return columns_[facet].values;
  }

private:
  struct Column {
    std::uint32_t Combination::*place;
    std::vector<std::string> values;
    std::vector<std::uint32_t> value_of; ///< by part
    std::vector<bool> passes;            ///< by part
  };
  const MatchSpace& space_;
  const Filter& filter_;
  std::vector<Column> columns_;
};

} // namespace

std::span<const Yardstick> yardsticks() { return all_yardsticks; }
const Yardstick* find_yardstick(std::string_view id) {
  const auto found = std::find_if(all_yardsticks.begin(), all_yardsticks.end(),
                                  [&](const Yardstick& m) { return m.id == id; });
  return found == all_yardsticks.end() ? nullptr : &*found;
}

Weights usual_weights() { return {{"used", 1.0}, {"price", 1.0}}; }

std::span<const Facet> facets() { return all_facets; }

std::size_t count_in_stock(const MatchSpace& space, std::span<const Trial> trials, Filter filter) {
  filter.in_stock = true;
  const Sieve sieve(space, filter);
  return static_cast<std::size_t>(std::count_if(
      trials.begin(), trials.end(), [&](const Trial& trial) { return sieve.failed(trial).nothing(); }));
}

std::vector<std::vector<FacetCount>> facet_counts(const MatchSpace& space, std::span<const Trial> trials,
                                                  const Filter& filter) {
  const Sieve sieve(space, filter);
  // how many there are at all, and how many a value would leave
  std::vector<std::vector<std::pair<std::size_t, std::size_t>>> counts;
  for (std::size_t f = 0; f < all_facets.size(); ++f) counts.emplace_back(sieve.values(f).size());
  for (const Trial& trial : trials) {
    const Sieve::Failed out = sieve.failed(trial);
    for (std::size_t f = 0; f < all_facets.size(); ++f) {
      auto& [any, left] = counts[f][sieve.value(f, trial)];
      ++any;
      if (!out.price_or_stock && (out.number == 0 || (out.number == 1 && out.facet == f))) ++left;
    }
  }
  std::vector<std::vector<FacetCount>> all;
  for (std::size_t f = 0; f < all_facets.size(); ++f) {
    auto& values = all.emplace_back();
    for (std::size_t v = 0; v < counts[f].size(); ++v)
      if (counts[f][v].first > 0) values.push_back({sieve.values(f)[v], counts[f][v].second});
    std::sort(values.begin(), values.end(),
              [](const FacetCount& a, const FacetCount& b) { return a.value < b.value; });
  }
  return all;
}

namespace {

/// The yardsticks that count, and how much.
using Counted = std::vector<std::pair<const Yardstick*, double>>;
Counted counted_by(const Weights& weights) {
  Counted counted;
  for (const Yardstick& yardstick : all_yardsticks)
    if (const auto weight = weights.find(yardstick.id); weight != weights.end() && weight->second != 0.0)
      counted.emplace_back(&yardstick, weight->second);
  return counted;
}

Standing standing_of(const MatchSpace& space, const Trial& trial, const Counted& counted) {
  Standing standing{trial.wanted.empty() ? 0 : 1, 0.0};
  for (const auto& [yardstick, weight] : counted) {
    const double value = yardstick->value(space, trial);
    if (std::isfinite(value))
      standing.sum += weight * value / yardstick->scale;
    else
      ++standing.missing;
  }
  return standing;
}

} // namespace

Standing standing_of(const MatchSpace& space, const Trial& trial, const Weights& weights) {
  return standing_of(space, trial, counted_by(weights));
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
  const Counted counted = counted_by(weights);
  for (std::size_t i = 0; i < trials.size(); ++i)
    if (sieve.failed(trials[i]).nothing()) rows.push_back({standing_of(space, trials[i], counted), i});
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
  std::vector<Dot> dots;
  for (const std::size_t place : places) {
    const Dot dot{x.value(space, trials[place]), y.value(space, trials[place]), place};
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
