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
  const std::size_t count = cycle.pieces.size();
  for (std::size_t i = 0; i < count; ++i) {
    const MotionPiece& piece = cycle.pieces[i];
    if (segment && piece.segment != *segment) continue;
    most = std::max(most, piece.path.greatest_magnitude(3, 0.0, piece.duration));
    sharpest = std::max(sharpest, piece.path.greatest_magnitude(2, 0.0, piece.duration));
    const MotionPiece& before = cycle.pieces[i == 0 ? count - 1 : i - 1];
    const MotionPiece& after = cycle.pieces[(i + 1) % count];
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
  return quick(*model, segment);
}

QuickNumbers quick(const AxisModel& model, std::optional<std::size_t> segment) {
  const Course course = follow(model);
  Course part;
  if (segment)
    for (const Stretch& stretch : course.stretches)
      if (model.load->cycle.pieces[stretch.piece].segment == *segment) {
        part.stretches.push_back(stretch);
        part.stretches.back().again = false; // the first of equals may not be among them
      }
  const Course& looked_at = segment ? part : course;
  QuickNumbers out;
  if (!looked_at.stretches.empty()) {
    out.peak_torque = greatest_magnitude(model, looked_at, &Stretch::torque).value;
    out.max_speed = greatest_magnitude(model, looked_at, &Stretch::speed).value;
  }
  const Sums sums = course.sums();
  out.rms_torque = std::sqrt(sums.torque_squared / model.load->cycle.duration);
  out.load_inertia = load_inertia_at_motor(model);
  out.inertia_ratio = model.rotor > 0.0 ? out.load_inertia / model.rotor : std::nan("");
  for (std::size_t i = 0; i < model.load->cycle.facts.size(); ++i) {
    if (segment && i != *segment) continue;
    const SegmentFacts& facts = model.load->cycle.facts[i];
    out.load_speed = std::max(out.load_speed, std::abs(facts.peak_speed));
    out.load_acceleration = std::max(out.load_acceleration, std::abs(facts.peak_acceleration));
  }
  out.peak_jerk = peak_jerk(model.load->cycle, segment);
  return out;
}

Entry with_value(Entry entry, double value) {
  entry.value = value;
  return entry;
}

} // namespace fulmox
