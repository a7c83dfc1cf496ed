#include "core/motion/laws/fixed_law.hpp"

#include "core/motion/formulas.hpp"

#include <cmath>

namespace fulmox {

void ShapeBuilder::add(double share, const Path& path) {
  PlanPiece piece;
  piece.duration = share;
  piece.path = path;
  s_ = path.position(share);
  v_ = path.speed(share);
  pieces_.push_back(piece);
}

ShapeBuilder& ShapeBuilder::sine(double share, double amplitude, double omega, double phase) {
  Path path;
  path.amplitude = -amplitude / (omega * omega);
  path.omega = omega;
  path.phase = phase;
  path.c[0] = s_ - path.amplitude * std::sin(phase);
  path.c[1] = v_ - path.amplitude * omega * std::cos(phase);
  add(share, path);
  return *this;
}

ShapeBuilder& ShapeBuilder::constant(double share, double acceleration) {
  add(share, Path::polynomial(s_, v_, acceleration));
  return *this;
}

std::vector<PlanPiece> ShapeBuilder::polynomial(const std::array<double, 8>& coefficients) {
  PlanPiece piece;
  piece.duration = 1.0;
  piece.path.c = coefficients;
  return {piece};
}

std::vector<std::string_view> fixed_law_fields() { return {"time", "peak_speed", "acceleration"}; }

Expected<MovePlan> plan_fixed(const MoveGiven& given, const FixedShape& shape, Recorder& recorder) {
  const int said = !std::isnan(given.time) + !std::isnan(given.speed) + !std::isnan(given.acceleration);
  if (said == 0)
    return given.problem("time", "the move has no time.",
                         "Give its time, its peak speed or its acceleration.");
  if (said > 1)
    return given.problem(
        std::isnan(given.time) ? "peak_speed" : "time",
        "this law has a fixed shape: time, peak speed and acceleration follow from each other.",
        "Keep one of them and clear the others, or take the trapezoid.");
  if (given.through())
    return given.problem("law", "this law starts and ends at rest, but the move is entered or left at speed.",
                         "Take the trapezoid, the S-curve or the 3-4-5 polynomial.");
  const auto& kinds = given.kinds;
  const Term c_v{shape.c_v, ""};
  const Term c_a{shape.c_a, ""};
  MovePlan plan;
  plan.time = given.time;
  if (!std::isnan(given.speed))
    plan.time = recorder.apply(book::time_from_speed.in(kinds), "time", {c_v, given.distance, given.speed});
  else if (!std::isnan(given.acceleration))
    plan.time = recorder.apply(book::time_from_acceleration.in(kinds), "time",
                               {c_a, given.distance, given.acceleration});
  plan.peak_speed =
      recorder.apply(book::law_peak_speed.in(kinds), "peak_speed", {c_v, given.distance, plan.time});
  plan.peak_acceleration =
      recorder.apply(book::law_peak_acceleration.in(kinds), "acceleration", {c_a, given.distance, plan.time});
  plan.peak_jerk = {std::numeric_limits<double>::quiet_NaN(), ""};
  if (std::isfinite(shape.c_j))
    plan.peak_jerk =
        recorder.apply(book::law_peak_jerk.in(kinds), "jerk", {{shape.c_j, ""}, given.distance, plan.time});
  for (const PlanPiece& unit : shape.pieces) {
    PlanPiece piece;
    piece.duration = unit.duration * plan.time;
    piece.path = unit.path.stretched(given.distance, plan.time, 0.0);
    plan.pieces.push_back(piece);
  }
  return plan;
}

} // namespace fulmox
