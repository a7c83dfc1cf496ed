#include "core/motion/path.hpp"

#include "core/quantity/constants.hpp"

#include <algorithm>
#include <array>
#include <cmath>
#include <tuple>

namespace fulmox {

namespace {

constexpr std::size_t terms = std::tuple_size_v<decltype(Path::c)>;

/// k·(k−1)·…, the factor that the n-th derivative puts before the k-th power.
constexpr std::array<double, terms> falling(std::size_t derivative) {
  std::array<double, terms> all{};
  for (std::size_t k = 0; k < terms; ++k) {
    all[k] = 1.0;
    for (std::size_t d = 0; d < derivative; ++d) all[k] *= static_cast<double>(k) - static_cast<double>(d);
  }
  return all;
}

template <std::size_t derivative> double polynomial_at(const std::array<double, terms>& c, double t) {
  static constexpr auto factor = falling(derivative);
  std::size_t k = terms - 1;
  while (k > derivative && c[k] == 0.0) --k; // ramps have three terms of eight
  double x = factor[k] * c[k];
  while (k-- > derivative) x = x * t + factor[k] * c[k];
  return x;
}

} // namespace

double Path::position(double t) const {
  const double x = polynomial_at<0>(c, t);
  return amplitude == 0.0 ? x : x + amplitude * std::sin(omega * t + phase);
}

double Path::speed(double t) const {
  const double v = polynomial_at<1>(c, t);
  return amplitude == 0.0 ? v : v + amplitude * omega * std::cos(omega * t + phase);
}

double Path::acceleration(double t) const {
  const double a = polynomial_at<2>(c, t);
  return amplitude == 0.0 ? a : a - amplitude * omega * omega * std::sin(omega * t + phase);
}

double Path::jerk(double t) const {
  const double j = polynomial_at<3>(c, t);
  return amplitude == 0.0 ? j : j - amplitude * omega * omega * omega * std::cos(omega * t + phase);
}

double Path::derivative(int n, double t) const {
  switch (n) {
  case 0:
    return position(t);
  case 1:
    return speed(t);
  case 2:
    return acceleration(t);
  default:
    return jerk(t);
  }
}

std::optional<Path::Stops> Path::stops(int n, double to) const {
  Stops found;
  std::array<double, terms> q{}; // the n-th derivative's coefficients
  std::size_t degree = 0;
  for (std::size_t k = static_cast<std::size_t>(n); k < terms; ++k) {
    const std::size_t power = k - static_cast<std::size_t>(n);
    q[power] = c[k];
    for (int d = 0; d < n; ++d) q[power] *= static_cast<double>(k) - d;
    if (q[power] != 0.0) degree = power;
  }
  if (amplitude != 0.0) {
    if (degree > 0 || omega == 0.0) return std::nullopt;
    // A·ωⁿ·sin(ωt + φ + nπ/2) is level where its argument is an odd quarter turn
    const double first = phase + 0.5 * constants::pi * (n - 1), last = first + omega * to;
    const double low = std::min(first, last), high = std::max(first, last);
    if (high - low > constants::pi * static_cast<double>(found.capacity())) return std::nullopt;
    for (double turn = std::ceil(low / constants::pi); turn * constants::pi <= high; ++turn)
      found.push_back((turn * constants::pi - first) / omega);
    return found;
  }
  if (degree == 2) found.push_back(-q[1] / (2.0 * q[2]));
  if (degree == 3) { // roots of q1 + 2·q2·t + 3·q3·t², without cancellation
    const double root = q[2] * q[2] - 3.0 * q[1] * q[3];
    if (root > 0.0) {
      const double sum = -(q[2] + std::copysign(std::sqrt(root), q[2]));
      found.push_back(sum / (3.0 * q[3]));
      if (sum != 0.0) found.push_back(q[1] / sum);
    }
  }
  if (degree > 3) return std::nullopt;
  return found;
}

Extreme Path::greatest(int n, double factor, double from, double to, double seen) const {
  const auto value = [&](double t) { return factor * derivative(n, t); };
  const auto known = stops(n, to);
  if (!known) {
    const std::size_t nodes = amplitude == 0.0 ? degree() + 2 : 14;
    return fulmox::greatest(value, from, to, nodes, seen, no_bound, 1e-14 * std::abs(factor) * size(n, to));
  }
  Extreme best{from, seen};
  const auto offer = [&](double t) {
    if (const double here = value(t); here > best.value) best = {t, here};
  };
  offer(from);
  for (const double t : *known)
    if (t > from && t < to) offer(t);
  offer(to);
  return best;
}

double Path::size(int n, double t) const {
  double sum = std::abs(amplitude) * std::pow(std::abs(omega), n);
  for (std::size_t k = static_cast<std::size_t>(n); k < terms; ++k) {
    double term = std::abs(c[k]);
    for (int d = 0; d < n; ++d) term *= static_cast<double>(k) - d;
    sum += term * std::pow(std::abs(t), static_cast<double>(k) - n);
  }
  return sum;
}

double Path::greatest_magnitude(int n, double from, double to) const {
  return greatest(n, -1.0, from, to, greatest(n, 1.0, from, to, 0.0).value).value;
}

std::size_t Path::degree() const {
  if (amplitude != 0.0) return c.size();
  std::size_t k = c.size() - 1;
  while (k > 0 && c[k] == 0.0) --k;
  return k;
}

Path Path::stretched(double distance, double duration, double origin) const {
  Path out = *this;
  double scale = distance;
  for (double& factor : out.c) {
    factor *= scale;
    scale /= duration;
  }
  out.c[0] += origin;
  out.amplitude *= distance;
  out.omega /= duration;
  return out;
}

Path Path::polynomial(double x0, double v, double a, double j) {
  Path path;
  path.c = {x0, v, a / 2.0, j / 6.0};
  return path;
}

} // namespace fulmox
