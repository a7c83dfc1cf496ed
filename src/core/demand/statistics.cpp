#include "core/demand/statistics.hpp"

#include "core/demand/integrals.hpp"

#include <algorithm>
#include <cmath>

namespace fulmox {
namespace {

void take_peaks(SpanStatistics& out, const Instant& now) {
  out.peak_speed = std::max(out.peak_speed, std::abs(now.load.speed));
  out.peak_acceleration = std::max(out.peak_acceleration, std::abs(now.load.acceleration));
  out.peak_jerk = std::max(out.peak_jerk, std::abs(now.jerk));
  out.peak_torque = std::max(out.peak_torque, std::abs(now.torque));
}

} // namespace

SpanStatistics statistics(const AxisModel& model, double from, double to) {
  if (from > to) std::swap(from, to);
  SpanStatistics out;
  out.from = std::clamp(from, 0.0, model.cycle.duration);
  out.to = std::clamp(to, 0.0, model.cycle.duration);
  Recorder silent(false);
  double squares = 0.0;
  constexpr int looks = 16;
  for (const Span& span : spans_of(model, sample(model))) {
    const Piece& piece = model.cycle.pieces[span.piece];
    const double a = std::max(span.from, out.from - piece.start);
    const double b = std::min(span.to, out.to - piece.start);
    if (!(b > a)) continue;
    out.travel += piece.position(b) - piece.position(a);
    for (const auto& [node, weight] : gauss_rule()) {
      const Instant now = model.at(span.piece, 0.5 * (a + b) + 0.5 * (b - a) * node, silent);
      squares += 0.5 * (b - a) * weight * now.torque * now.torque;
      out.shaft_energy += 0.5 * (b - a) * weight * now.shaft_power;
    }
    for (int i = 0; i <= looks; ++i) take_peaks(out, model.at(span.piece, a + (b - a) * i / looks, silent));
  }
  if (out.to > out.from) out.rms_torque = std::sqrt(squares / (out.to - out.from));
  return out;
}

} // namespace fulmox
