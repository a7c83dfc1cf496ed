#pragma once
#include "core/support/series.hpp"

#include <algorithm>
#include <array>
#include <cmath>

namespace fulmox {

/// A value and where it was found.
struct Extreme {
  double at = 0.0, value = 0.0;
};

/// Nothing is known beforehand about the values between two places.
inline constexpr auto no_bound = [](double, double) { return HUGE_VAL; };

/// The greatest value of f between two places between which it is smooth (a corner only costs time).
/// Stretches in which `bound(from, to)`, which no value there exceeds, stays below `seen` or what was found
/// are passed over. In the others f is fitted by a polynomial through `nodes` Gauss points; where its last
/// terms have not died away the stretch is halved, so every stretch that is judged is resolved to `fine` of
/// the greatest value met, or to `noise`, below which values differ by rounding only; the polynomial's
/// turning points are then all found. A function that stays rough however closely it is looked at is given up
/// after some thousand looks.
template <class F, class B = decltype(no_bound)>
Extreme greatest(const F& f, double from, double to, std::size_t nodes, double seen,
                 const B& bound = no_bound, double noise = 0.0, double fine = 1e-7) {
  constexpr int deepest = 44;
  int samplings_left = 4000;
  Extreme best{from, seen};
  const auto offer = [&](double at, double value) {
    if (value > best.value) best = {at, value};
  };
  const auto search = [&](const auto& self, double a, double b, int depth) -> void {
    if (bound(a, b) <= best.value) return;
    std::array<double, Series::most_terms> values{};
    const double middle = 0.5 * (a + b), half = 0.5 * (b - a);
    const auto rule = gauss_rule(nodes);
    for (std::size_t j = 0; j < nodes; ++j) {
      const double at = middle + half * rule[j].at;
      values[j] = f(at);
      offer(at, values[j]);
    }
    const Series fit = Series::through({values.data(), nodes});
    const bool resolved =
        fit.size() < nodes - 1 || !(fit.tail() > std::max(noise, fine * std::max(fit.bound(), best.value)));
    if (resolved && fit.bound() + fit.tail() <= best.value) return;
    if (!resolved && depth < deepest && --samplings_left > 0) {
      self(self, a, middle, depth + 1);
      self(self, middle, b, depth + 1);
      return;
    }
    for (const double u : fit.turning_points()) {
      const double at = u == -1.0 ? a : u == 1.0 ? b : middle + half * u;
      offer(at, f(at));
    }
  };
  search(search, from, to, 0);
  return best;
}

} // namespace fulmox
