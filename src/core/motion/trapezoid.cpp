#include "core/motion/trapezoid.hpp"

#include <array>
#include <cmath>

namespace fulmox {

double trapezoid_peak_speed(double distance, double time, double accel_share, double decel_share) {
  return distance / (time * (1.0 - 0.5 * (accel_share + decel_share)));
}

double ramp_acceleration(double peak_speed, double share, double time) { return peak_speed / (share * time); }

double ramp_deceleration(double peak_speed, double share, double time) {
  return -peak_speed / (share * time);
}

double speed_at(double start_speed, double acceleration, double elapsed) {
  return start_speed + acceleration * elapsed;
}

double trapezoid_rms_acceleration(double distance, double time, double accel_share, double decel_share) {
  const double peak_factor = 1.0 / (1.0 - 0.5 * (accel_share + decel_share));
  return peak_factor * std::sqrt(1.0 / accel_share + 1.0 / decel_share) * std::abs(distance) / (time * time);
}

namespace book {
namespace {
const Parameter distance{"D", "D", Kind::length, "distance of the move"};
const Parameter time{"t", "t", Kind::time, "time of the move", range::positive};
const Parameter accel{"alpha", "α", Kind::share, "share of the time spent accelerating", {0.0, 1.0, true}};
const Parameter decel{"delta", "δ", Kind::share, "share of the time spent decelerating", {0.0, 1.0, true}};
constexpr std::string_view source = "kinematics of constant acceleration";
} // namespace

const Formula trapezoid_peak_speed{"motion.trapezoid_peak_speed",
                                   "Peak speed of the move",
                                   "v",
                                   "{D}/({t}·(1 − ({alpha} + {delta})/2))",
                                   Kind::speed,
                                   {distance, time, accel, decel},
                                   source,
                                   calling<&fulmox::trapezoid_peak_speed>};

const Formula ramp_acceleration{"motion.ramp_acceleration",
                                "Acceleration of a ramp",
                                "a",
                                "{v}/({alpha}·{t})",
                                Kind::acceleration,
                                {{"v", "v", Kind::speed, "peak speed"}, accel, time},
                                source,
                                calling<&fulmox::ramp_acceleration>};

const Formula ramp_deceleration{"motion.ramp_deceleration",
                                "Deceleration of a ramp",
                                "a",
                                "−{v}/({delta}·{t})",
                                Kind::acceleration,
                                {{"v", "v", Kind::speed, "peak speed"}, decel, time},
                                source,
                                calling<&fulmox::ramp_deceleration>};

const Formula speed_at{"motion.speed_at",
                       "Speed at this moment",
                       "v",
                       "{v0} + {a}·{tau}",
                       Kind::speed,
                       {{"v0", "v_0", Kind::speed, "speed at the start of the ramp"},
                        {"a", "a", Kind::acceleration, "acceleration"},
                        {"tau", "τ", Kind::time, "time since the start of the ramp", range::not_negative}},
                       source,
                       calling<&fulmox::speed_at>};

const Formula trapezoid_rms_acceleration{"motion.trapezoid_rms_acceleration",
                                         "Rms acceleration of the move",
                                         "a_rms",
                                         "√(1/{alpha} + 1/{delta})/(1 − ({alpha} + {delta})/2)·{D}/{t}²",
                                         Kind::acceleration,
                                         {distance, time, accel, decel},
                                         source,
                                         calling<&fulmox::trapezoid_rms_acceleration>};
} // namespace book

std::span<const Formula* const> motion_formulas() {
  static const std::array list{&book::trapezoid_peak_speed, &book::ramp_acceleration,
                               &book::ramp_deceleration, &book::speed_at, &book::trapezoid_rms_acceleration};
  return list;
}

} // namespace fulmox
