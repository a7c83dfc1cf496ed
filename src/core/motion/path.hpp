#pragma once
#include "core/support/extremes.hpp"

#include <boost/container/static_vector.hpp>

#include <array>
#include <cstddef>
#include <optional>

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
  /// The n-th derivative by time, n = 0 … 3.
  [[nodiscard]] double derivative(int n, double t) const;
  /// The greatest of factor × n-th derivative between two times; `seen`, at the first, where that is greater.
  [[nodiscard]] Extreme greatest(int n, double factor, double from, double to, double seen) const;
  /// The greatest magnitude of the n-th derivative between two times.
  [[nodiscard]] double greatest_magnitude(int n, double from, double to) const;
  /// Highest power with a coefficient; a sine counts as beyond all of them.
  [[nodiscard]] std::size_t degree() const;

  /// The same curve with travel scaled by `distance`, time by `duration`, starting at `origin`.
  [[nodiscard]] Path stretched(double distance, double duration, double origin) const;
  /// x0 + v·t + a·t²/2 + j·t³/6.
  static Path polynomial(double x0, double v, double a = 0.0, double j = 0.0);

private:
  using Stops = boost::container::static_vector<double, 8>;
  /// Where the n-th derivative is level, in closed form; nothing where there is none.
  [[nodiscard]] std::optional<Stops> stops(int n, double to) const;
  /// The terms of the n-th derivative without their signs: what its rounding goes by.
  [[nodiscard]] double size(int n, double t) const;
};

} // namespace fulmox
