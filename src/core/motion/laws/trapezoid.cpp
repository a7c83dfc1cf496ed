#include "core/motion/formulas.hpp"
#include "core/motion/laws/laws.hpp"
#include "core/quantity/format.hpp"

#include <cmath>
#include <limits>
#include <optional>
#include <tuple>

namespace fulmox {
namespace {

constexpr double rounding = 1e-9;
constexpr Term third{1.0 / 3.0, ""};

/// Peak speed as a magnitude, time and ramp shares: all that a trapezoid is.
struct Shape {
  Term time, speed, accel_share, decel_share;
  bool limits_given = false; ///< the accelerations were typed, not worked out
};

std::string shown(double value, Kind kind) { return format(value, kind).text(); }

std::optional<Problem> contradiction(const MoveGiven& g) {
  const bool time = !std::isnan(g.time), speed = !std::isnan(g.speed), accel = !std::isnan(g.acceleration);
  const bool shares = !std::isnan(g.accel_share) || !std::isnan(g.decel_share);
  const int said = time + speed + accel;
  if (!std::isnan(g.deceleration) && !accel)
    return g.problem("acceleration", "a deceleration is given without an acceleration.",
                     "Give both or neither.");
  if (said == 0)
    return g.problem("time", "the move has no time.",
                     "Give any two of time, peak speed and acceleration, or one of them with ramp shares.");
  if (said == 3)
    return g.problem("acceleration", "time, peak speed and acceleration follow from each other.",
                     "Keep two of them and clear the third.");
  if (shares && said == 2)
    return g.problem(std::isnan(g.accel_share) ? "deceleration_share" : "acceleration_share",
                     "the ramps already follow from the two values given.",
                     "Clear the ramp shares, or keep one of time, peak speed and acceleration.");
  if (shares && !std::isnan(g.deceleration))
    return g.problem("deceleration", "the deceleration follows from the ramp shares.", "Clear one of them.");
  return std::nullopt;
}

/// Ramp shares must fit into the move together; says the largest deceleration share that does.
std::optional<Problem> misfit(const MoveGiven& g, double accel, double decel) {
  if (accel + decel <= 1.0 + 1e-12) return std::nullopt;
  const double fits = 1.0 - accel;
  const std::string remedy =
      fits > 1e-12 ? "At most " + significant(fits) + " is left for it; or shorten the acceleration."
                   : "The acceleration takes the whole time: shorten it first.";
  return g.problem("deceleration_share",
                   "the deceleration does not fit: the ramps take " + significant(100.0 * (accel + decel)) +
                       " % of the move's time.",
                   remedy);
}

Expected<Shape> by_shares(const MoveGiven& g, Recorder& recorder) {
  Shape shape;
  const bool none = std::isnan(g.accel_share) && std::isnan(g.decel_share);
  shape.accel_share = none ? third : std::isnan(g.accel_share) ? g.decel_share : g.accel_share;
  shape.decel_share = none ? third : std::isnan(g.decel_share) ? g.accel_share : g.decel_share;
  if (const auto problem = misfit(g, shape.accel_share, shape.decel_share)) return *problem;
  shape.time = g.time;
  if (g.through() && std::isnan(g.time))
    return g.problem("time",
                     "a move that starts or ends at speed needs its time, or peak speed and acceleration.",
                     "Give them.");
  if (!std::isnan(g.speed))
    shape.time = recorder.apply(book::trapezoid_time_from_speed.in(g.kinds), "time",
                                {g.distance, g.speed, shape.accel_share, shape.decel_share});
  if (!std::isnan(g.acceleration))
    shape.time = recorder.apply(book::trapezoid_time_from_acceleration.in(g.kinds), "time",
                                {g.distance, g.acceleration, shape.accel_share, shape.decel_share});
  if (!g.through()) {
    shape.speed = recorder.apply(book::trapezoid_peak_speed.in(g.kinds), "peak_speed",
                                 {g.distance, shape.time, shape.accel_share, shape.decel_share});
    shape.speed.value = std::abs(shape.speed.value);
    return shape;
  }
  shape.speed = recorder.apply(
      book::trapezoid_speed_between.in(g.kinds), "peak_speed",
      {g.distance, shape.time, shape.accel_share, shape.decel_share, g.start_speed, g.end_speed});
  if (shape.speed < 0.0)
    return g.problem("time", "the move would have to run backwards to take that long.",
                     "At most " +
                         shown(std::abs(g.distance) / (0.5 * (shape.accel_share * g.start_speed +
                                                              shape.decel_share * g.end_speed)),
                               Kind::time) +
                         " with these ramps.");
  return shape;
}

Expected<Shape> by_time_and_speed(const MoveGiven& g, Recorder& recorder) {
  Shape shape{g.time, g.speed, {}, {}};
  shape.accel_share = shape.decel_share = recorder.apply(
      book::ramp_share.in(g.kinds), "ramp_share", {g.distance, g.time, g.speed, g.start_speed, g.end_speed});
  const double mean = std::abs(g.distance) / g.time;
  if (!(shape.accel_share > 0.0))
    return g.problem("peak_speed", "this peak speed does not cover the distance in that time.",
                     "It must exceed the mean speed of " + shown(mean, g.kinds.speed) + ".");
  if (shape.accel_share > 0.5 * (1.0 + rounding))
    return g.problem("peak_speed", "this peak speed is never reached in that time over this distance.",
                     "At most " + shown(2.0 * mean - 0.5 * (g.start_speed + g.end_speed), g.kinds.speed) +
                         ".");
  return shape;
}

Expected<Shape> by_time_and_acceleration(const MoveGiven& g, Recorder& recorder) {
  const Term decel = std::isnan(g.deceleration) ? g.acceleration : g.deceleration;
  Shape shape;
  shape.limits_given = true;
  shape.time = g.time;
  shape.speed = recorder.apply(book::speed_from_acceleration.in(g.kinds), "peak_speed",
                               {g.distance, g.time, g.acceleration, decel, g.start_speed, g.end_speed});
  const double ratio = decel / g.acceleration;
  const double least = 2.0 * std::abs(g.distance) / (g.time * g.time) * (1.0 + 1.0 / ratio);
  if (std::isnan(shape.speed))
    return g.problem(
        "acceleration", "this acceleration does not cover the distance in that time.",
        g.through() ? "Give more of it, or more time."
                    : "It takes at least " + shown(least, g.kinds.acceleration) + ", or " +
                          shown(std::sqrt(2.0 * std::abs(g.distance) * (1.0 / g.acceleration + 1.0 / decel)),
                                Kind::time) +
                          ".");
  shape.accel_share = {(shape.speed - g.start_speed) / g.acceleration / g.time, ""};
  shape.decel_share = {(shape.speed - g.end_speed) / decel / g.time, ""};
  if (shape.accel_share < 0.0 || shape.decel_share < 0.0)
    return g.problem("time", "the move would have to slow down below its end speeds.", "Give it less time.");
  return shape;
}

Expected<Shape> by_limits(const MoveGiven& g, Recorder& recorder) {
  const Term decel = std::isnan(g.deceleration) ? g.acceleration : g.deceleration;
  Shape shape;
  shape.limits_given = true;
  shape.speed = g.speed;
  if (g.speed < g.start_speed || g.speed < g.end_speed)
    return g.problem("peak_speed", "the peak speed lies below the speed at an end of the move.",
                     "Take at least " +
                         shown(std::max(g.start_speed.value, g.end_speed.value), g.kinds.speed) + ".");
  const auto ramp = [&](double from, double a) { return (g.speed * g.speed - from * from) / (2.0 * a); };
  const double ramps = ramp(g.start_speed, g.acceleration) + ramp(g.end_speed, decel);
  if (ramps > std::abs(g.distance) * (1.0 + rounding)) {
    const double inverse = 0.5 / g.acceleration + 0.5 / decel;
    const double reached =
        std::sqrt((std::abs(g.distance) + 0.5 * g.start_speed * g.start_speed / g.acceleration +
                   0.5 * g.end_speed * g.end_speed / decel) /
                  inverse);
    return g.problem("peak_speed", "this peak speed is never reached on this distance.",
                     "At most " + shown(reached, g.kinds.speed) + " with this acceleration.");
  }
  shape.time = recorder.apply(book::time_from_limits.in(g.kinds), "time",
                              {g.distance, g.speed, g.acceleration, decel, g.start_speed, g.end_speed});
  shape.accel_share = {(g.speed - g.start_speed) / g.acceleration / shape.time, ""};
  shape.decel_share = {(g.speed - g.end_speed) / decel / shape.time, ""};
  return shape;
}

Expected<Shape> solve(const MoveGiven& g, Recorder& recorder) {
  if (const auto problem = contradiction(g)) return *problem;
  const bool time = !std::isnan(g.time), speed = !std::isnan(g.speed), accel = !std::isnan(g.acceleration);
  if (time && speed) return by_time_and_speed(g, recorder);
  if (time && accel && std::isnan(g.accel_share) && std::isnan(g.decel_share))
    return by_time_and_acceleration(g, recorder);
  if (speed && accel) return by_limits(g, recorder);
  return by_shares(g, recorder);
}

/// Signed acceleration of one ramp as a term of the working.
Term ramp_of(const MoveGiven& g, const Shape& shape, bool up, Recorder& recorder) {
  const double s = g.direction();
  const Term speed{s * shape.speed, shape.speed.ref};
  const Term& share = up ? shape.accel_share : shape.decel_share;
  const char* id = up ? "acceleration" : "deceleration";
  if (share <= rounding) return {0.0, ""};
  if (shape.limits_given) {
    const Term& typed = up || std::isnan(g.deceleration) ? g.acceleration : g.deceleration;
    return {up ? s * typed : -s * typed, typed.ref};
  }
  if (!g.through())
    return recorder.apply((up ? book::ramp_acceleration : book::ramp_deceleration).in(g.kinds), id,
                          {speed, share, shape.time});
  const Term other{s * (up ? g.start_speed : g.end_speed), up ? g.start_speed.ref : g.end_speed.ref};
  const Term duration{share * shape.time, share.ref};
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
  const auto solved = solve(g, recorder);
  if (!solved) return solved.problem();
  const Shape& shape = *solved;
  for (const auto& [share, speed, field] :
       {std::tuple{shape.accel_share, g.start_speed, "acceleration_share"},
        {shape.decel_share, g.end_speed, "deceleration_share"}})
    if (share <= rounding && std::abs(shape.speed - speed) > 1e-6 * shape.speed)
      return g.problem(field, "no time is left for this ramp: the speed would jump.",
                       "Give it a share greater than 0.");
  const double s = g.direction();
  MovePlan plan;
  plan.time = shape.time;
  plan.peak_speed = {s * shape.speed, shape.speed.ref};
  plan.accel_share = shape.accel_share;
  plan.decel_share = shape.decel_share;
  const Term up = ramp_of(g, shape, true, recorder);
  const Term down = ramp_of(g, shape, false, recorder);
  plan.peak_acceleration = std::abs(up) >= std::abs(down) ? up : down;
  plan.peak_jerk = {std::numeric_limits<double>::quiet_NaN(), ""};
  double position = 0.0;
  const double ramp_up = shape.accel_share * shape.time;
  const double ramp_down = shape.decel_share * shape.time;
  const double cruise = shape.time - ramp_up - ramp_down;
  const double least = 1e-12 * shape.time;
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
