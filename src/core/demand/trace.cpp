#include "core/demand/trace.hpp"

#include "core/demand/spans.hpp"
#include "core/quantity/constants.hpp"

#include <boost/math/tools/minima.hpp>

#include <algorithm>
#include <cmath>
#include <limits>

namespace fulmox {
namespace {

constexpr std::size_t enough_for_plots = 800;
constexpr std::size_t many_pieces = 200; ///< those of a record are short: both ends and the middle do

/// How many steps to look at a piece in: enough for the plot, and so that no corner hides between two looks.
int steps_of(const AxisModel& model, const Piece& piece) {
  const std::size_t pieces = model.cycle.pieces.size();
  if (piece.rest()) return 1;
  if (pieces > many_pieces) return 2;
  const int share = static_cast<int>(std::clamp<std::size_t>(enough_for_plots / pieces, 3, 25)) - 1;
  const double smooth = model.mechanism->smooth_travel();
  if (std::isfinite(smooth)) return std::max(share, std::min(2 * looks_over_travel(piece, smooth), 2000));
  return piece.ramp ? std::clamp(share, 5, 8) : std::max(share, piece.path.degree() <= 3 ? 5 : 10);
}

/// Curved laws change fastest at their ends: they are looked at more closely there.
bool even_steps(const AxisModel& model, const Piece& piece) {
  return piece.ramp || model.cycle.pieces.size() > many_pieces ||
         std::isfinite(model.mechanism->smooth_travel());
}

} // namespace

Trace sample(const AxisModel& model) {
  Recorder silent(false);
  Trace trace;
  std::size_t count = 0;
  for (const Piece& piece : model.cycle.pieces)
    count += static_cast<std::size_t>(steps_of(model, piece)) + 1;
  trace.samples.reserve(count);
  for (const Piece& piece : model.cycle.pieces) {
    const int steps = steps_of(model, piece);
    const bool even = even_steps(model, piece);
    for (int i = 0; i <= steps; ++i) {
      const double share = static_cast<double>(i) / steps;
      trace.samples.push_back(model.at(
          piece.index, piece.duration * (even ? share : 0.5 * (1.0 - std::cos(constants::pi * share))), silent));
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
  const auto found =
      boost::math::tools::brent_find_minima(lower, trace.samples[best.index - 1].time - start,
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
