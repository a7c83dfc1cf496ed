#include "core/demand/statistics.hpp"

#include <algorithm>
#include <cmath>

namespace fulmox {
namespace {

/// The greatest magnitude of a series over part of its stretch, −1 <= from < to <= 1.
double greatest_within(const Series& series, double from, double to) {
  double most = std::max(std::abs(series(from)), std::abs(series(to)));
  for (const double u : series.turning_points())
    if (u > from && u < to) most = std::max(most, std::abs(series(u)));
  return most;
}

} // namespace

SpanStatistics statistics(const AxisModel& model, const Course& course, double from, double to) {
  if (from > to) std::swap(from, to);
  SpanStatistics out;
  out.from = std::clamp(from, 0.0, model.load->cycle.duration);
  out.to = std::clamp(to, 0.0, model.load->cycle.duration);
  double squares = 0.0;
  for (const Stretch& stretch : course.stretches) {
    const MotionPiece& piece = model.load->cycle.pieces[stretch.piece];
    const double a = std::max(stretch.from, out.from - piece.start);
    const double b = std::min(stretch.to, out.to - piece.start);
    if (!(b > a)) continue;
    out.travel += piece.position(b) - piece.position(a);
    const double left = std::max(stretch.share(a), -1.0), right = std::min(stretch.share(b), 1.0);
    for (const auto& [node, weight] : gauss_rule(stretch.nodes)) {
      const double u = 0.5 * (left + right) + 0.5 * (right - left) * node;
      const double torque = stretch.torque(u);
      squares += 0.5 * (b - a) * weight * torque * torque;
      out.shaft_energy += 0.5 * (b - a) * weight * torque * stretch.speed(u);
    }
    out.peak_torque = std::max(out.peak_torque, greatest_within(stretch.torque, left, right));
    out.peak_speed = std::max(out.peak_speed, piece.path.greatest_magnitude(1, a, b));
    out.peak_acceleration = std::max(out.peak_acceleration, piece.path.greatest_magnitude(2, a, b));
    out.peak_jerk = std::max(out.peak_jerk, piece.path.greatest_magnitude(3, a, b));
  }
  if (out.to > out.from) out.rms_torque = std::sqrt(squares / (out.to - out.from));
  return out;
}

} // namespace fulmox
