#pragma once
#include <array>
#include <cstddef>

namespace fulmox {

/// Position over time in closed form: a polynomial up to the seventh degree plus one sine. Every motion law
/// is made of such pieces, so speed, acceleration and jerk are exact derivatives.
struct Path {
  std::array<double, 8> c{};
  double amplitude = 0.0, omega = 0.0, phase = 0.0;

  [[nodiscard]] double position(double t) const;
  [[nodiscard]] double speed(double t) const;
  [[nodiscard]] double acceleration(double t) const;
  [[nodiscard]] double jerk(double t) const;
  /// Highest power with a coefficient; a sine counts as beyond all of them.
  [[nodiscard]] std::size_t degree() const;

  /// The same curve with travel scaled by `distance`, time by `duration`, starting at `origin`.
  [[nodiscard]] Path stretched(double distance, double duration, double origin) const;
  /// x0 + v·t + a·t²/2 + j·t³/6.
  static Path polynomial(double x0, double v, double a = 0.0, double j = 0.0);
};

} // namespace fulmox
