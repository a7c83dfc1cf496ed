#include "core/limits/usual_factor.hpp"

#include <cmath>

namespace fulmox {

std::string usual_factor(double ratio, std::initializer_list<UsualFactor> factors) {
  for (const UsualFactor& factor : factors)
    if (std::abs(ratio / factor.value - 1.0) < 0.05) return " " + std::string(factor.means);
  return "";
}

} // namespace fulmox
