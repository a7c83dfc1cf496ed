#pragma once
#include "core/quantity/kind.hpp"
#include "core/support/expected.hpp"

#include <cmath>
#include <limits>
#include <optional>
#include <string>

namespace fulmox {

/// Legal values, in SI. Open at a bound means the bound itself is refused.
struct Range {
  double low = -std::numeric_limits<double>::infinity();
  double high = std::numeric_limits<double>::infinity();
  bool low_open = false;
  bool high_open = false;
  bool whole = false; ///< counted things: nothing is rounded in silence

  [[nodiscard]] bool contains(double value) const {
    return (low_open ? value > low : value >= low) && (high_open ? value < high : value <= high) &&
           (!whole || value == std::round(value));
  }
  bool operator==(const Range&) const = default;
};

namespace range {
inline constexpr double infinity = std::numeric_limits<double>::infinity();
inline constexpr Range any{};
inline constexpr Range positive{0.0, infinity, true, false};
inline constexpr Range not_negative{0.0, infinity};
inline constexpr Range efficiency{0.0, 1.0, true, false};
inline constexpr Range share{0.0, 1.0};
constexpr Range whole(double low, double high) { return {low, high, false, false, true}; }
} // namespace range

/// What is wrong with a value that no machine has, however typed; nothing for a plausible one.
std::optional<Problem> implausible(double value, Kind kind);

/// "must be greater than 0 mm", "must lie from 0 to 1": the rule a value broke. For kinds with units, shown
/// in them.
std::string describe(const Range& range, Kind kind);

} // namespace fulmox
