#include "core/motion/formulas.hpp"

#include "core/motion/s_curve_formulas.hpp"

#include <algorithm>
#include <cmath>
#include <vector>

namespace fulmox {

double trapezoid_peak_speed(double distance, double time, double accel_share, double decel_share) {
  return distance / (time * (1.0 - 0.5 * (accel_share + decel_share)));
}

double trapezoid_speed_between(double distance, double time, double accel_share, double decel_share,
                               double start, double end) {
  return (std::abs(distance) / time - 0.5 * (accel_share * start + decel_share * end)) /
         (1.0 - 0.5 * (accel_share + decel_share));
}

double trapezoid_time_from_speed(double distance, double speed, double accel_share, double decel_share) {
  return std::abs(distance) / (speed * (1.0 - 0.5 * (accel_share + decel_share)));
}

double trapezoid_time_from_acceleration(double distance, double acceleration, double accel_share,
                                        double decel_share) {
  return std::sqrt(std::abs(distance) / (acceleration * std::min(accel_share, decel_share) *
                                         (1.0 - 0.5 * (accel_share + decel_share))));
}

double ramp_share(double distance, double time, double speed, double start, double end) {
  return (speed - std::abs(distance) / time) / (speed - 0.5 * (start + end));
}

double speed_from_acceleration(double distance, double time, double acceleration, double deceleration,
                               double start, double end) {
  const double quadratic = 0.5 / acceleration + 0.5 / deceleration;
  const double linear = time + start / acceleration + end / deceleration;
  const double constant =
      std::abs(distance) + 0.5 * start * start / acceleration + 0.5 * end * end / deceleration;
  double under_root = linear * linear - 4.0 * quadratic * constant;
  // a triangle that fits exactly may come out a rounding below zero
  if (under_root < 0.0 && under_root > -1e-12 * linear * linear) under_root = 0.0;
  return (linear - std::sqrt(under_root)) / (2.0 * quadratic);
}

double time_from_limits(double distance, double speed, double acceleration, double deceleration, double start,
                        double end) {
  return std::abs(distance) / speed + (speed - start) * (speed - start) / (2.0 * acceleration * speed) +
         (speed - end) * (speed - end) / (2.0 * deceleration * speed);
}

double ramp_acceleration(double peak_speed, double share, double time) { return peak_speed / (share * time); }

double ramp_deceleration(double peak_speed, double share, double time) {
  return -peak_speed / (share * time);
}

double acceleration_between(double speed, double before, double time) { return (speed - before) / time; }

double speed_at(double start_speed, double acceleration, double elapsed) {
  return start_speed + acceleration * elapsed;
}

double trapezoid_rms_acceleration(double distance, double time, double accel_share, double decel_share) {
  return std::sqrt(1.0 / accel_share + 1.0 / decel_share) / (1.0 - 0.5 * (accel_share + decel_share)) *
         std::abs(distance) / (time * time);
}

double law_peak_speed(double shape, double distance, double time) { return shape * distance / time; }

double law_peak_acceleration(double shape, double distance, double time) {
  return shape * std::abs(distance) / (time * time);
}

double law_peak_jerk(double shape, double distance, double time) {
  return shape * std::abs(distance) / (time * time * time);
}

double time_from_speed(double shape, double distance, double speed) {
  return shape * std::abs(distance) / speed;
}

double time_from_acceleration(double shape, double distance, double acceleration) {
  return std::sqrt(shape * std::abs(distance) / acceleration);
}

double law_speed(double distance, double time, double slope) { return distance / time * slope; }

double law_acceleration(double distance, double time, double curvature) {
  return distance / (time * time) * curvature;
}

double run_time(double distance, double speed) { return std::abs(distance / speed); }

double run_distance(double speed, double time) { return speed * time; }

double ramped_effort(double first, double last, double share) { return first + (last - first) * share; }

namespace book {
namespace {
const Parameter distance{"D", "D", Kind::length, "distance of the move"};
const Parameter time{"t", "t", Kind::time, "time of the move", range::positive};
const Parameter accel{"alpha", "α", Kind::share, "share of the time spent accelerating", {0.0, 1.0, true}};
const Parameter decel{"delta", "δ", Kind::share, "share of the time spent decelerating", {0.0, 1.0, true}};
const Parameter start{"v_s", "v_s", Kind::speed, "speed at the start", range::not_negative};
const Parameter end{"v_e", "v_e", Kind::speed, "speed at the end", range::not_negative};
const Parameter speed{"v", "v", Kind::speed, "peak speed"};
const Parameter acceleration{"a", "a", Kind::acceleration, "acceleration", range::positive};
const Parameter deceleration{"d", "d", Kind::acceleration, "deceleration", range::positive};
const Parameter before{"v_0", "v_0", Kind::speed, "speed before"};
const Parameter ramp_start{"v0", "v_0", Kind::speed, "speed at the start of the ramp"};
const Parameter any_acceleration{"a", "a", Kind::acceleration, "acceleration"};
const Parameter elapsed{"tau", "τ", Kind::time, "time since the start of the ramp", range::not_negative};
const Parameter c_v{"C_v", "C_v", Kind::number, "shape constant of the speed", range::positive};
const Parameter c_a{"C_a", "C_a", Kind::number, "shape constant of the acceleration", range::positive};
const Parameter c_j{"C_j", "C_j", Kind::number, "shape constant of the jerk", range::positive};
const Parameter slope{"s'", "s′", Kind::number, "slope of the law at this moment"};
const Parameter curvature{"s''", "s″", Kind::number, "curvature of the law at this moment"};
constexpr std::string_view constant_acceleration = "kinematics of constant acceleration";
constexpr std::string_view shape_constant = "shape constant of the law";
} // namespace

const MotionFormula trapezoid_peak_speed{{"motion.trapezoid_peak_speed",
                                          "Peak speed of the move",
                                          "v",
                                          "{D}/({t}·(1 − ({alpha} + {delta})/2))",
                                          Kind::speed,
                                          {distance, time, accel, decel},
                                          constant_acceleration,
                                          calling<&fulmox::trapezoid_peak_speed>}};
const MotionFormula trapezoid_speed_between{
    {"motion.trapezoid_speed_between",
     "Peak speed between two speeds",
     "v",
     "(|{D}|/{t} − ({alpha}·{v_s} + {delta}·{v_e})/2)/(1 − ({alpha} + {delta})/2)",
     Kind::speed,
     {distance, time, accel, decel, start, end},
     constant_acceleration,
     calling<&fulmox::trapezoid_speed_between>}};
const MotionFormula trapezoid_time_from_speed{{"motion.trapezoid_time_from_speed",
                                               "Time of the move",
                                               "t",
                                               "|{D}|/({v}·(1 − ({alpha} + {delta})/2))",
                                               Kind::time,
                                               {distance, speed, accel, decel},
                                               constant_acceleration,
                                               calling<&fulmox::trapezoid_time_from_speed>}};
const MotionFormula trapezoid_time_from_acceleration{
    {"motion.trapezoid_time_from_acceleration",
     "Time of the move",
     "t",
     "√(|{D}|/({a}·min({alpha}, {delta})·(1 − ({alpha} + {delta})/2)))",
     Kind::time,
     {distance, acceleration, accel, decel},
     constant_acceleration,
     calling<&fulmox::trapezoid_time_from_acceleration>}};
const MotionFormula ramp_share{{"motion.ramp_share",
                                "Share of each ramp",
                                "α",
                                "({v} − |{D}|/{t})/({v} − ({v_s} + {v_e})/2)",
                                Kind::share,
                                {distance, time, speed, start, end},
                                constant_acceleration,
                                calling<&fulmox::ramp_share>}};
const MotionFormula speed_from_acceleration{{"motion.speed_from_acceleration",
                                             "Peak speed of the move",
                                             "v",
                                             "smaller root of v²·(1/2{a} + 1/2{d}) − v·({t} + {v_s}/{a} + "
                                             "{v_e}/{d}) + |{D}| + {v_s}²/2{a} + {v_e}²/2{d} = 0",
                                             Kind::speed,
                                             {distance, time, acceleration, deceleration, start, end},
                                             constant_acceleration,
                                             calling<&fulmox::speed_from_acceleration>}};
const MotionFormula time_from_limits{{"motion.time_from_limits",
                                      "Time of the move",
                                      "t",
                                      "|{D}|/{v} + ({v} − {v_s})²/(2·{a}·{v}) + ({v} − {v_e})²/(2·{d}·{v})",
                                      Kind::time,
                                      {distance, speed, acceleration, deceleration, start, end},
                                      constant_acceleration,
                                      calling<&fulmox::time_from_limits>}};
const MotionFormula ramp_acceleration{{"motion.ramp_acceleration",
                                       "Acceleration of a ramp",
                                       "a",
                                       "{v}/({alpha}·{t})",
                                       Kind::acceleration,
                                       {speed, accel, time},
                                       constant_acceleration,
                                       calling<&fulmox::ramp_acceleration>}};
const MotionFormula ramp_deceleration{{"motion.ramp_deceleration",
                                       "Deceleration of a ramp",
                                       "a",
                                       "−{v}/({delta}·{t})",
                                       Kind::acceleration,
                                       {speed, decel, time},
                                       constant_acceleration,
                                       calling<&fulmox::ramp_deceleration>}};
const MotionFormula acceleration_between{{"motion.acceleration_between",
                                          "Acceleration from one speed to another",
                                          "a",
                                          "({v} − {v_0})/{t}",
                                          Kind::acceleration,
                                          {speed, before, time},
                                          constant_acceleration,
                                          calling<&fulmox::acceleration_between>}};
const MotionFormula speed_at{{"motion.speed_at",
                              "Speed at this moment",
                              "v",
                              "{v0} + {a}·{tau}",
                              Kind::speed,
                              {ramp_start, any_acceleration, elapsed},
                              constant_acceleration,
                              calling<&fulmox::speed_at>}};
const MotionFormula trapezoid_rms_acceleration{
    {"motion.trapezoid_rms_acceleration",
     "Rms acceleration of the move",
     "a_rms",
     "√(1/{alpha} + 1/{delta})/(1 − ({alpha} + {delta})/2)·|{D}|/{t}²",
     Kind::acceleration,
     {distance, time, accel, decel},
     constant_acceleration,
     calling<&fulmox::trapezoid_rms_acceleration>}};
const MotionFormula law_peak_speed{{"motion.law_peak_speed",
                                    "Peak speed of the law",
                                    "v",
                                    "{C_v}·{D}/{t}",
                                    Kind::speed,
                                    {c_v, distance, time},
                                    shape_constant,
                                    calling<&fulmox::law_peak_speed>}};
const MotionFormula law_peak_acceleration{{"motion.law_peak_acceleration",
                                           "Peak acceleration of the law",
                                           "a",
                                           "{C_a}·|{D}|/{t}²",
                                           Kind::acceleration,
                                           {c_a, distance, time},
                                           shape_constant,
                                           calling<&fulmox::law_peak_acceleration>}};
const MotionFormula law_peak_jerk{{"motion.law_peak_jerk",
                                   "Peak jerk of the law",
                                   "j",
                                   "{C_j}·|{D}|/{t}³",
                                   Kind::jerk,
                                   {c_j, distance, time},
                                   shape_constant,
                                   calling<&fulmox::law_peak_jerk>}};
const MotionFormula time_from_speed{{"motion.time_from_speed",
                                     "Time of the move",
                                     "t",
                                     "{C_v}·|{D}|/{v}",
                                     Kind::time,
                                     {c_v, distance, speed},
                                     shape_constant,
                                     calling<&fulmox::time_from_speed>}};
const MotionFormula time_from_acceleration{{"motion.time_from_acceleration",
                                            "Time of the move",
                                            "t",
                                            "√({C_a}·|{D}|/{a})",
                                            Kind::time,
                                            {c_a, distance, acceleration},
                                            shape_constant,
                                            calling<&fulmox::time_from_acceleration>}};
const MotionFormula law_speed{{"motion.law_speed",
                               "Speed at this moment",
                               "v",
                               "({D}/{t})·{s'}",
                               Kind::speed,
                               {distance, time, slope},
                               "derivative of the law",
                               calling<&fulmox::law_speed>}};
const MotionFormula law_acceleration{{"motion.law_acceleration",
                                      "Acceleration at this moment",
                                      "a",
                                      "({D}/{t}²)·{s''}",
                                      Kind::acceleration,
                                      {distance, time, curvature},
                                      "second derivative of the law",
                                      calling<&fulmox::law_acceleration>}};
const MotionFormula run_time{{"motion.run_time",
                              "Time of the run",
                              "t",
                              "|{D}|/|{v}|",
                              Kind::time,
                              {distance, speed},
                              "constant speed",
                              calling<&fulmox::run_time>}};
const MotionFormula run_distance{{"motion.run_distance",
                                  "Distance of the run",
                                  "D",
                                  "{v}·{t}",
                                  Kind::length,
                                  {speed, time},
                                  "constant speed",
                                  calling<&fulmox::run_distance>}};
const Formula ramped_force{"process.ramp_force",
                           "Process force at this moment",
                           "F",
                           "{first} + ({last} − {first})·{share}",
                           Kind::force,
                           {{"first", "F_0", Kind::force, "at the start of the segment"},
                            {"last", "F_1", Kind::force, "at its end"},
                            {"share", "u", Kind::number, "share of the segment travelled", range::share}},
                           "straight line between the two values given",
                           calling<&fulmox::ramped_effort>};
const Formula ramped_torque{"process.ramp_torque",
                            "Process torque at this moment",
                            "T",
                            "{first} + ({last} − {first})·{share}",
                            Kind::torque,
                            {{"first", "T_0", Kind::torque, "at the start of the segment"},
                             {"last", "T_1", Kind::torque, "at its end"},
                             {"share", "u", Kind::number, "share of the segment travelled", range::share}},
                            "straight line between the two values given",
                            calling<&fulmox::ramped_effort>};
} // namespace book

std::span<const Formula* const> motion_formulas() {
  static const auto list = [] {
    std::vector<const Formula*> all;
    for (const MotionFormula* both : {&book::trapezoid_peak_speed,
                                      &book::trapezoid_speed_between,
                                      &book::trapezoid_time_from_speed,
                                      &book::trapezoid_time_from_acceleration,
                                      &book::ramp_share,
                                      &book::speed_from_acceleration,
                                      &book::time_from_limits,
                                      &book::ramp_acceleration,
                                      &book::ramp_deceleration,
                                      &book::acceleration_between,
                                      &book::speed_at,
                                      &book::trapezoid_rms_acceleration,
                                      &book::law_peak_speed,
                                      &book::law_peak_acceleration,
                                      &book::law_peak_jerk,
                                      &book::time_from_speed,
                                      &book::time_from_acceleration,
                                      &book::law_speed,
                                      &book::law_acceleration,
                                      &book::s_curve_peak_speed,
                                      &book::s_curve_ramp,
                                      &book::s_curve_time,
                                      &book::s_curve_acceleration,
                                      &book::s_curve_jerk,
                                      &book::s_curve_speed_in_time,
                                      &book::s_curve_acceleration_in_time,
                                      &book::s_curve_jerk_in_time,
                                      &book::mean_ramp_acceleration,
                                      &book::run_time,
                                      &book::run_distance}) {
      all.push_back(&both->line);
      all.push_back(&both->turn);
    }
    all.push_back(&book::ramped_force);
    all.push_back(&book::ramped_torque);
    return all;
  }();
  return list;
}

} // namespace fulmox
