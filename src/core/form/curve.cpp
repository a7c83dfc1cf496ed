#include "core/form/curve.hpp"

#include <algorithm>

namespace fulmox {

double value_on(std::span<const CurvePoint> curve, double x) {
  if (x <= curve.front()[0]) return curve.front()[1];
  if (x >= curve.back()[0]) return curve.back()[1];
  const auto after = std::upper_bound(curve.begin(), curve.end(), x,
                                      [](double at, const CurvePoint& p) { return at < p[0]; });
  const auto before = after - 1;
  const double share = (x - (*before)[0]) / ((*after)[0] - (*before)[0]);
  return (*before)[1] + share * ((*after)[1] - (*before)[1]);
}

} // namespace fulmox
