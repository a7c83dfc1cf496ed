#pragma once
#include "core/demand/axis_model.hpp"

#include <optional>

namespace fulmox {

/// Where the maker's peak curve and what current and voltage leave differ most, as far as both are told.
struct CatalogueGap {
  double speed = 0.0;                     ///< rad/s
  double catalogue = 0.0, modelled = 0.0; ///< N·m
  [[nodiscard]] double share() const { return modelled / catalogue - 1.0; }
};
/// Up to the fastest speed of the curve, at the nominal bus.
std::optional<CatalogueGap> catalogue_gap(const AxisModel& model);

} // namespace fulmox
