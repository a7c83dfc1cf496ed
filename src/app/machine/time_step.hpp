#pragma once
#include <algorithm>
#include <cmath>

namespace fulmox::app {

/// s between the ticks of a time that fills so many pixels: 1, 2 or 5 of a decade, the figures well apart.
/// Timeline and plots share it, so that their ticks stand one below the other.
inline double time_step(double seconds, int pixels) {
  constexpr double apart = 80.0; // pixels
  const double wanted = seconds * apart / std::max(1, pixels);
  const double decade = std::pow(10.0, std::floor(std::log10(wanted)));
  for (const double step : {1.0, 2.0, 5.0})
    if (step * decade >= wanted) return step * decade;
  return 10.0 * decade;
}

} // namespace fulmox::app
