#include "core/motion/formulas.hpp"
#include "core/motion/laws/fixed_law.hpp"
#include "core/motion/laws/laws.hpp"

#include <cmath>
#include <limits>

namespace fulmox {
namespace {

const FixedShape& shape() {
  static const FixedShape unit{1.875, 10.0 / std::sqrt(3.0), 60.0,
                               ShapeBuilder::polynomial({0.0, 0.0, 0.0, 10.0, -15.0, 6.0})};
  return unit;
}

/// The fifth-degree polynomial that meets speed at both ends with zero acceleration there.
Expected<MovePlan> plan_between_speeds(const MoveGiven& given) {
  if (std::isnan(given.time) || !std::isnan(given.speed) || !std::isnan(given.acceleration))
    return given.problem("time", "between speeds this law is given by distance and time alone.",
                         "Give the time and clear peak speed and acceleration.");
  const double t = given.time;
  const double d = std::abs(given.distance);
  const double v0 = given.start_speed;
  const double v1 = given.end_speed;
  PlanPiece piece;
  piece.duration = t;
  piece.path.c = {0.0,
                  v0,
                  0.0,
                  (20.0 * d - (8.0 * v1 + 12.0 * v0) * t) / (2.0 * t * t * t),
                  (-30.0 * d + (14.0 * v1 + 16.0 * v0) * t) / (2.0 * t * t * t * t),
                  (12.0 * d - 6.0 * (v0 + v1) * t) / (2.0 * t * t * t * t * t)};
  const double backwards = piece.path.greatest(1, -1.0, 0.0, t, 0.0).value;
  if (backwards > 1e-9 * d / t)
    return given.problem("time", "the move would have to run backwards for a while.",
                         "Give it less time, or more distance.");
  MovePlan plan;
  const double s = given.direction();
  piece.path = piece.path.stretched(s, 1.0, 0.0);
  plan.time = given.time;
  plan.peak_speed = {s * piece.path.greatest_magnitude(1, 0.0, t), ""};
  plan.peak_acceleration = {piece.path.greatest_magnitude(2, 0.0, t), ""};
  plan.peak_jerk = {piece.path.greatest_magnitude(3, 0.0, t), ""};
  plan.pieces = {piece};
  return plan;
}

} // namespace

const LawSpec& polynomial_345_law() {
  static const LawSpec spec{"345",
                            "3-4-5 polynomial",
                            "Acceleration starts and ends at zero; a good all-round smooth move.",
                            {"time", "peak_speed", "acceleration", "start_speed", "end_speed"},
                            [](const MoveGiven& given, Recorder& recorder) {
                              return given.through() ? plan_between_speeds(given)
                                                     : plan_fixed(given, shape(), recorder);
                            }};
  return spec;
}

} // namespace fulmox
