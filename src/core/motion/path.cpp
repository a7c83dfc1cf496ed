#include "core/motion/path.hpp"

#include <cmath>

namespace fulmox {

double Path::position(double t) const {
  double x = 0.0;
  for (std::size_t k = c.size(); k-- > 0;) x = x * t + c[k];
  return amplitude == 0.0 ? x : x + amplitude * std::sin(omega * t + phase);
}

double Path::speed(double t) const {
  double v = 0.0;
  for (std::size_t k = c.size() - 1; k > 0; --k) v = v * t + static_cast<double>(k) * c[k];
  return amplitude == 0.0 ? v : v + amplitude * omega * std::cos(omega * t + phase);
}

double Path::acceleration(double t) const {
  double a = 0.0;
  for (std::size_t k = c.size() - 1; k > 1; --k) a = a * t + static_cast<double>(k * (k - 1)) * c[k];
  return amplitude == 0.0 ? a : a - amplitude * omega * omega * std::sin(omega * t + phase);
}

double Path::jerk(double t) const {
  double j = 0.0;
  for (std::size_t k = c.size() - 1; k > 2; --k)
    j = j * t + static_cast<double>(k * (k - 1) * (k - 2)) * c[k];
  return amplitude == 0.0 ? j : j - amplitude * omega * omega * omega * std::cos(omega * t + phase);
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
