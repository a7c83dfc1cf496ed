#include "core/quantity/range.hpp"

#include "core/quantity/format.hpp"
#include "core/quantity/number_text.hpp"

#include <algorithm>
#include <cmath>

namespace fulmox {

std::string describe(const Range& range, Kind kind) {
  if (range.whole)
    return "must be a whole number, at least " + number_text(range.low, 6) + " and at most " +
           number_text(range.high, 6) + ".";
  // shares are told as plain numbers: "1" and "100 %" are both accepted
  const auto show = [&](double value) {
    if (kind == Kind::share || kind == Kind::number)
      return value == std::round(value)
                 ? significant(value, 1 + static_cast<int>(std::log10(std::max(1.0, std::abs(value)))))
                 : significant(value);
    return format(value, kind).text();
  };
  const bool low = std::isfinite(range.low);
  const bool high = std::isfinite(range.high);
  if (low && high)
    return std::string("must be ") + (range.low_open ? "above " : "at least ") + show(range.low) +
           (range.high_open ? " and below " : " and at most ") + show(range.high) + ".";
  if (low) return (range.low_open ? "must be greater than " : "must be at least ") + show(range.low) + ".";
  if (high) return (range.high_open ? "must be less than " : "must be at most ") + show(range.high) + ".";
  return "must be a finite number.";
}

std::optional<Problem> implausible(double value, Kind kind) {
  const KindInfo& about = info(kind);
  if (about.plausible(value)) return std::nullopt;
  const std::string unit = about.dimension == Dimension{} ? "" : " " + std::string(about.si);
  const auto told = [&](double magnitude) { return number_text(magnitude, 3) + unit; };
  return Problem{"", "no machine has " + std::string(about.name) + " of " + told(value) + ".",
                 "From " + told(about.least) + " to " + told(about.most) +
                     " is believed, and 0. Check unit and exponent."};
}

} // namespace fulmox
