#include "core/motion/laws/ramps.hpp"

#include "core/motion/formulas.hpp"
#include "core/quantity/format.hpp"

#include <cmath>
#include <optional>

namespace fulmox {
namespace {

constexpr double slack = 1e-9;
constexpr Term third{1.0 / 3.0, ""};

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
  const std::string remedy = fits > 1e-12 ? "At most " + at_most(fits, Kind::number) +
                                                " is left for it; or shorten the acceleration."
                                          : "The acceleration takes the whole time: shorten it first.";
  return g.problem("deceleration_share",
                   "the deceleration does not fit: the ramps take " + significant(100.0 * (accel + decel)) +
                       " % of the move's time.",
                   remedy);
}

Expected<Ramps> by_shares(const MoveGiven& g, Recorder& recorder) {
  Ramps ramps;
  const bool none = std::isnan(g.accel_share) && std::isnan(g.decel_share);
  ramps.accel_share = none ? third : std::isnan(g.accel_share) ? g.decel_share : g.accel_share;
  ramps.decel_share = none ? third : std::isnan(g.decel_share) ? g.accel_share : g.decel_share;
  if (const auto problem = misfit(g, ramps.accel_share, ramps.decel_share)) return *problem;
  ramps.time = g.time;
  if (g.through() && std::isnan(g.time))
    return g.problem("time",
                     "a move that starts or ends at speed needs its time, or peak speed and acceleration.",
                     "Give them.");
  if (!std::isnan(g.speed))
    ramps.time = recorder.apply(book::trapezoid_time_from_speed.in(g.kinds), "time",
                                {g.distance, g.speed, ramps.accel_share, ramps.decel_share});
  if (!std::isnan(g.acceleration))
    ramps.time = recorder.apply(book::trapezoid_time_from_acceleration.in(g.kinds), "time",
                                {g.distance, g.acceleration, ramps.accel_share, ramps.decel_share});
  if (!g.through()) {
    ramps.speed = recorder.apply(book::trapezoid_peak_speed.in(g.kinds), "peak_speed",
                                 {g.distance, ramps.time, ramps.accel_share, ramps.decel_share});
    ramps.speed.value = std::abs(ramps.speed.value);
    return ramps;
  }
  ramps.speed = recorder.apply(
      book::trapezoid_speed_between.in(g.kinds), "peak_speed",
      {g.distance, ramps.time, ramps.accel_share, ramps.decel_share, g.start_speed, g.end_speed});
  if (ramps.speed < 0.0)
    return g.problem("time", "the move would have to run backwards to take that long.",
                     "At most " +
                         at_most(std::abs(g.distance) / (0.5 * (ramps.accel_share * g.start_speed +
                                                                ramps.decel_share * g.end_speed)),
                                 Kind::time) +
                         " with these ramps.");
  return ramps;
}

Expected<Ramps> by_time_and_speed(const MoveGiven& g, Recorder& recorder) {
  Ramps ramps{g.time, g.speed, {}, {}};
  ramps.accel_share = ramps.decel_share = recorder.apply(
      book::ramp_share.in(g.kinds), "ramp_share", {g.distance, g.time, g.speed, g.start_speed, g.end_speed});
  const double mean = std::abs(g.distance) / g.time;
  if (!(ramps.accel_share > 0.0))
    return g.problem("peak_speed", "this peak speed does not cover the distance in that time.",
                     "It must exceed the mean speed of " + at_least(mean, g.kinds.speed) + ".");
  if (ramps.accel_share > 0.5 * (1.0 + slack))
    return g.problem("peak_speed", "this peak speed is never reached in that time over this distance.",
                     "At most " + at_most(2.0 * mean - 0.5 * (g.start_speed + g.end_speed), g.kinds.speed) +
                         ".");
  return ramps;
}

Expected<Ramps> by_time_and_acceleration(const MoveGiven& g, double fullness, Recorder& recorder) {
  const Term decel = std::isnan(g.deceleration) ? g.acceleration : g.deceleration;
  Ramps ramps;
  ramps.limits_given = true;
  ramps.time = g.time;
  ramps.speed = recorder.apply(book::speed_from_acceleration.in(g.kinds), "peak_speed",
                               {g.distance, g.time, g.acceleration, decel, g.start_speed, g.end_speed});
  const double ratio = decel / g.acceleration;
  const double least = 2.0 * std::abs(g.distance) / (g.time * g.time) * (1.0 + 1.0 / ratio);
  if (std::isnan(ramps.speed))
    return g.problem(
        "acceleration", "this acceleration does not cover the distance in that time.",
        g.through()
            ? "Give more of it, or more time."
            : "It takes at least " + at_least(least / fullness, g.kinds.acceleration) + ", or " +
                  at_least(std::sqrt(2.0 * std::abs(g.distance) * (1.0 / g.acceleration + 1.0 / decel)),
                           Kind::time) +
                  ".");
  ramps.accel_share = {(ramps.speed - g.start_speed) / g.acceleration / g.time, ""};
  ramps.decel_share = {(ramps.speed - g.end_speed) / decel / g.time, ""};
  if (ramps.accel_share < 0.0 || ramps.decel_share < 0.0)
    return g.problem("time", "the move would have to slow down below its end speeds.", "Give it less time.");
  return ramps;
}

Expected<Ramps> by_limits(const MoveGiven& g, Recorder& recorder) {
  const Term decel = std::isnan(g.deceleration) ? g.acceleration : g.deceleration;
  Ramps ramps;
  ramps.limits_given = true;
  ramps.speed = g.speed;
  if (g.speed < g.start_speed || g.speed < g.end_speed)
    return g.problem("peak_speed", "the peak speed lies below the speed at an end of the move.",
                     "Take at least " +
                         at_least(std::max(g.start_speed.value, g.end_speed.value), g.kinds.speed) + ".");
  const auto ramp = [&](double from, double a) { return (g.speed * g.speed - from * from) / (2.0 * a); };
  const double covered = ramp(g.start_speed, g.acceleration) + ramp(g.end_speed, decel);
  if (covered > std::abs(g.distance) * (1.0 + slack)) {
    const double inverse = 0.5 / g.acceleration + 0.5 / decel;
    const double reached =
        std::sqrt((std::abs(g.distance) + 0.5 * g.start_speed * g.start_speed / g.acceleration +
                   0.5 * g.end_speed * g.end_speed / decel) /
                  inverse);
    return g.problem("peak_speed", "this peak speed is never reached on this distance.",
                     "At most " + at_most(reached, g.kinds.speed) + " with this acceleration.");
  }
  ramps.time = recorder.apply(book::time_from_limits.in(g.kinds), "time",
                              {g.distance, g.speed, g.acceleration, decel, g.start_speed, g.end_speed});
  ramps.accel_share = {(g.speed - g.start_speed) / g.acceleration / ramps.time, ""};
  ramps.decel_share = {(g.speed - g.end_speed) / decel / ramps.time, ""};
  return ramps;
}

} // namespace

Expected<Ramps> solve_ramps(const MoveGiven& g, double fullness, Recorder& recorder) {
  if (const auto problem = contradiction(g)) return *problem;
  const bool time = !std::isnan(g.time), speed = !std::isnan(g.speed), accel = !std::isnan(g.acceleration);
  if (time && speed) return by_time_and_speed(g, recorder);
  if (time && accel && std::isnan(g.accel_share) && std::isnan(g.decel_share))
    return by_time_and_acceleration(g, fullness, recorder);
  if (speed && accel) return by_limits(g, recorder);
  return by_shares(g, recorder);
}

} // namespace fulmox
