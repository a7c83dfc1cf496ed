#include "core/support/reflected.hpp"

#include <algorithm>
#include <cmath>
#include <cstddef>
#include <limits>

namespace fulmox {

Reflected reflected(std::span<const double> gains, std::span<const double> ends) {
  Reflected out;
  double sum = 0.0, size = 0.0;
  for (const double gain : gains) {
    sum += gain;
    size += std::abs(gain);
  }
  if (sum > 1e-12 * size) { // rounding is no growth
    out.greatest = std::numeric_limits<double>::infinity();
    return out;
  }
  // the first cycle from nothing ends where every later one does: the sum from any start within one cycle
  // back is the greatest
  double level = 0.0;
  for (int round = 0; round < 2; ++round)
    for (std::size_t i = 0; i < gains.size(); ++i) {
      level = std::max(0.0, level + gains[i]);
      if (level > out.greatest) out = {level, ends[i]};
    }
  return out;
}

} // namespace fulmox
