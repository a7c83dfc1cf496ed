#include "core/study/quick.hpp"

#include "core/demand/demand.hpp"

#include <algorithm>
#include <cmath>
#include <limits>

namespace fulmox {
namespace {

/// Greatest jerk inside the pieces looked at; without bound where acceleration jumps at their ends.
double peak_jerk(const Cycle& cycle, std::optional<std::size_t> segment) {
  double most = 0.0, sharpest = 0.0, jump = 0.0;
  constexpr int looks = 16;
  const std::size_t count = cycle.pieces.size();
  for (std::size_t i = 0; i < count; ++i) {
    const Piece& piece = cycle.pieces[i];
    if (segment && piece.segment != *segment) continue;
    for (int k = 0; k <= looks; ++k) {
      const double tau = piece.duration * k / looks;
      most = std::max(most, std::abs(piece.path.jerk(tau)));
      sharpest = std::max(sharpest, std::abs(piece.path.acceleration(tau)));
    }
    const Piece& before = cycle.pieces[i == 0 ? count - 1 : i - 1];
    const Piece& after = cycle.pieces[(i + 1) % count];
    jump = std::max({jump, std::abs(piece.path.acceleration(0.0) - before.path.acceleration(before.duration)),
                     std::abs(after.path.acceleration(0.0) - piece.path.acceleration(piece.duration))});
  }
  return jump > 1e-6 * sharpest ? std::numeric_limits<double>::infinity() : most;
}

} // namespace

Expected<QuickNumbers> quick(const Axis& axis, std::optional<std::size_t> segment) {
  Recorder silent(false);
  const auto model = AxisModel::build(axis, silent);
  if (!model) return model.problem();
  const Trace trace = sample(*model);
  const auto seen = [&](const Instant& i) {
    return !segment || model->cycle.pieces[i.piece].segment == *segment;
  };
  QuickNumbers out;
  out.peak_torque =
      worst(*model, trace, [&](const Instant& i) { return seen(i) ? std::abs(i.torque) : 0.0; }).value;
  out.max_speed =
      worst(*model, trace, [&](const Instant& i) { return seen(i) ? std::abs(i.speed) : 0.0; }).value;
  constexpr double any_exponent = 3.0; // the gear's fatigue sum is not looked at
  const CycleIntegrals sums = integrate(*model, spans_of(*model, trace), any_exponent);
  out.rms_torque = std::sqrt(sums.torque_squared / model->cycle.duration);
  out.load_inertia = load_inertia_at_motor(*model);
  out.inertia_ratio = model->rotor > 0.0 ? out.load_inertia / model->rotor : std::nan("");
  for (std::size_t i = 0; i < model->cycle.facts.size(); ++i) {
    if (segment && i != *segment) continue;
    const SegmentFacts& facts = model->cycle.facts[i];
    out.load_speed = std::max(out.load_speed, std::abs(facts.peak_speed));
    out.load_acceleration = std::max(out.load_acceleration, std::abs(facts.peak_acceleration));
  }
  out.peak_jerk = peak_jerk(model->cycle, segment);
  return out;
}

Entry with_value(Entry entry, double value) {
  entry.value = value;
  return entry;
}

} // namespace fulmox
