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
  std::string unit;  ///< the unit it was typed in, "" if none
  bool bare = false; ///< no unit was typed: the fallback unit was taken
};

/// Reads "5 mm", "2*4.5 kg", "40 ozf.in", "1500 rpm", "1/3", "0.05 ±20%" as a quantity of the given kind.
///
/// A trailing unit belongs to the whole expression before it when that holds no other unit; the unit of a
/// spread ("6 ± 0.1 kg") belongs to the number before the mark as well, when that has none. `fallback_unit`
/// is used for a bare number ("" = a bare number is refused unless the kind is dimensionless). A spread in %
/// is a share of the value.
/// Errors: unknown unit, wrong dimension or kind, comma as decimal mark, division by zero, not finite,
/// unbalanced brackets, letters in a number, an empty, negative or second tolerance. `where` holds the column
/// in characters, from 1.
Expected<Quantity> parse_quantity(std::string_view text, Kind kind, std::string_view fallback_unit = "");

/// A text that means the same without the fallback unit as `text` does with it: "6 kg ±10%" for "6 ±10%" in
/// kg. The text itself where it was not needed. Refuses what parse_quantity refuses.
Expected<std::string> with_unit(std::string_view text, Kind kind, std::string_view fallback_unit);

} // namespace fulmox
