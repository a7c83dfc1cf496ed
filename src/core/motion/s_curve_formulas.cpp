#include "core/motion/s_curve_formulas.hpp"

#include <boost/math/tools/toms748_solve.hpp>

#include <algorithm>
#include <cmath>

namespace fulmox {

double s_curve_peak_speed(double distance, double speed, double acceleration, double jerk) {
  const double d = std::abs(distance);
  const double a = acceleration;
  if (d >= 2.0 * a * a * a / (jerk * jerk))
    return std::min(speed, 0.5 * (std::sqrt(a * a * a * a / (jerk * jerk) + 4.0 * a * d) - a * a / jerk));
  return std::min(speed, std::cbrt(0.25 * d * d * jerk));
}

double s_curve_ramp(double speed, double acceleration, double jerk) {
  return speed >= acceleration * acceleration / jerk ? speed / acceleration + acceleration / jerk
                                                     : 2.0 * std::sqrt(speed / jerk);
}

double s_curve_time(double ramp, double distance, double speed) { return ramp + std::abs(distance) / speed; }

double s_curve_acceleration(double speed, double before, double share, double time, double rounding) {
  return (speed - before) / (share * time * (1.0 - 0.5 * rounding));
}

double s_curve_jerk(double acceleration, double rounding, double share, double time) {
  return 2.0 * std::abs(acceleration) / (rounding * share * time);
}

double s_curve_speed_in_time(double distance, double time, double acceleration, double jerk) {
  const double d = std::abs(distance);
  const double left = time - acceleration / jerk;
  const double under_root = left * left - 4.0 * d / acceleration;
  const double v = 0.5 * acceleration * (left - std::sqrt(std::max(under_root, 0.0)));
  const double full = acceleration * acceleration / jerk; // below it the acceleration is never reached
  if (left > 0.0 && under_root > -1e-9 * left * left && v >= full * (1.0 - 1e-9)) return v;
  // 2√(v/j) + D/v = t, in the root of v; the cruise ends where D/v = 2√(v/j)
  const auto miss = [&](double root) {
    return 2.0 * root * root * root / std::sqrt(jerk) - time * root * root + d;
  };
  const double most = std::sqrt(std::cbrt(0.25 * d * d * jerk));
  if (miss(most) >= 0.0) return miss(most) <= 1e-9 * d ? most * most : std::nan("");
  std::uintmax_t tries = 100;
  const auto root = boost::math::tools::toms748_solve(miss, 0.0, most, d, miss(most),
                                                      boost::math::tools::eps_tolerance<double>(50), tries);
  const double found = 0.5 * (root.first + root.second);
  return found * found;
}

double s_curve_acceleration_in_time(double distance, double time, double speed, double jerk) {
  const double ramp = time - std::abs(distance) / speed;
  double under_root = ramp * ramp - 4.0 * speed / jerk;
  if (under_root < 0.0 && under_root > -1e-9 * ramp * ramp) under_root = 0.0;
  return 0.5 * jerk * (ramp - std::sqrt(under_root));
}

double s_curve_jerk_in_time(double distance, double time, double speed, double acceleration) {
  return acceleration / (time - std::abs(distance) / speed - speed / acceleration);
}

double mean_ramp_acceleration(double acceleration, double rounding) {
  return acceleration * (1.0 - 0.5 * rounding);
}

namespace book {
namespace {
const Parameter distance{"D", "D", Kind::length, "distance of the move"};
const Parameter time{"t", "t", Kind::time, "time of the move", range::positive};
const Parameter accel{"alpha", "α", Kind::share, "share of the time spent accelerating", {0.0, 1.0, true}};
const Parameter speed{"v", "v", Kind::speed, "peak speed"};
const Parameter positive_speed{"v", "v", Kind::speed, "peak speed", range::positive};
const Parameter acceleration{"a", "a", Kind::acceleration, "acceleration", range::positive};
const Parameter before{"v_0", "v_0", Kind::speed, "speed before"};
const Parameter any_acceleration{"a", "a", Kind::acceleration, "acceleration"};
const Parameter jerk{"j", "j", Kind::jerk, "jerk", range::positive};
const Parameter ramp_time{"t_r", "t_r", Kind::time, "time of one ramp", range::not_negative};
const Parameter rounding{"rho", "ρ", Kind::share, "share of the ramp that is rounded", range::share};
const Parameter some_rounding{"rho", "ρ", Kind::share, "share of the ramp that is rounded", {0.0, 1.0, true}};
constexpr std::string_view constant_jerk = "kinematics of constant jerk";
} // namespace

const MotionFormula s_curve_peak_speed{
    {"motion.s_curve_peak_speed",
     "Peak speed of the S-curve",
     "v",
     "min({v}, √({a}⁴/{j}² + 4·{a}·|{D}|)/2 − {a}²/(2·{j})); for short moves min({v}, (|{D}|²·{j}/4)^⅓)",
     Kind::speed,
     {distance, speed, acceleration, jerk},
     constant_jerk,
     calling<&fulmox::s_curve_peak_speed>}};
const MotionFormula s_curve_ramp{{"motion.s_curve_ramp",
                                  "Time of one ramp",
                                  "t_r",
                                  "{v}/{a} + {a}/{j}; 2·√({v}/{j}) when {v} < {a}²/{j}",
                                  Kind::time,
                                  {speed, acceleration, jerk},
                                  constant_jerk,
                                  calling<&fulmox::s_curve_ramp>}};
const MotionFormula s_curve_time{{"motion.s_curve_time",
                                  "Time of the move",
                                  "t",
                                  "{t_r} + |{D}|/{v}",
                                  Kind::time,
                                  {ramp_time, distance, speed},
                                  constant_jerk,
                                  calling<&fulmox::s_curve_time>}};
const MotionFormula s_curve_acceleration{{"motion.s_curve_acceleration",
                                          "Peak acceleration of a rounded ramp",
                                          "a",
                                          "({v} − {v_0})/({alpha}·{t}·(1 − {rho}/2))",
                                          Kind::acceleration,
                                          {speed, before, accel, time, rounding},
                                          constant_jerk,
                                          calling<&fulmox::s_curve_acceleration>}};
const MotionFormula s_curve_jerk{{"motion.s_curve_jerk",
                                  "Jerk of a rounded ramp",
                                  "j",
                                  "2·|{a}|/({rho}·{alpha}·{t})",
                                  Kind::jerk,
                                  {any_acceleration, some_rounding, accel, time},
                                  constant_jerk,
                                  calling<&fulmox::s_curve_jerk>}};
const MotionFormula s_curve_speed_in_time{
    {"motion.s_curve_speed_in_time",
     "Peak speed of the S-curve",
     "v",
     "{a}/2·({t} − {a}/{j} − √(({t} − {a}/{j})² − 4·|{D}|/{a})); when that is below {a}²/{j}, the root of "
     "2·√(v/{j}) + |{D}|/v = {t}",
     Kind::speed,
     {distance, time, acceleration, jerk},
     constant_jerk,
     calling<&fulmox::s_curve_speed_in_time>}};
const MotionFormula s_curve_acceleration_in_time{
    {"motion.s_curve_acceleration_in_time",
     "Peak acceleration of the S-curve",
     "a",
     "{j}/2·({t} − |{D}|/{v} − √(({t} − |{D}|/{v})² − 4·{v}/{j}))",
     Kind::acceleration,
     {distance, time, positive_speed, jerk},
     constant_jerk,
     calling<&fulmox::s_curve_acceleration_in_time>}};
const MotionFormula s_curve_jerk_in_time{{"motion.s_curve_jerk_in_time",
                                          "Jerk of the S-curve",
                                          "j",
                                          "{a}/({t} − |{D}|/{v} − {v}/{a})",
                                          Kind::jerk,
                                          {distance, time, positive_speed, acceleration},
                                          constant_jerk,
                                          calling<&fulmox::s_curve_jerk_in_time>}};
const MotionFormula mean_ramp_acceleration{{"motion.mean_ramp_acceleration",
                                            "Mean acceleration of a rounded ramp",
                                            "a_m",
                                            "{a}·(1 − {rho}/2)",
                                            Kind::acceleration,
                                            {acceleration, rounding},
                                            constant_jerk,
                                            calling<&fulmox::mean_ramp_acceleration>}};
} // namespace book

} // namespace fulmox
