#include "core/demand/gear_weighted.hpp"

#include <boost/container/small_vector.hpp>

#include <algorithm>
#include <cmath>
#include <numeric>

namespace fulmox {
namespace {

double power_of(double value, double exponent) {
  const double whole = std::round(exponent);
  if (whole != exponent) return std::pow(value, exponent);
  double product = 1.0;
  for (int k = static_cast<int>(whole); k > 0; --k) product *= value;
  return product;
}

/// ∫|T_2|^k·|n_2|dt over a stretch: as many points as the degree takes. Where the exponent is no whole number
/// the integrand bends like |T|^k where the torque starts from nothing, and many points make up for it; far
/// from there few do.
double weigh_gear(const LoadStretch& stretch, double exponent) {
  if (stretch.direction == 0.0) return 0.0;
  if (stretch.output.size() == 1) return power_of(std::abs(stretch.output.mean()), exponent) * stretch.turns;
  constexpr std::size_t most = 64, from_nothing = 40, away_from_nothing = 14;
  const bool whole = std::round(exponent) == exponent;
  const auto degree = static_cast<std::size_t>(exponent) * (stretch.output.size() - 1) + stretch.speed.size();
  const double mean = std::abs(stretch.output.mean()), swing = stretch.output.bound() - mean;
  // a straight torque whose zero is that far off: what 14 points leave is below 1e-10
  const bool away = stretch.output.size() == 2 && swing < 0.7 * mean;
  const std::size_t curved = away ? away_from_nothing : from_nothing;
  double sum = 0.0;
  for (const auto& [u, weight] : gauss_rule(whole ? std::min(degree / 2 + 1, most) : curved))
    sum += weight * power_of(std::abs(stretch.output(u)), exponent) * std::abs(stretch.speed(u));
  return 0.5 * stretch.length() * sum;
}

} // namespace

double weigh_gear(const LoadSide& load, double exponent) {
  boost::container::small_vector<double, 128> all;
  for (std::size_t i = 0; i < load.stretches.size(); ++i) {
    const LoadStretch& stretch = load.stretches[i];
    all.push_back(stretch.like == i ? weigh_gear(stretch, exponent) : all[stretch.like]);
  }
  return std::accumulate(all.begin(), all.end(), 0.0);
}

double gear_weighted(const LoadSide& load, double exponent) {
  return exponent == usual_gear_exponent ? load.gear_cubed : weigh_gear(load, exponent);
}

} // namespace fulmox
