#include "core/motion/laws/laws.hpp"
#include "core/motion/laws/ramps.hpp"
#include "core/motion/s_curve_formulas.hpp"
#include "core/quantity/format.hpp"

#include <cmath>
#include <limits>

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

/// Both ramps alike, up to the peak speed in the time of a ramp.
void lay_out(MovePlan& plan, const MoveGiven& g, double v, double ramp, double rounding) {
  const double s = g.direction();
  double x = 0.0;
  add_ramp(plan, x, 0.0, s * v, ramp, rounding);
  const double cruise = plan.time - 2.0 * ramp;
  if (cruise > 1e-9 * plan.time) add_cruise(plan, x, s * v, cruise);
  add_ramp(plan, x, s * v, -s * v, ramp, rounding);
}

/// An acceleration within the jerk: what of it is reached, and how much of the ramp is rounded.
void finish(MovePlan& plan, const MoveGiven& g, const Term& v, const Term& a, const Term& j, double ramp) {
  const double reached = std::min(a.value, std::sqrt(v * j));
  plan.peak_speed = {g.direction() * v, v.ref};
  plan.peak_acceleration = {reached, a.ref};
  plan.peak_jerk = j;
  plan.accel_share = plan.decel_share = ramp / plan.time;
  lay_out(plan, g, v, ramp, std::min(2.0 * reached / j / ramp, 1.0));
}

Expected<MovePlan> within_limits(const MoveGiven& g, Recorder& recorder) {
  const auto& k = g.kinds;
  MovePlan plan;
  const Term v = recorder.apply(book::s_curve_peak_speed.in(k), "peak_speed",
                                {g.distance, g.speed, g.acceleration, g.jerk});
  if (v < g.speed * (1.0 - 1e-9))
    recorder.note("The distance is too short for the given speed: this is what it reaches.");
  const Term ramp = recorder.apply(book::s_curve_ramp.in(k), "ramp", {v, g.acceleration, g.jerk});
  plan.time = recorder.apply(book::s_curve_time.in(k), "time", {ramp, g.distance, v});
  finish(plan, g, v, g.acceleration, g.jerk, ramp);
  return plan;
}

Expected<MovePlan> in_time_with_acceleration(const MoveGiven& g, Recorder& recorder) {
  MovePlan plan;
  plan.time = g.time;
  const Term v = recorder.apply(book::s_curve_speed_in_time.in(g.kinds), "peak_speed",
                                {g.distance, g.time, g.acceleration, g.jerk});
  if (std::isnan(v)) {
    const double fastest =
        s_curve_peak_speed(g.distance, std::numeric_limits<double>::infinity(), g.acceleration, g.jerk);
    const double least = s_curve_time(s_curve_ramp(fastest, g.acceleration, g.jerk), g.distance, fastest);
    return g.problem("time", "this acceleration and jerk do not cover the distance in that time.",
                     "It takes at least " + at_least(least, Kind::time) + ".");
  }
  finish(plan, g, v, g.acceleration, g.jerk, s_curve_ramp(v, g.acceleration, g.jerk));
  return plan;
}

/// Time and peak speed leave a time for each ramp, or refuse.
Expected<double> ramp_between(const MoveGiven& g) {
  const double mean = std::abs(g.distance) / g.time;
  const double ramp = g.time - std::abs(g.distance) / g.speed;
  if (!(ramp > 0.0))
    return g.problem("peak_speed", "this peak speed does not cover the distance in that time.",
                     "It must exceed the mean speed of " + at_least(mean, g.kinds.speed) + ".");
  if (ramp > 0.5 * g.time * (1.0 + 1e-9))
    return g.problem("peak_speed", "this peak speed is never reached in that time over this distance.",
                     "At most " + at_most(2.0 * mean, g.kinds.speed) + ".");
  return ramp;
}

Expected<MovePlan> in_time_with_speed(const MoveGiven& g, Recorder& recorder) {
  const auto ramp = ramp_between(g);
  if (!ramp) return ramp.problem();
  MovePlan plan;
  plan.time = g.time;
  if (std::isnan(g.acceleration)) {
    const Term a = recorder.apply(book::s_curve_acceleration_in_time.in(g.kinds), "acceleration",
                                  {g.distance, g.time, g.speed, g.jerk});
    if (std::isnan(a))
      return g.problem("jerk", "this jerk does not reach the peak speed in the time left for a ramp.",
                       "It takes at least " + at_least(4.0 * g.speed / (*ramp * *ramp), g.kinds.jerk) + ".");
    finish(plan, g, g.speed, a, g.jerk, *ramp);
    return plan;
  }
  const double least = g.speed / *ramp;
  if (!(g.acceleration > least) || g.acceleration > 2.0 * least * (1.0 + 1e-9))
    return g.problem("acceleration",
                     g.acceleration > least
                         ? "this acceleration is never reached in the time left for a ramp."
                         : "this acceleration does not reach the peak speed in the time "
                           "left for a ramp.",
                     "It lies between " + at_least(least, g.kinds.acceleration) + " and " +
                         at_most(2.0 * least, g.kinds.acceleration) + ".");
  const Term j = recorder.apply(book::s_curve_jerk_in_time.in(g.kinds), "jerk",
                                {g.distance, g.time, g.speed, g.acceleration});
  finish(plan, g, g.speed, g.acceleration, j, *ramp);
  return plan;
}

