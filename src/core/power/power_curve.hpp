#pragma once
#include "core/support/reflected.hpp"
#include "core/support/series.hpp"

#include <span>
#include <vector>

namespace fulmox {

/// Power over a stretch of time, a polynomial.
struct PowerPiece {
  double from = 0.0, to = 0.0; ///< s
  Series watts;                ///< W; drawn > 0, returned < 0

  [[nodiscard]] double length() const { return to - from; }
  [[nodiscard]] double share(double t) const { return (2.0 * t - from - to) / (to - from); }
  [[nodiscard]] double time(double u) const { return 0.5 * (from + to) + 0.5 * (to - from) * u; }
  [[nodiscard]] double at(double t) const { return watts(share(t)); }
  [[nodiscard]] double energy() const { return watts.mean() * length(); } ///< J
};

/// Power that repeats: its pieces cover 0 … period without gaps; it may jump between them. A value.
struct PowerCurve {
  std::vector<PowerPiece> pieces;

  [[nodiscard]] double period() const { return pieces.empty() ? 0.0 : pieces.back().to; }
  /// At a time of any cycle; where it jumps, what follows.
  [[nodiscard]] double at(double t) const;
  /// Number of the piece at a time within the period.
  [[nodiscard]] std::size_t piece_at(double t) const;
};

/// The same power all the time. period > 0.
PowerCurve constant_power(double watts, double period);
/// The curve `delay` later (either sign, any size): what passes the end comes back at the start.
PowerCurve delayed(const PowerCurve& curve, double delay);
/// The sum of curves of one period, exact; independent of their order but for rounding. Breakpoints closer
/// than 1e-12 s are one.
PowerCurve sum_of(std::span<const PowerCurve* const> curves);

/// A power and when it is met.
struct PowerAt {
  double watts = 0.0;
  double time = 0.0; ///< s
};

/// The curve where it draws, 0 where it returns.
PowerCurve drawn_part(const PowerCurve& curve);

double mean_power(const PowerCurve& curve); ///< W
double rms_power(const PowerCurve& curve);  ///< W
PowerAt greatest_power(const PowerCurve& curve);
PowerAt least_power(const PowerCurve& curve);
double drawn_energy(const PowerCurve& curve);    ///< J a period, ∫max(P, 0)
double returned_energy(const PowerCurve& curve); ///< J a period, ∫max(−P, 0)
/// The share of time at which P <= watts; a constant stretch at just that power counts whole.
double share_at_most(const PowerCurve& curve, double watts);
/// The least power whose share of time is at least q, 0 < q <= 1; to 1e-6 of the spread. A picture, no limit.
double percentile(const PowerCurve& curve, double q);
/// The greatest mean over any stretch of time of that length, across the end of the period too; `time` is
/// the end of the stretch. length > 0; whole periods in it count exactly.
PowerAt greatest_window(const PowerCurve& curve, double length);
/// The greatest of u in τ·u′ = P − u once it repeats: power as a body of that time constant (s, > 0) feels
/// it. Exact for pieces of constant power, which it takes every piece for.
PowerAt greatest_heat(const PowerCurve& power, double time_constant);
/// The energy (J) a bus without a sink must swallow at most, across pauses in which little is drawn, and when
/// it is there; ∞ when more is returned than drawn.
Reflected reflected_energy(const PowerCurve& curve);

} // namespace fulmox
