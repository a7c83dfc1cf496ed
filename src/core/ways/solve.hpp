#pragma once
#include "core/ways/levers.hpp"

#include <boost/math/tools/toms748_solve.hpp>

#include <algorithm>
#include <array>
#include <cmath>
#include <optional>

namespace fulmox {

/// So much of the way from where a lever is to its end.
inline double moved(const Lever& lever, double share, bool up) {
  const double end = up ? lever.most : lever.least;
  if (lever.by_factor && lever.now * end > 0.0) return lever.now * std::pow(end / lever.now, share);
  return lever.now + share * (end - lever.now);
}

/// The nearest value to one side at which `excess` is no more than 0; nothing where there is none. The scan
/// is as fine as sixteen steps over the whole way, finer near where it begins.
template <class Excess>
std::optional<double> nearest(const Lever& lever, bool up, const Excess& excess, double& best,
                              double& best_at) {
  constexpr std::array shares{0.01, 0.03, 0.06, 0.1,  0.15, 0.2,  0.27, 0.34,
                              0.42, 0.5,  0.58, 0.66, 0.74, 0.82, 0.91, 1.0};
  double before = lever.now;
  for (const double share : shares) {
    const double value = moved(lever, share, up), there = excess(value);
    if (there < best) {
      best = there;
      best_at = value;
    }
    if (there <= 0.0) {
      std::uintmax_t tries = 60;
      // where it cannot be worked out it is as bad as can be
      const auto f = [&](double x) {
        const double e = excess(x);
        return std::isnan(e) ? 1.0 : e > 0.0 ? std::min(e, 1e3) : std::max(std::min(e, -1e-300), -1e3);
      };
      const auto root =
          boost::math::tools::toms748_solve(f, std::min(before, value), std::max(before, value),
                                            boost::math::tools::eps_tolerance<double>(36), tries);
      return up ? root.second : root.first;
    }
    before = value;
  }
  return std::nullopt;
}

/// A lever at the value found, in three figures or as many as it takes.
template <class Holds>
std::optional<std::pair<Axis, std::string>> rounded(const Lever& lever, double value, bool up,
                                                    const Holds& holds) {
  constexpr int fewest = 3, most = 7;
  for (int digits = fewest; digits <= most; ++digits) {
    auto typed = lever.typed(value, digits, up);
    if (holds(typed.first)) return typed;
  }
  return std::nullopt;
}

} // namespace fulmox
