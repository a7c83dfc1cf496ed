#pragma once
#include "core/form/field.hpp"

#include <span>

namespace fulmox {

/// Straight-line reading of a curve between its points, which rise; the end values hold beyond. It must have
/// a point.
double value_on(std::span<const CurvePoint> curve, double x);

} // namespace fulmox
