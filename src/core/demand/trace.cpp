#include "core/demand/trace.hpp"

#include "core/quantity/constants.hpp"

#include <algorithm>
#include <cmath>

namespace fulmox {
namespace {

/// How many samples the pieces of a cycle get: enough for the plots, shared out by the time each takes.
class SampleCounts {
public:
  explicit SampleCounts(const AxisModel& model) : smooth_(model.load->mechanism->smooth_travel()) {
    for (const MotionPiece& piece : model.load->cycle.pieces) moving_ += piece.rest() ? 0.0 : piece.duration;
  }

  [[nodiscard]] int steps(const MotionPiece& piece) const {
    if (piece.rest()) return 1;
    constexpr double enough_for_plots = 600.0;
    const int share = std::clamp(static_cast<int>(enough_for_plots * piece.duration / moving_), 2, 24);
    if (std::isfinite(smooth_)) return std::max(share, over_travel(piece));
    if (piece.path.degree() > 3) return std::max(share, 6);
    if (brief(piece)) return 2;
    return piece.ramp ? std::clamp(share, 5, 8) : std::max(share, 5);
  }

  /// Curved laws change fastest at their ends: they are looked at more closely there.
  [[nodiscard]] bool even(const MotionPiece& piece) const {
    return piece.ramp || brief(piece) || std::isfinite(smooth_);
  }

private:
  /// Pieces of a record are short: both ends and the middle do.
  [[nodiscard]] bool brief(const MotionPiece& piece) const { return piece.duration < moving_ / 200.0; }

  /// Forces that follow the position need a few samples over the travel in which they stay smooth.
  [[nodiscard]] int over_travel(const MotionPiece& piece) const {
    constexpr int per_stretch = 4, most = 2000;
    const double travel = std::abs(piece.position(piece.duration) - piece.position(0.0));
    return std::min(per_stretch * static_cast<int>(std::ceil(std::min(travel / smooth_, 1.0 * most))), most);
  }

  double smooth_;
  double moving_ = 0.0; ///< s
};

} // namespace

Trace sample(const AxisModel& model, const Course& course) {
  Recorder silent(false);
  const SampleCounts counts(model);
  Trace trace;
  trace.samples.reserve(12 * course.stretches.size());
  std::size_t piece_before = model.load->cycle.pieces.size();
  for (const Stretch& stretch : course.stretches) {
    const MotionPiece& piece = model.load->cycle.pieces[stretch.piece];
    const bool even = counts.even(piece);
    const int steps = std::max(
        1, static_cast<int>(std::ceil(counts.steps(piece) * stretch.length() / piece.duration - 1e-9)));
    // a stretch starts where the one before it ended
    for (int i = stretch.piece == piece_before ? 1 : 0; i <= steps; ++i) {
      const double share = static_cast<double>(i) / steps;
      const double along = even ? share : 0.5 * (1.0 - std::cos(constants::pi * share));
      const double tau = i == steps ? stretch.to : stretch.from + along * stretch.length();
      trace.samples.push_back(model.at(piece.index, tau, silent));
    }
    piece_before = stretch.piece;
  }
  return trace;
}

} // namespace fulmox
