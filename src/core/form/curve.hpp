#pragma once
#include "core/form/field.hpp"

#include <vector>

namespace fulmox {

/// Straight-line reading of a curve between its points, which rise; the end values hold beyond. It must have
/// a point.
double value_on(const std::vector<CurvePoint>& curve, double x);

} // namespace fulmox
