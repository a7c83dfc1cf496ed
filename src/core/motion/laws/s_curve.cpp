#include "core/motion/formulas.hpp"
#include "core/motion/laws/laws.hpp"
#include "core/quantity/format.hpp"

#include <cmath>

namespace fulmox {
namespace {

/// One ramp from v0 by a change of speed over a time, its ends rounded with constant jerk.
void add_ramp(MovePlan& plan, double& x, double v0, double change, double time, double rounding) {
  const double tj = 0.5 * rounding * time;
  const double a = change / (time - tj);
  double v = v0;
  const auto add = [&](double duration, double a0, double jerk) {
    if (duration <= 1e-12 * time) return;
    PlanPiece piece;
    piece.duration = duration;
    piece.path = Path::polynomial(x, v, a0, jerk);
    x = piece.path.position(duration);
    v = piece.path.speed(duration);
    plan.pieces.push_back(piece);
  };
  add(tj, 0.0, tj > 0.0 ? a / tj : 0.0);
  add(time - 2.0 * tj, a, 0.0);
  add(tj, a, tj > 0.0 ? -a / tj : 0.0);
}

void add_cruise(MovePlan& plan, double& x, double v, double time) {
  PlanPiece piece;
  piece.duration = time;
  piece.path = Path::polynomial(x, v);
  x = piece.path.position(time);
  plan.pieces.push_back(piece);
}

Expected<MovePlan> within_limits(const MoveGiven& g, Recorder& recorder) {
  if (g.through())
    return g.problem("law", "an S-curve given by its limits starts and ends at rest.",
                     "Give its time and ramp shares instead of peak speed, acceleration and jerk.");
  const auto& k = g.kinds;
  MovePlan plan;
  const Term v = recorder.apply(book::s_curve_peak_speed.in(k), "peak_speed",
                                {g.distance, g.speed, g.acceleration, g.jerk});
  if (v < g.speed * (1.0 - 1e-9))
    recorder.note("The distance is too short for the given speed: this is what it reaches.");
  const Term ramp = recorder.apply(book::s_curve_ramp.in(k), "ramp", {v, g.acceleration, g.jerk});
  plan.time = recorder.apply(book::s_curve_time.in(k), "time", {ramp, g.distance, v});
  const double s = g.direction();
  const double reached = std::min(g.acceleration.value, std::sqrt(v * g.jerk));
  plan.peak_speed = {s * v, v.ref};
  plan.peak_acceleration = {reached, g.acceleration.ref};
  plan.peak_jerk = g.jerk;
  const double rounding = 2.0 * reached / g.jerk / ramp;
  double x = 0.0;
  add_ramp(plan, x, 0.0, s * v, ramp, rounding);
  const double cruise = plan.time - 2.0 * ramp;
  if (cruise > 1e-12 * plan.time) add_cruise(plan, x, s * v, cruise);
  add_ramp(plan, x, s * v, -s * v, ramp, rounding);
  return plan;
}

Expected<MovePlan> by_time(const MoveGiven& g, Recorder& recorder) {
  constexpr Term third{1.0 / 3.0, ""};
  const auto& k = g.kinds;
  const bool none = std::isnan(g.accel_share) && std::isnan(g.decel_share);
  const Term alpha = none ? third : std::isnan(g.accel_share) ? g.decel_share : g.accel_share;
  const Term delta = none ? third : std::isnan(g.decel_share) ? g.accel_share : g.decel_share;
  if (!(alpha > 0.0) || !(delta > 0.0))
    return g.problem(alpha > 0.0 ? "deceleration_share" : "acceleration_share",
                     "a ramp of an S-curve needs some time.", "Give it a share greater than 0.");
  if (alpha + delta > 1.0 + 1e-12)
    return g.problem("deceleration_share", "the ramps take more than the whole time.",
                     "At most " + significant(1.0 - alpha) + " is left for the deceleration.");
  const Term rounding = std::isnan(g.rounding) ? Term{0.5, ""} : g.rounding;
  const double s = g.direction();
  MovePlan plan;
  plan.time = g.time;
  plan.accel_share = alpha;
  plan.decel_share = delta;
  Term v = g.through() ? recorder.apply(book::trapezoid_speed_between.in(k), "peak_speed",
                                        {g.distance, g.time, alpha, delta, g.start_speed, g.end_speed})
                       : recorder.apply(book::trapezoid_peak_speed.in(k), "peak_speed",
                                        {g.distance, g.time, alpha, delta});
  if (g.through()) {
    if (v < 0.0)
      return g.problem("time", "the move would have to run backwards to take that long.", "Shorten it.");
    v.value *= s;
  }
  plan.peak_speed = v;
  const auto ramp = [&](const Term& other, const Term& share, const char* id) {
    return recorder.apply(book::s_curve_acceleration.in(k), id,
                          {v, {s * other, other.ref}, share, g.time, rounding});
  };
  const Term up = ramp(g.start_speed, alpha, "acceleration");
  const Term down = ramp(g.end_speed, delta, "deceleration");
  const bool first = std::abs(up) >= std::abs(down);
  plan.peak_acceleration = first ? up : down;
  plan.peak_jerk = {std::numeric_limits<double>::quiet_NaN(), ""};
  if (rounding > 0.0)
    plan.peak_jerk = recorder.apply(book::s_curve_jerk.in(k), "jerk",
                                    {plan.peak_acceleration, rounding, first ? alpha : delta, g.time});
  double x = 0.0;
  add_ramp(plan, x, s * g.start_speed, v - s * g.start_speed, alpha * g.time, rounding);
  const double cruise = (1.0 - alpha - delta) * g.time;
  if (cruise > 1e-12 * g.time) add_cruise(plan, x, v, cruise);
  add_ramp(plan, x, v, s * g.end_speed - v, delta * g.time, rounding);
  return plan;
}

Expected<MovePlan> plan(const MoveGiven& g, Recorder& recorder) {
  const int limits = !std::isnan(g.speed) + !std::isnan(g.acceleration) + !std::isnan(g.jerk);
  if (!std::isnan(g.time)) {
    if (limits == 0) return by_time(g, recorder);
    return g.problem("time",
                     "an S-curve is given by its time and ramp shares, or by peak speed, acceleration and "
                     "jerk, not by both.",
                     "Clear the time, or the three limits.");
  }
  if (limits == 3) return within_limits(g, recorder);
  return g.problem(std::isnan(g.speed)          ? "peak_speed"
                   : std::isnan(g.acceleration) ? "acceleration"
                                                : "jerk",
                   "an S-curve without a time needs peak speed, acceleration and jerk.", "Give all three.");
}

} // namespace

const LawSpec& s_curve_law() {
  static const LawSpec spec{
      "s_curve",
      "S-curve",
      "Ramps rounded with constant jerk: by limits on speed, acceleration and jerk, or by time, "
      "ramp shares and how much of each ramp is rounded (half when nothing is said).",
      {"time", "peak_speed", "acceleration", "jerk", "acceleration_share", "deceleration_share", "rounding",
       "start_speed", "end_speed"},
      &plan};
  return spec;
}

} // namespace fulmox
