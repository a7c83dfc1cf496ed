#pragma once
#include "core/power/power_curve.hpp"
#include "core/support/function_ref.hpp"

namespace fulmox {

/// Adds the pieces of a power (W of s) that is smooth from `from` to `to`: polynomials within `fine` W of it,
/// halved until they are.
void fit_power(FunctionRef<double(double)> watts, double from, double to, double fine,
               std::vector<PowerPiece>& out);

} // namespace fulmox
