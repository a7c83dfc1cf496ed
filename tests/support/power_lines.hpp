#pragma once
#include "core/power/power_curve.hpp"

#include <cmath>
#include <initializer_list>
#include <random>

namespace fulmox::testing {

/// Power in straight lines through points (s, W); a time that is repeated is a jump.
inline PowerCurve lines(const std::vector<std::array<double, 2>>& points) {
  PowerCurve curve;
  for (std::size_t i = 1; i < points.size(); ++i) {
    const auto& [t0, p0] = points[i - 1];
    const auto& [t1, p1] = points[i];
    if (t1 == t0) continue;
    const double mean = 0.5 * (p0 + p1), swing = 0.5 * (p1 - p0) / std::sqrt(3.0);
    const std::array values{mean - swing, mean + swing};
    curve.pieces.push_back({t0, t1, Series::through(values)});
  }
  return curve;
}

// Three axes on 48 V, cycle 2 s; the numbers of the sums were worked by an independent program.
inline PowerCurve axis_a() {
  return lines({{0, 30}, {.15, 630}, {.15, 180}, {.35, 180}, {.35, -320}, {.5, 20}, {2, 20}});
}
inline PowerCurve axis_b() {
  return lines({{0, 20}, {.1, 420}, {.1, 100}, {.2, 100}, {.2, -250}, {.3, 15}, {2, 15}});
}
inline PowerCurve axis_c() {
  return lines({{0, 40},
                {.1, 500},
                {.1, 350},
                {.3, 350},
                {.3, 200},
                {.4, 40},
                {.8, 40},
                {.9, -50},
                {.9, -220},
                {1.1, -220},
                {1.1, -420},
                {1.2, 40},
                {2, 40}});
}

/// A period of random pieces of up to third degree.
inline PowerCurve random_power(std::mt19937& engine, double period, std::size_t pieces) {
  std::uniform_real_distribution<double> watts(-300.0, 600.0), share(0.2, 1.0);
  std::vector<double> lengths(pieces);
  double sum = 0.0;
  for (double& length : lengths) sum += length = share(engine);
  PowerCurve curve;
  double from = 0.0;
  for (const double length : lengths) {
    const std::array values{watts(engine), watts(engine), watts(engine), watts(engine)};
    const std::size_t terms = 1 + engine() % 4;
    curve.pieces.push_back({from, from + period * length / sum, Series::through({values.data(), terms})});
    from = curve.pieces.back().to;
  }
  curve.pieces.back().to = period;
  return curve;
}

} // namespace fulmox::testing
