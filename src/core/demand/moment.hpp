#pragma once
#include "core/motion/cycle.hpp"
#include "core/support/series.hpp"

#include <cmath>
#include <cstddef>
#include <vector>

namespace fulmox {

/// A moment of the cycle and what a quantity is worth there.
struct Moment {
  std::size_t piece = 0;
  double tau = 0.0;  ///< s from the start of the piece
  double time = 0.0; ///< s from the start of the cycle
  double value = 0.0;
};

/// Part of a piece of the cycle.
struct Span {
  std::size_t piece = 0;
  double from = 0.0, to = 0.0; ///< s from the start of the piece
  double direction = 0.0;      ///< sign of the speed; 0 at rest
  bool braked = false;

  [[nodiscard]] double length() const { return to - from; }
  /// s from the start of the piece, for −1 … 1.
  [[nodiscard]] double tau(double u) const { return 0.5 * (from + to) + 0.5 * (to - from) * u; }
  /// −1 … 1 from a time of the piece.
  [[nodiscard]] double share(double at) const { return (2.0 * at - from - to) / (to - from); }
};

inline Moment moment_of(const Cycle& cycle, const Span& span, double u, double value) {
  const double tau = u == -1.0 ? span.from : u == 1.0 ? span.to : span.tau(u);
  return {span.piece, tau, cycle.pieces[span.piece].start + tau, value};
}

/// Symmetric cycles tie up to rounding: what is apart by no more than this share counts as equal.
inline constexpr double tied = 1e-9;

/// The least value that beats `best`: the first moment stands for all that tie with it.
inline double beyond(double best) { return best + tied * std::abs(best); }

/// Where the magnitude of a series is greatest over spans of a cycle, at least one, in the order of time.
template <class S>
Moment greatest_magnitude(const Cycle& cycle, const std::vector<S>& spans, Series S::*what) {
  Moment best = moment_of(cycle, spans.front(), -1.0, 0.0);
  for (const S& span : spans) {
    const Series& series = span.*what;
    if (series.bound() <= beyond(best.value)) continue;
    for (const double u : series.turning_points())
      if (const double value = std::abs(series(u)); value > beyond(best.value))
        best = moment_of(cycle, span, u, value);
  }
  return best;
}

} // namespace fulmox
