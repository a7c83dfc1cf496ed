#pragma once
#include <boost/math/quadrature/gauss_kronrod.hpp>

namespace fulmox {

/// Integral from `from` to `to` of a function that is no polynomial and may have corners: halved where it has
/// not settled to 1e-8 of itself, nine times at most.
template <class F> double curved_integral(const F& f, double from = -1.0, double to = 1.0) {
  constexpr unsigned deepest = 9;
  constexpr double settled = 1e-8;
  return boost::math::quadrature::gauss_kronrod<double, 15>::integrate(f, from, to, deepest, settled);
}

} // namespace fulmox