/// Three of time, peak speed, acceleration and jerk: the fourth and the rounding follow.
Expected<MovePlan> by_three(const MoveGiven& g, Recorder& recorder) {
  const bool time = !std::isnan(g.time), speed = !std::isnan(g.speed), accel = !std::isnan(g.acceleration),
             jerk = !std::isnan(g.jerk);
  if (g.through())
    return g.problem("law", "an S-curve given by its jerk starts and ends at rest.",
                     "Give its time and ramp shares instead.");
  for (const auto& [given, field] : {std::pair{&g.accel_share, "acceleration_share"},
                                     {&g.decel_share, "deceleration_share"},
                                     {&g.rounding, "rounding"},
                                     {&g.deceleration, "deceleration"}})
    if (!std::isnan(*given))
      return g.problem(field, "it follows from the values given.",
                       "Clear it, or give two of time, peak speed and acceleration and no jerk.");
  if (time + speed + accel + jerk == 4)
    return g.problem("jerk", "time, peak speed, acceleration and jerk follow from each other.",
                     "Keep three of them.");
  if (!time) return within_limits(g, recorder);
  return speed ? in_time_with_speed(g, recorder) : in_time_with_acceleration(g, recorder);
}

/// Peak acceleration of one ramp as a term of the working; a magnitude when it was typed.
Term peak_of(const MoveGiven& g, const Ramps& ramps, bool up, const Term& rounding, Recorder& recorder) {
  const Term& typed = up || std::isnan(g.deceleration) ? g.acceleration : g.deceleration;
  if (ramps.limits_given) return typed;
  const double s = g.direction();
  const Term& other = up ? g.start_speed : g.end_speed;
  return recorder.apply(book::s_curve_acceleration.in(g.kinds), up ? "acceleration" : "deceleration",
                        {{s * ramps.speed, ramps.speed.ref},
                         {s * other, other.ref},
                         up ? ramps.accel_share : ramps.decel_share,
                         ramps.time,
                         rounding});
}

/// Ramps as of a trapezoid, their corners rounded by a share of each.
Expected<MovePlan> by_rounding(const MoveGiven& g, Recorder& recorder) {
  const auto& k = g.kinds;
  const Term rounding = std::isnan(g.rounding) ? Term{0.5, ""} : g.rounding;
  MoveGiven mean = g;
  if (!std::isnan(g.acceleration))
    mean.acceleration =
        recorder.apply(book::mean_ramp_acceleration.in(k), "mean_acceleration", {g.acceleration, rounding});
  if (!std::isnan(g.deceleration))
    mean.deceleration =
        recorder.apply(book::mean_ramp_acceleration.in(k), "mean_deceleration", {g.deceleration, rounding});
  const auto solved = solve_ramps(mean, 1.0 - 0.5 * rounding, recorder);
  if (!solved) return solved.problem();
  const Ramps& ramps = *solved;
  if (!(ramps.accel_share > 0.0) || !(ramps.decel_share > 0.0))
    return g.problem(ramps.accel_share > 0.0 ? "deceleration_share" : "acceleration_share",
                     "a ramp of an S-curve needs some time.", "Give it a share greater than 0.");
  const double s = g.direction();
  MovePlan plan;
  plan.time = ramps.time;
  plan.accel_share = ramps.accel_share;
  plan.decel_share = ramps.decel_share;
  plan.peak_speed = {s * ramps.speed, ramps.speed.ref};
  const Term up = peak_of(g, ramps, true, rounding, recorder);
  const Term down = peak_of(g, ramps, false, rounding, recorder);
  const bool first = std::abs(up) >= std::abs(down);
  plan.peak_acceleration = first ? up : down;
  plan.peak_jerk = {std::numeric_limits<double>::quiet_NaN(), ""};
  if (rounding > 0.0) {
    // the shorter ramp has the greater jerk when both reach the same acceleration
    const bool sharp = std::abs(up) * ramps.decel_share >= std::abs(down) * ramps.accel_share;
    plan.peak_jerk = recorder.apply(
        book::s_curve_jerk.in(k), "jerk",
        {sharp ? up : down, rounding, sharp ? ramps.accel_share : ramps.decel_share, ramps.time});
  }
  const double v = s * ramps.speed;
  double x = 0.0;
  add_ramp(plan, x, s * g.start_speed, v - s * g.start_speed, ramps.accel_share * ramps.time, rounding);
  const double cruise = (1.0 - ramps.accel_share - ramps.decel_share) * ramps.time;
  if (cruise > 1e-12 * ramps.time) add_cruise(plan, x, v, cruise);
  add_ramp(plan, x, v, s * g.end_speed - v, ramps.decel_share * ramps.time, rounding);
  return plan;
}

Expected<MovePlan> plan(const MoveGiven& g, Recorder& recorder) {
  const int said = !std::isnan(g.time) + !std::isnan(g.speed) + !std::isnan(g.acceleration);
  if (std::isnan(g.jerk) && said < 3) return by_rounding(g, recorder);
  if (said >= 2) return by_three(g, recorder);
  return g.problem(std::isnan(g.speed) ? "peak_speed" : "acceleration",
                   "the jerk alone does not tell the ramps.",
                   "Give two of time, peak speed and acceleration with it, or clear the jerk.");
}

} // namespace

const LawSpec& s_curve_law() {
  static const LawSpec spec{
      "s_curve",
      "S-curve",
      "Ramps rounded with constant jerk: by any three of time, peak speed, acceleration and jerk, or as a "
      "trapezoid with a share of each ramp rounded (half when nothing is said).",
      {"time", "peak_speed", "acceleration", "deceleration", "jerk", "acceleration_share",
       "deceleration_share", "rounding", "start_speed", "end_speed"},
      &plan};
  return spec;
}

} // namespace fulmox
