#include "core/demand/load_side.hpp"
#include "core/support/extremes.hpp"

namespace fulmox {
namespace {

Moment greatest_acceleration(const Cycle& cycle, double sign) {
  Moment best;
  for (const MotionPiece& piece : cycle.pieces) {
    const Extreme found = piece.path.greatest(2, sign, 0.0, piece.duration, beyond(best.value));
    if (found.value > beyond(best.value)) best = {piece.index, found.at, piece.start + found.at, found.value};
  }
  return best;
}

/// Travel of the load per radian of the mechanism's shaft, without sign, at a place of a stretch.
double lever_at(const LoadSide& side, const LoadStretch& stretch, double u) {
  const double tau = u == -1.0 ? stretch.from : u == 1.0 ? stretch.to : stretch.tau(u);
  return std::abs(side.mechanism->lever(side.cycle.pieces[stretch.piece].position(tau)));
}

/// Where a quantity without a sign is greatest that no series stands for; the first of several that tie.
template <class F> Moment greatest_of(const LoadSide& side, const F& quantity) {
  double scale = 0.0;
  for (const LoadStretch& stretch : side.stretches)
    scale = std::max({scale, quantity(stretch, 0.0), quantity(stretch, 1.0)});
  Moment best = moment_of(side.cycle, side.stretches.front(), -1.0, 0.0);
  for (const LoadStretch& stretch : side.stretches) {
    const auto value = [&](double u) { return quantity(stretch, u); };
    const Extreme found = greatest(value, -1.0, 1.0, std::max<std::size_t>(stretch.nodes, 4),
                                   beyond(best.value), no_bound, 1e-12 * scale);
    if (found.value > beyond(best.value)) best = moment_of(side.cycle, stretch, found.at, found.value);
  }
  return best;
}

/// Of the moments that tie the first; at rest a rope hangs as it is left.
void find_rope(const LoadSide& side, LoadPeaks& peaks) {
  double ratio = 1.0;
  for (const Stage& stage : side.stages) ratio *= stage.ratio;
  for (const LoadStretch& stretch : side.stretches) {
    if (stretch.direction == 0.0) continue;
    Series acceleration = stretch.acceleration;
    acceleration *= 1.0 / ratio;
    const auto pull = side.mechanism->rope_pull(stretch.mechanism, acceleration, stretch.direction);
    if (!pull) return;
    for (const double u : pull->turning_points()) {
      const double value = (*pull)(u);
      if (!(peaks.rope.greatest >= value)) peaks.rope.greatest = value;
      if (!(value >= peaks.rope.least.value - tied * std::abs(peaks.rope.least.value)))
        peaks.rope.least = moment_of(side.cycle, stretch, u, value);
    }
  }
}

} // namespace

LoadPeaks peaks_of(const LoadSide& side) {
  const auto greatest = [&](Series LoadStretch::*what) {
    return greatest_magnitude(side.cycle, side.stretches, what);
  };
  LoadPeaks peaks{greatest(&LoadStretch::output),
                  greatest(&LoadStretch::mechanism),
                  greatest(&LoadStretch::speed),
                  greatest_acceleration(side.cycle, 1.0),
                  greatest_acceleration(side.cycle, -1.0),
                  0.0,
                  {},
                  {}};
  find_rope(side, peaks);
  if (!side.mechanism->position_matters()) {
    peaks.lever = std::abs(side.mechanism->lever(0.0));
    peaks.twist = {peaks.mechanism.value, peaks.lever};
    return peaks;
  }
  const auto lever = [&](const LoadStretch& s, double u) { return lever_at(side, s, u); };
  peaks.lever = greatest_of(side, lever).value;
  const Moment twisted = greatest_of(
      side, [&](const LoadStretch& s, double u) { return std::abs(s.mechanism(u)) * lever(s, u); });
  Recorder silent(false);
  const LoadInstant there = side.at(twisted.piece, twisted.tau, silent);
  peaks.twist = {std::abs(there.at_mechanism), std::abs(side.mechanism->lever(there.load.position))};
  return peaks;
}

} // namespace fulmox
