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

const PartChoice& part_of(const MatchSpace& space, const Trial& trial, std::string_view slot) {
  if (slot == "motor") return space.motors[trial.parts.motor];
  if (slot == "gearhead") return space.heads[trial.parts.head];
  return space.drives[trial.parts.drive];
}

/// The facets that are set and that a combination does not have, at most two are told apart.
struct Failed {
  int number = 0;
  const Facet* facet = nullptr; ///< the only one
  bool price = false, stock = false;
};
Failed failed(const Filter& filter, const MatchSpace& space, const Trial& trial) {
  Failed out;
  for (const auto& [id, values] : filter.of) {
    const auto facet =
        std::find_if(all_facets.begin(), all_facets.end(), [&](const Facet& f) { return f.id == id; });
    if (facet == all_facets.end() || values.empty()) continue;
    if (values.contains(facet->value(part_of(space, trial, facet->slot)))) continue;
    ++out.number;
    out.facet = &*facet;
  }
  out.price = sum_of(space, trial, &PartChoice::price) > filter.most_price;
  out.stock = filter.in_stock && !in_stock(space, trial);
  return out;
}

} // namespace

std::span<const Yardstick> yardsticks() { return all_yardsticks; }
const Yardstick* find_yardstick(std::string_view id) {
  const auto found = std::find_if(all_yardsticks.begin(), all_yardsticks.end(),
                                  [&](const Yardstick& m) { return m.id == id; });
  return found == all_yardsticks.end() ? nullptr : &*found;
}

Weights usual_weights() { return {{"used", 1.0}, {"price", 1.0}}; }

std::span<const Facet> facets() { return all_facets; }

bool Filter::passes(const MatchSpace& space, const Trial& trial) const {
  const Failed out = failed(*this, space, trial);
  return out.number == 0 && !out.price && !out.stock;
}

std::size_t count_in_stock(const MatchSpace& space, std::span<const Trial> trials, Filter filter) {
  filter.in_stock = true;
  return static_cast<std::size_t>(std::count_if(
      trials.begin(), trials.end(), [&](const Trial& trial) { return filter.passes(space, trial); }));
}

std::vector<std::vector<FacetCount>> facet_counts(const MatchSpace& space, std::span<const Trial> trials,
                                                  const Filter& filter) {
  std::vector<std::map<std::string, std::size_t>> counts(all_facets.size());
  for (const Trial& trial : trials) {
    const Failed out = failed(filter, space, trial);
    for (std::size_t f = 0; f < all_facets.size(); ++f) {
      std::size_t& count = counts[f][all_facets[f].value(part_of(space, trial, all_facets[f].slot))];
      if (!out.price && !out.stock && (out.number == 0 || (out.number == 1 && out.facet == &all_facets[f])))
        ++count;
    }
  }
  std::vector<std::vector<FacetCount>> all;
  for (const auto& of : counts) {
    auto& values = all.emplace_back();
    for (const auto& [value, count] : of) values.push_back({value, count});
  }
  return all;
}

Standing standing_of(const MatchSpace& space, const Trial& trial, const Weights& weights) {
  Standing standing{trial.wanted.empty() ? 0 : 1, 0.0};
  for (const Yardstick& yardstick : all_yardsticks) {
    const auto weight = weights.find(yardstick.id);
    if (weight == weights.end() || weight->second == 0.0) continue;
    const double value = yardstick.value(space, trial);
    if (std::isfinite(value))
      standing.sum += weight->second * value / yardstick.scale;
    else
      ++standing.missing;
  }
  return standing;
}

std::vector<std::size_t> ranked(const MatchSpace& space, std::span<const Trial> trials,
                                const Weights& weights, const Filter& filter) {
  struct Row {
    Standing standing;
    std::size_t place;
  };
  std::vector<Row> rows;
  for (std::size_t i = 0; i < trials.size(); ++i)
    if (filter.passes(space, trials[i])) rows.push_back({standing_of(space, trials[i], weights), i});
  std::sort(rows.begin(), rows.end(), [&](const Row& a, const Row& b) {
    if (a.standing != b.standing) return a.standing < b.standing;
    return trials[a.place].parts < trials[b.place].parts;
  });
  std::vector<std::size_t> places;
  places.reserve(rows.size());
  for (const Row& row : rows) places.push_back(row.place);
  return places;
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

} // namespace fulmox
