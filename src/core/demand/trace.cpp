#include "core/demand/trace.hpp"

#include "core/demand/spans.hpp"
#include "core/quantity/constants.hpp"

#include <boost/math/tools/minima.hpp>

#include <algorithm>
#include <cmath>
#include <limits>

namespace fulmox {
namespace {

/// How closely the pieces of a cycle are looked at: enough for the plots, shared out by the time each takes,
/// and so that no corner hides between two looks.
class Looks {
public:
  explicit Looks(const AxisModel& model) : smooth_(model.mechanism->smooth_travel()) {
    for (const Piece& piece : model.cycle.pieces) moving_ += piece.rest() ? 0.0 : piece.duration;
  }

  [[nodiscard]] int steps(const Piece& piece) const {
    if (piece.rest()) return 1;
    constexpr double enough_for_plots = 600.0;
    const int share = std::clamp(static_cast<int>(enough_for_plots * piece.duration / moving_), 2, 24);
    if (std::isfinite(smooth_)) return std::max(share, std::min(2 * looks_over_travel(piece, smooth_), 2000));
    if (piece.path.degree() > 3) return std::max(share, brief(piece) ? 6 : 10);
    if (brief(piece)) return 2;
    return piece.ramp ? std::clamp(share, 5, 8) : std::max(share, 5);
  }

  /// Curved laws change fastest at their ends: they are looked at more closely there.
  [[nodiscard]] bool even(const Piece& piece) const {
    return piece.ramp || brief(piece) || std::isfinite(smooth_);
  }

private:
  /// Pieces of a record are short: both ends and the middle do.
  [[nodiscard]] bool brief(const Piece& piece) const { return piece.duration < moving_ / 200.0; }

  double smooth_;
  double moving_ = 0.0; ///< s
};

} // namespace

Trace sample(const AxisModel& model) {
  Recorder silent(false);
  const Looks looks(model);
  Trace trace;
  std::size_t count = 0;
  for (const Piece& piece : model.cycle.pieces) count += static_cast<std::size_t>(looks.steps(piece)) + 1;
  trace.samples.reserve(count);
  for (const Piece& piece : model.cycle.pieces) {
    const int steps = looks.steps(piece);
    const bool even = looks.even(piece);
    for (int i = 0; i <= steps; ++i) {
      const double share = static_cast<double>(i) / steps;
      trace.samples.push_back(
          model.at(piece.index,
                   piece.duration * (even ? share : 0.5 * (1.0 - std::cos(constants::pi * share))), silent));
    }
  }
  return trace;
}

Moment worst(const AxisModel& model, const Trace& trace, const std::function<double(const Instant&)>& f) {
  Moment best;
  best.value = -std::numeric_limits<double>::infinity();
  for (std::size_t i = 0; i < trace.samples.size(); ++i) {
    const Instant& now = trace.samples[i];
    const double value = f(now);
    // symmetric cycles tie up to rounding: the first moment stands for all
    if (value <= best.value + 1e-12 * std::abs(best.value)) continue;
    best = {i, now.piece, now.time - model.cycle.pieces[now.piece].start, now.time, value};
  }
  const auto in_piece = [&](std::size_t i) {
    return i < trace.samples.size() && trace.samples[i].piece == best.piece;
  };
  if (best.index == 0 || !in_piece(best.index - 1) || !in_piece(best.index + 1)) return best;
  Recorder silent(false);
  const double start = model.cycle.pieces[best.piece].start;
  const auto lower = [&](double at) { return -f(model.at(best.piece, at, silent)); };
  constexpr int bits = 26;
  const auto found = boost::math::tools::brent_find_minima(lower, trace.samples[best.index - 1].time - start,
                                                           trace.samples[best.index + 1].time - start, bits);
  const double tau = found.first;
  const double value = -found.second;
  if (value > best.value) {
    best.tau = tau;
    best.time = start + tau;
    best.value = value;
  }
  return best;
}

} // namespace fulmox
