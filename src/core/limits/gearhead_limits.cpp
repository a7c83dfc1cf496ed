#include "core/gearhead/gearhead.hpp"
#include "core/limits/limit.hpp"
#include "core/limits/standing.hpp"

#include "core/rotation/rotation.hpp"

#include <algorithm>
#include <array>
#include <cmath>

namespace fulmox {
namespace {

/// How often in a cycle the axis sets out from standstill, turning round included.
double starts(const Cycle& cycle) {
  double fastest = 0.0;
  for (const SegmentFacts& facts : cycle.facts) fastest = std::max(fastest, std::abs(facts.peak_speed.value));
  const auto begins = [&](const MotionPiece& p) {
    return !p.rest() && std::abs(p.speed(0.0)) <= 1e-6 * fastest;
  };
  return static_cast<double>(std::count_if(cycle.pieces.begin(), cycle.pieces.end(), begins));
}

std::optional<Limit> equivalent(const LimitContext& c) {
  if (!c.model.gear.fitted) return std::nullopt;
  const Gearhead& gear = c.model.gear;
  const bool steadily = gear_runs_on(c) && !std::isnan(gear.continuous_torque);
  const Term rated = steadily ? gear.continuous_torque : gear.nominal_torque;
  if (std::isnan(rated))
    return missing("The gearhead's nominal torque is missing.", "gearhead.nominal_torque");
  const Term demand = c.recorder.apply(book::equivalent_torque, "gear.equivalent",
                                       {{c.demand.integrals.gear_weighted, ""},
                                        {c.demand.integrals.turns, ""},
                                        c.rules.term("gear_exponent")});
  return compare(c, "gear.equivalent", demand, rated, Kind::torque,
                 steadily
                     ? "Turns most of the time, or for long: the continuous torque counts. Turns weighted by "
                       "a power of the torque, at the output."
                     : "Fatigue: turns weighted by a power of the torque, at the output.");
}

std::optional<Limit> peak(const LimitContext& c) {
  if (!c.model.gear.fitted) return std::nullopt;
  const Term rated = c.model.gear.peak_torque;
  if (std::isnan(rated))
    return missing("The gearhead's acceleration torque is missing.", "gearhead.peak_torque");
  const Moment& moment = c.model.load->peaks.output;
  Instant now;
  {
    const Recorder::Scope scope(c.recorder, "at_limit.gear.");
    now = c.model.at(moment.piece, moment.tau, c.recorder);
  }
  const Term per_hour =
      c.recorder.apply(book::starts_per_hour, "gear.starts",
                       {{starts(c.model.load->cycle), ""}, {c.model.load->cycle.duration, ""}});
  const Term factor = c.recorder.apply(book::shock_factor, "gear.shock_factor", {per_hour});
  const Term demand = c.recorder.apply(book::shocked_torque, "gear.peak", {now.output.torque, factor});
  return compare_at(c, "gear.peak", moment, demand, rated, Kind::torque,
                    "Greatest torque at the output, with the factor for starts per hour.");
}

double stop_torque(double torque, double ratio, double back_efficiency, double load, double motor) {
  return torque * ratio / back_efficiency * load / (load + ratio * ratio * motor);
}

/// The greatest torque that the motor's peak current or the closing brake can put through the head.
std::optional<Limit> stop(const LimitContext& c) {
  if (!c.model.gear.fitted) return std::nullopt;
  const Term rated = c.model.gear.emergency_torque;
  if (std::isnan(rated)) return std::nullopt; // few makers tell it
  Term most = most_motor_torque(c.model);
  if (c.model.brake.fitted && c.model.brake.torque > most) most = c.model.brake.torque;
  if (!(most > 0.0))
    return missing("The stop torque needs the motor's peak torque, or its Kt and peak current.", "motor.kt");
  const Gearhead& gear = c.model.gear;
  // a head that locks itself lets nothing back: its own friction stops the load, taken without help here
  const Term back = gear.back_efficiency > 0.0 ? gear.back_efficiency : Term{1.0, gear.back_efficiency.ref};
  const Term load = c.recorder.apply(book::inertia_behind, "gear.stop_load",
                                     {c.demand.load_inertia, gear.input_inertia, gear.ratio});
  const Term own =
      c.recorder.apply(book::inertia_sum, "gear.stop_motor", {c.model.rotor, gear.input_inertia});
  const Term demand = c.recorder.apply(book::stop_torque, "gear.estop", {most, gear.ratio, back, load, own});
  return compare(c, "gear.estop", demand, rated, Kind::torque,
                 "Emergency stop by the motor's peak current or the brake, the load free to slow down.");
}

/// So many emergency stops as are expected against those allowed.
std::optional<Limit> stops(const LimitContext& c) {
  const Term &expected = c.model.load->asked.stops, &allowed = c.model.gear.emergency_stops;
  if (!c.model.gear.fitted || std::isnan(expected) || std::isnan(allowed)) return std::nullopt;
  return compare(c, "gear.stops", expected, allowed, Kind::number,
                 "Emergency stops in the life of the machine against those its maker allows.");
}

std::optional<Limit> mean_speed(const LimitContext& c) {
  const Term rated = c.model.gear.mean_speed;
  if (!c.model.gear.fitted || std::isnan(rated)) return std::nullopt;
  return compare(c, "gear.speed_mean", c.demand.mean_speed, rated, Kind::angular_speed,
                 "Mean speed at the input.");
}

std::optional<Limit> max_speed(const LimitContext& c) {
  if (!c.model.gear.fitted) return std::nullopt;
  const Term rated = c.model.gear.max_speed;
  if (std::isnan(rated))
    return missing("The gearhead's maximum input speed is missing.", "gearhead.max_speed");
  return compare_at(c, "gear.speed_max", c.demand.top_speed_at, c.demand.max_speed, rated,
                    Kind::angular_speed, "Greatest speed at the input.");
}

} // namespace

bool gear_runs_on(const LimitContext& c) {
  const Cycle& cycle = c.model.load->cycle;
  double turning = 0.0, run = 0.0, longest = 0.0, first_run = -1.0;
  for (const MotionPiece& piece : cycle.pieces) {
    if (piece.rest()) {
      if (first_run < 0.0) first_run = run;
      run = 0.0;
      continue;
    }
    turning += piece.duration;
    run += piece.duration;
    longest = std::max(longest, run);
  }
  if (first_run < 0.0) return run > 0.0; // never rests
  // the end of a cycle goes on in the next
  return runs_on(turning / cycle.duration, std::max(longest, run + first_run));
}

namespace book {
const Formula stop_torque{
    "gear.stop_torque",
    "Torque through the head in an emergency stop",
    "T_2stop",
    "{T}·{i}/{eta_b}·{J_L}/({J_L} + {i}²·{J_m})",
    Kind::torque,
    {{"T", "T_m", Kind::torque, "greatest torque of motor or brake", range::not_negative},
     {"i", "i", Kind::number, "ratio of the head", range::positive},
     {"eta_b", "η_b", Kind::share, "efficiency when back-driven", range::efficiency},
     {"J_L", "J_L", Kind::inertia, "load at the head's output", range::positive},
     {"J_m", "J_m", Kind::inertia, "rotor, brake and head at the motor", range::not_negative}},
    "both sides slow down together; the share that slows the load crosses the head",
    calling<&fulmox::stop_torque>};
} // namespace book

std::span<const LimitSpec> gearhead_limits() {
  static constexpr std::array list{
      LimitSpec{"gear.equivalent", "Gearhead life torque",
                "Equivalent torque at the output against the nominal torque.", &equivalent, LooksAt::head},
      LimitSpec{"gear.peak", "Gearhead peak torque",
                "Acceleration peak at the output against the acceleration torque.", &peak, LooksAt::head},
      LimitSpec{"gear.estop", "Gearhead emergency stop",
                "Torque that motor or brake can put through the head against its emergency rating.", &stop,
                LooksAt::drive, Follows::torque},
      LimitSpec{"gear.stops", "Gearhead, number of stops",
                "Emergency stops expected against those the gearhead bears.", &stops, LooksAt::head,
                Follows::sums},
      LimitSpec{"gear.speed_mean", "Gearhead mean speed", "Mean input speed against the rating.", &mean_speed,
                LooksAt::head},
      LimitSpec{"gear.speed_max", "Gearhead top speed", "Greatest input speed against the rating.",
                &max_speed, LooksAt::head}};
  return list;
}

} // namespace fulmox
