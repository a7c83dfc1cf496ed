#include "core/match/sieve.hpp"

#include "core/support/in_parts.hpp"

#include <algorithm>
#include <limits>
#include <map>
#include <numeric>

namespace fulmox {
namespace {

std::string text_of(const PartChoice& choice, std::string_view field) {
  return choice.section.has(field) ? choice.section.text(field) : std::string();
}
std::string maker_of(const PartChoice& choice) { return choice.none() ? "none" : choice.maker; }
std::string kind_of(const PartChoice& choice) {
  for (const MotorKind* kind : motor_kinds())
    if (kind->slot.form == &choice.section.spec()) return std::string(kind->slot.called());
  return std::string(choice.section.spec().title);
}
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

} // namespace

Sieve::Sieve(const MatchSpace& space, const Filter& filter, Values wanted) : most_price_(filter.most_price) {
  if (most_price_ < std::numeric_limits<double>::infinity()) prices_.emplace(space, &PartChoice::price);
  if (filter.in_stock)
    lacking_.emplace(space, [](const PartChoice& part) { return part.stock >= 1.0 ? 0.0 : 1.0; });
  for (const Facet& facet : all_facets) {
    Column& column = columns_.emplace_back();
    column.place = place_in(facet.slot);
    const auto set = filter.of.find(facet.id);
    if (wanted == Values::of_what_filters && (set == filter.of.end() || set->second.empty())) continue;
    std::map<std::string, std::uint32_t> known;
    for (const PartChoice& part : choices_of(space, facet.slot)) {
      const auto [place, fresh] = known.emplace(facet.value(part), known.size());
      if (fresh) column.values.push_back(place->first);
      column.value_of.push_back(place->second);
      column.passes.push_back(set == filter.of.end() || set->second.empty() ||
                              set->second.contains(place->first));
    }
    if (std::find(column.passes.begin(), column.passes.end(), false) != column.passes.end())
      filtering_.push_back(columns_.size() - 1);
  }
}

Sieve::Failed Sieve::failed(const Combination& parts) const {
  Failed out;
  for (const std::size_t f : filtering_) {
    if (columns_[f].passes[parts.*columns_[f].place]) continue;
    ++out.number;
    out.facet = f;
  }
  out.price_or_stock = !price_and_stock_pass(parts);
  return out;
}

std::span<const Facet> facets() { return all_facets; }
std::set<std::string> values_of(const MatchSpace& space, const Facet& facet) {
  std::set<std::string> values;
  for (const PartChoice& part : choices_of(space, facet.slot)) values.insert(facet.value(part));
  return values;
}

std::size_t count_in_stock(const MatchSpace& space, const Fits& fits, Filter filter, unsigned threads) {
  filter.in_stock = true;
  const Sieve sieve(space, filter);
  const auto counts = in_parts(fits.size(), threads, many_trials, [&](std::size_t from, std::size_t to) {
    std::size_t number = 0;
    fits.each(
        from, to, [&](std::size_t, const Trial& trial) { number += sieve.passes(trial.parts) ? 1 : 0; },
        [&](const Fits::Part& part) { number += sieve.passing(part); });
    return std::vector{number};
  });
  return std::accumulate(counts.begin(), counts.end(), std::size_t{0});
}

namespace {

/// By the number of its value: how many combinations have it at all, and how many it would leave.
struct ValueCount {
  std::size_t any = 0, left = 0;
};
using CountsOfFacets = std::array<std::vector<ValueCount>, all_facets.size()>;

CountsOfFacets counted(const Sieve& sieve, const Fits& fits, std::size_t from, std::size_t to) {
  CountsOfFacets counts;
  for (std::size_t f = 0; f < counts.size(); ++f) counts[f].resize(sieve.values(f).size());
  const auto count = [&](const Combination& parts) {
    const Sieve::Failed out = sieve.failed(parts);
    for (std::size_t f = 0; f < counts.size(); ++f) {
      ValueCount& of_value = counts[f][sieve.value(f, parts)];
      ++of_value.any;
      if (!out.price_or_stock && (out.number == 0 || (out.number == 1 && out.facet == f))) ++of_value.left;
    }
  };
  fits.each(
      from, to, [&](std::size_t, const Trial& trial) { count(trial.parts); },
      [&](const Fits::Part& part) {
        for (std::uint32_t drive = part.from(); drive < part.to(); ++drive) count(part.parts(drive));
      });
  return counts;
}

} // namespace

std::vector<std::vector<FacetCount>> facet_counts(const MatchSpace& space, const Fits& fits,
                                                  const Filter& filter, unsigned threads) {
  const Sieve sieve(space, filter, Sieve::Values::of_all);
  const auto parts = in_parts(fits.size(), threads, many_trials, [&](std::size_t from, std::size_t to) {
    return std::vector{counted(sieve, fits, from, to)};
  });
  std::vector<std::vector<FacetCount>> all;
  for (std::size_t f = 0; f < all_facets.size(); ++f) {
    auto& values = all.emplace_back();
    for (std::size_t v = 0; v < sieve.values(f).size(); ++v) {
      ValueCount sum;
      for (const CountsOfFacets& part : parts) {
        sum.any += part[f][v].any;
        sum.left += part[f][v].left;
      }
      if (sum.any > 0) values.push_back({sieve.values(f)[v], sum.left});
    }
    std::sort(values.begin(), values.end(),
              [](const FacetCount& a, const FacetCount& b) { return a.value < b.value; });
  }
  return all;
}

} // namespace fulmox
