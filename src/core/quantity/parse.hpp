#pragma once
#include "core/quantity/kind.hpp"
#include "core/support/expected.hpp"

#include <string>
#include <string_view>

namespace fulmox {

/// Spread of a typed value, as half widths in SI: "0.05 ±20%" gives 0.01 and 0.01.
struct Tolerance {
  double half_width = 0.0;
  bool operator==(const Tolerance&) const = default;
};

struct Quantity {
  double value = 0.0; ///< SI
  Tolerance tolerance;
  std::string unit; ///< the unit it was typed in, "" if none
};

/// Reads "5 mm", "2*4.5 kg", "40 ozf.in", "1500 rpm", "1/3", "0.05 ±20%" as a quantity of the given kind.
///
/// A trailing unit belongs to the whole expression before it when that holds no other unit. `fallback_unit`
/// is used for a bare number ("" = a bare number is refused unless the kind is dimensionless).
/// Errors: unknown unit, wrong dimension or kind, comma as decimal mark, division by zero, not finite,
/// unbalanced brackets, letters in a number, negative tolerance. `where` holds the column, from 1.
Expected<Quantity> parse_quantity(std::string_view text, Kind kind, std::string_view fallback_unit = "");

} // namespace fulmox
