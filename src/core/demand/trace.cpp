#include "core/demand/demand.hpp"

#include <boost/math/tools/minima.hpp>

#include <algorithm>
#include <cmath>
#include <limits>
#include <numeric>

namespace fulmox {

namespace {

std::size_t samples_of(const AxisModel& model, const Piece& piece) {
  constexpr std::size_t enough = 800; // what a plot can use
  const std::size_t share = std::clamp<std::size_t>(enough / model.cycle.pieces.size(), 3, 25);
  const double smooth = model.mechanism->smooth_travel();
  if (std::isfinite(smooth) && !piece.rest()) {
    // a piece over many turns needs as many looks
    const double travel = std::abs(piece.position(piece.duration) - piece.position(0.0));
    return std::clamp<std::size_t>(static_cast<std::size_t>(4.0 * travel / smooth), share, 2000);
  }
  if (!span_is_straight(model, {piece.index, 0.0, piece.duration})) return share;
  return piece.rest() ? 2 : std::min<std::size_t>(share, 9);
}

} // namespace

Trace sample(const AxisModel& model) {
  Recorder silent(false);
  Trace trace;
  std::vector<std::size_t> counts;
  for (const Piece& piece : model.cycle.pieces) counts.push_back(samples_of(model, piece));
  trace.samples.reserve(std::accumulate(counts.begin(), counts.end(), std::size_t{0}));
  for (std::size_t p = 0; p < model.cycle.pieces.size(); ++p) {
    const Piece& piece = model.cycle.pieces[p];
    const std::size_t count = counts[p];
    for (std::size_t i = 0; i < count; ++i)
      trace.samples.push_back(
          model.at(p, piece.duration * static_cast<double>(i) / static_cast<double>(count - 1), silent));
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
  const double step = trace.samples[best.index].time - trace.samples[best.index - 1].time;
  const auto lower = [&](double at) { return -f(model.at(best.piece, at, silent)); };
  constexpr int bits = 26;
  const auto found = boost::math::tools::brent_find_minima(lower, best.tau - step, best.tau + step, bits);
  const double tau = found.first;
  const double value = -found.second;
  if (value > best.value) {
    best.tau = tau;
    best.time = model.cycle.pieces[best.piece].start + tau;
    best.value = value;
  }
  return best;
}

} // namespace fulmox
