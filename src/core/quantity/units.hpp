#pragma once
#include "core/quantity/kind.hpp"

#include <optional>
#include <span>
#include <string_view>

namespace fulmox {

/// One entry of the unit table. SI = (typed + offset) * factor; offset only for temperatures.
struct Unit {
  std::string_view symbol;
  double factor;
  Dimension dimension;
  Kind only = Kind::count_; ///< if set, the unit names this kind and no other of the same dimension
  double offset = 0.0;
};

/// All units that may be typed, without prefixes spelled out for the derived ones (see find_unit).
std::span<const Unit> unit_table();

/// The unit a symbol names, SI prefixes allowed where usual (mN, kW, µH). Case counts. Empty if unknown.
std::optional<Unit> find_unit(std::string_view symbol);

} // namespace fulmox
