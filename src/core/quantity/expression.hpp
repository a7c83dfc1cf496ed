#pragma once
#include "core/support/text_lines.hpp"

#include "core/quantity/kind.hpp"

#include <string>
#include <string_view>

namespace fulmox {

/// A number with its dimension.
struct ExpressionValue {
  double number = 0.0;
  Dimension dimension{};
  Kind only = Kind::count_; // set while the value is a plain number times one kind-bound unit
  double offset = 0.0;      // set for a temperature scale
  bool bare = true;         // no unit met yet
};

/// Why an expression cannot be read, thrown by evaluate_expression only.
struct ExpressionFailure {
  std::size_t at; ///< byte in the text
  std::string what;
  std::string remedy;
};

/// Works out "2*4.5 kg" or "5 m / 2 s". A lone trailing unit covers the calculation before it; `unit_text`
/// receives the trailing unit as typed. Throws ExpressionFailure.
ExpressionValue evaluate_expression(std::string_view text, std::string& unit_text);

/// The value of `number_text` in a unit, as when the unit had been typed behind it. Throws ExpressionFailure.
ExpressionValue evaluate_in_unit(std::string_view number_text, std::string_view unit);

} // namespace fulmox
