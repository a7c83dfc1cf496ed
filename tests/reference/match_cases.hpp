#pragma once
#include "core/match/search.hpp"
#include "core/quantity/format.hpp"
#include "reference/dense_axis.hpp"
#include "support/axes.hpp"

#include <algorithm>
#include <random>

namespace fulmox::testing {

inline constexpr double same = 1e-9;

inline std::vector<Axis> many_axes(unsigned seed) {
  std::vector<Axis> axes = demo().axes;
  for (const std::string_view mechanism : all_mechanisms())
    axes.push_back(DenseAxis(++seed, std::string(mechanism)).axis());
  for (std::size_t i = 0; i < axes.size(); i += 2)
    axes[i]["surroundings"].type("shared_bus", ""); // then the supply's limits are its own
  for (std::size_t i = 0; i < axes.size(); i += 3)
    axes[i]["surroundings"].type("ambient", "95 degC"); // then the winding's heat decides
  return axes;
}

template <class T> std::vector<T> some(const std::vector<T>& all, std::size_t number, std::mt19937& random) {
  std::vector<T> out;
  std::sample(all.begin(), all.end(), std::back_inserter(out), number, random);
  return out;
}

inline std::uint32_t any(std::size_t number, std::mt19937& random) {
  return std::uniform_int_distribution<std::uint32_t>(0, static_cast<std::uint32_t>(number) - 1)(random);
}

/// Drives that differ in what they bear, lose and store, all feeding as the one they are made from.
inline void add_variants(std::vector<PartChoice>& drives, std::mt19937& random) {
  std::vector<PartChoice> more;
  std::uniform_real_distribution<double> factor(0.5, 2.0);
  for (const PartChoice& drive : drives) {
    if (drive.section.has("current_setting")) continue; // each current has a pull-out curve of its own: slow
    PartChoice other = drive;
    for (const char* field :
         {"continuous_current", "peak_current", "standby", "device_drop", "capacitance"}) {
      if (!other.section.has(field) || other.section.blank(field)) continue;
      const FieldSpec& spec = other.section.spec().fields[*other.section.spec().index_of(field)];
      other.section.type(
          field, format(other.section.term(field) * factor(random), spec.kind, UnitSet::si, 9).text());
    }
    other.number += "/v";
    more.push_back(std::move(other));
  }
  drives.insert(drives.end(), more.begin(), more.end());
}

/// A bus that is at its limits with what the axis draws: supplies decide then.
inline void tighten_supply(Axis& axis, const Demand& demand, std::mt19937& random) {
  std::uniform_real_distribution<double> factor(0.99, 1.01);
  if (!std::isfinite(demand.mean_bus_current) || !std::isfinite(demand.peak_bus_current)) return;
  Section& s = axis["surroundings"];
  s.type("supply_current", std::to_string(demand.mean_bus_current * factor(random)) + " A");
  s.type("supply_peak", std::to_string(demand.peak_bus_current * factor(random)) + " A");
}

} // namespace fulmox::testing
