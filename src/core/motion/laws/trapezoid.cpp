#include "core/motion/formulas.hpp"
#include "core/motion/laws/laws.hpp"
#include "core/motion/laws/ramps.hpp"

#include <cmath>
#include <limits>
#include <tuple>

namespace fulmox {
namespace {

constexpr double rounding = 1e-9;

/// Signed acceleration of one ramp as a term of the working.
Term ramp_of(const MoveGiven& g, const Ramps& ramps, bool up, Recorder& recorder) {
  const double s = g.direction();
  const Term speed{s * ramps.speed, ramps.speed.ref};
  const Term& share = up ? ramps.accel_share : ramps.decel_share;
  const char* id = up ? "acceleration" : "deceleration";
  if (share <= rounding) return {0.0, ""};
  if (ramps.limits_given) {
    const Term& typed = up || std::isnan(g.deceleration) ? g.acceleration : g.deceleration;
    return {up ? s * typed : -s * typed, typed.ref};
  }
  if (!g.through())
    return recorder.apply((up ? book::ramp_acceleration : book::ramp_deceleration).in(g.kinds), id,
                          {speed, share, ramps.time});
  const Term other{s * (up ? g.start_speed : g.end_speed), up ? g.start_speed.ref : g.end_speed.ref};
  const Term duration{share * ramps.time, share.ref};
  return recorder.apply(book::acceleration_between.in(g.kinds), id,
                        up ? std::initializer_list<Term>{speed, other, duration}
                           : std::initializer_list<Term>{other, speed, duration});
}

void add(MovePlan& plan, double& position, double duration, const Term& v0, const Term& a) {
  PlanPiece piece;
  piece.duration = duration;
  piece.path = Path::polynomial(position, v0, a);
  piece.ramp = true;
  piece.v0 = v0;
  piece.a = a;
  position = piece.path.position(duration);
  plan.pieces.push_back(piece);
}

Expected<MovePlan> plan(const MoveGiven& g, Recorder& recorder) {
  const auto solved = solve_ramps(g, 1.0, recorder);
  if (!solved) return solved.problem();
  const Ramps& ramps = *solved;
  for (const auto& [share, speed, field] :
       {std::tuple{ramps.accel_share, g.start_speed, "acceleration_share"},
        {ramps.decel_share, g.end_speed, "deceleration_share"}})
    if (share <= rounding && std::abs(ramps.speed - speed) > 1e-6 * ramps.speed)
      return g.problem(field, "no time is left for this ramp: the speed would jump.",
                       "Give it a share greater than 0.");
  const double s = g.direction();
  MovePlan plan;
  plan.time = ramps.time;
  plan.peak_speed = {s * ramps.speed, ramps.speed.ref};
  plan.accel_share = ramps.accel_share;
  plan.decel_share = ramps.decel_share;
  const Term up = ramp_of(g, ramps, true, recorder);
  const Term down = ramp_of(g, ramps, false, recorder);
  plan.peak_acceleration = std::abs(up) >= std::abs(down) ? up : down;
  plan.peak_jerk = {std::numeric_limits<double>::quiet_NaN(), ""};
  double position = 0.0;
  const double ramp_up = ramps.accel_share * ramps.time;
  const double ramp_down = ramps.decel_share * ramps.time;
  const double cruise = ramps.time - ramp_up - ramp_down;
  const double least = 1e-12 * ramps.time;
  if (ramp_up > least) add(plan, position, ramp_up, {s * g.start_speed, g.start_speed.ref}, up);
  // a triangle leaves no cruise but rounding may pretend one
  if (cruise > least) add(plan, position, cruise, plan.peak_speed, {0.0, ""});
  if (ramp_down > least) add(plan, position, ramp_down, plan.peak_speed, down);
  return plan;
}

} // namespace

const LawSpec& trapezoid_law() {
  static const LawSpec spec{
      "trapezoid",
      "Trapezoid",
      "Ramps of constant acceleration with a cruise between: by any two of time, peak speed "
      "and acceleration, or by ramp shares (a third each when nothing is said).",
      {"time", "peak_speed", "acceleration", "deceleration", "acceleration_share", "deceleration_share",
       "start_speed", "end_speed"},
      &plan};
  return spec;
}

} // namespace fulmox
