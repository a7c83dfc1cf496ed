#pragma once
#include "core/support/series.hpp"

#include <algorithm>
#include <cmath>

namespace fulmox {

/// Roots that are not an end once more: the curve was cut there because it is zero there.
inline Series::Places inner_roots(const Series& series) {
  Series::Places roots = series.crossings();
  const auto end = [](double u) { return std::abs(u) > 1.0 - 1e-9; };
  roots.erase(std::remove_if(roots.begin(), roots.end(), end), roots.end());
  return roots;
}

} // namespace fulmox
