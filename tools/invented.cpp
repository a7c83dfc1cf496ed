#include "tools/invented.hpp"

#include <cstdio>

namespace fulmox::tools {

std::string number(double value, int digits) {
  char buffer[32];
  std::snprintf(buffer, sizeof buffer, "%.*g", digits, value);
  return buffer;
}

double resistance_by_heat(double current, double share, double r_thermal, double r_case_ambient,
                          double iron_loss) {
  const double copper = (winding_limit - catalogue_ambient - iron_loss * r_case_ambient) / r_thermal;
  const double warm = copper / (share * current * current);
  return warm /
         (1.0 + constants::copper_temperature_coefficient * (winding_limit - constants::copper_reference));
}

} // namespace fulmox::tools
