#include "core/support/range.hpp"

#include "core/quantity/format.hpp"

#include <algorithm>
#include <cmath>

namespace fulmox {

std::string describe(const Range& range, Kind kind) {
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

} // namespace fulmox
