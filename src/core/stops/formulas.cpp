#include "core/stops/formulas.hpp"

#include "core/quantity/constants.hpp"

#include <boost/math/tools/toms748_solve.hpp>

#include <algorithm>
#include <array>
#include <cmath>
#include <limits>

namespace fulmox {

double speed_at_brake(double inertia, double speed, double pull, double friction, double delay) {
  return std::max(0.0, speed + (pull - friction) / inertia * delay);
}

double angle_to_brake(double inertia, double speed, double pull, double friction, double delay) {
  const double acceleration = (pull - friction) / inertia;
  if (speed + acceleration * delay < 0.0) return speed * speed / (-2.0 * acceleration); // rests before
  return speed * delay + 0.5 * acceleration * delay * delay;
}

double angle_under_brake(double inertia, double speed, double pull, double friction, double brake) {
  if (speed == 0.0 && brake + friction >= pull) return 0.0;
  const double left = brake + friction - pull;
  return left > 0.0 ? 0.5 * inertia * speed * speed / left : std::numeric_limits<double>::infinity();
}

double brake_energy(double brake, double angle) { return brake * angle; }

double jam_torque(double motor, double stiffness, double inertia, double speed) {
  return motor + std::sqrt(motor * motor + stiffness * inertia * speed * speed);
}

double short_torque(double c, double resistance, double along, double across, double speed) {
  const double r = resistance * resistance, s = speed * speed, both = r + along * across * s;
  return c * speed * (r + across * across * s) / (both * both);
}

namespace {
/// The speed at which a shorted motor brakes most; ∞ where it has no inductance. From dT/dω = 0:
/// R⁴ + 3·R²·(b − a)·s − a·b·s² = 0 with a = x_d·x_q, b = x_q², s = ω².
double best_short_speed(double resistance, double along, double across) {
  const double a = along * across, b = across * across, r = resistance * resistance;
  if (!(a > 0.0)) return std::numeric_limits<double>::infinity();
  const double lean = 3.0 * (b - a);
  return std::sqrt(r * (lean + std::sqrt(lean * lean + 4.0 * a * b)) / (2.0 * a * b));
}
} // namespace

double short_peak(double c, double resistance, double along, double across, double speed) {
  return short_torque(c, resistance, along, across,
                      std::min(best_short_speed(resistance, along, across), speed));
}

double short_angle(double inertia, double speed, double c, double resistance, double along, double across) {
  const double r = resistance * resistance, a = along * across, b = across * across;
  if (!(b > 0.0)) return inertia * speed * r / c;
  // (R² + a·ω²)²/(R² + b·ω²) divided out: A + B·ω² + C/(R² + b·ω²)
  const double share = a / b, rest = r * (1.0 - share) * r * (1.0 - share);
  const double constant = r * share * (2.0 - share), square = a * share;
  const double arc = rest > 0.0 ? rest / (resistance * across) * std::atan(across * speed / resistance) : 0.0;
  return inertia * (constant * speed + square * speed * speed * speed / 3.0 + arc) / c;
}

double short_creep(double pull, double c, double resistance, double along, double across) {
  if (pull == 0.0) return 0.0;
  const double best = best_short_speed(resistance, along, across);
  const auto left = [&](double speed) { return short_torque(c, resistance, along, across, speed) - pull; };
  if (std::isinf(best)) return pull * resistance * resistance / c;
  if (left(best) < 0.0) return std::numeric_limits<double>::infinity();
  if (left(best) == 0.0) return best;
  std::uintmax_t steps = 100;
  const auto [low, high] = boost::math::tools::toms748_solve(
      left, 0.0, best, -pull, left(best), boost::math::tools::eps_tolerance<double>(50), steps);
  return 0.5 * (low + high);
}

double stop_return(double inertia, double speed, double torque, double pull) {
  if (pull == 0.0) return 0.5 * inertia * speed * speed;
  return torque > pull ? 0.5 * inertia * speed * speed * torque / (torque - pull)
                       : std::numeric_limits<double>::infinity();
}

double settling_time(double bandwidth) { return 4.0 / (constants::tau * bandwidth); }

namespace {
double driven_torque(double torque, double ratio) { return torque * ratio; }
double brake_in_motion(double torque, double share) { return torque * share; }
double load_travel(double before, double under, double per_radian) { return (before + under) * per_radian; }

const Parameter inertia{"J", "J", Kind::inertia, "all that moves, at the motor shaft", range::positive};
const Parameter speed{"omega", "ω", Kind::angular_speed, "of the motor when power goes", range::not_negative};
const Parameter pull{"T_L", "T_L", Kind::torque, "what the load drives it on with", range::not_negative};
const Parameter friction{"T_f", "T_f", Kind::torque, "friction that may be trusted", range::not_negative};
const Parameter delay{"t_d", "t_d", Kind::time, "until the brake bites", range::not_negative};
const Parameter brake{"T_b", "T_b", Kind::torque, "brake in motion", range::not_negative};
constexpr std::string_view newton = "Newton's second law, constant torques";
// of a shorted motor
const Parameter c{
    "c", "c", Kind::number,
    "in V²·s²·Ω/rad²: 1.5·K²·R for three phases (K peak of a phase), K²·R for two and for brushes",
    range::positive};
const Parameter resistance{"R", "R", Kind::resistance, "of a phase", range::positive};
const Parameter along{"x_d", "p·L_d", Kind::inductance,
                      "pole pairs times a phase's inductance along the magnets", range::not_negative};
const Parameter across{"x_q", "p·L_q", Kind::inductance, "the same across them; a round rotor has one",
                       range::not_negative};
constexpr std::string_view shorted =
    "steady currents of the shorted machine: T = c·ω·(R² + (x_q·ω)²)/(R² + x_d·x_q·ω²)²";
} // namespace

namespace book {
const Formula brake_in_motion{"stop.brake_in_motion",
                              "Brake torque in motion",
                              "T_b",
                              "{T}·{s}",
                              Kind::torque,
                              {{"T", "T_b", Kind::torque, "holding torque", range::not_negative},
                               {"s", "s", Kind::share, "in motion over at rest", {0.0, 1.0, true}}},
                              "0.5 to 0.9, from memory",
                              calling<&fulmox::brake_in_motion>};
const Formula speed_at_brake{"stop.speed_at_brake",
                             "Speed at which the brake bites",
                             "ω_1",
                             "max(0, {omega} + ({T_L} − {T_f})/{J}·{t_d})",
                             Kind::angular_speed,
                             {inertia, speed, pull, friction, delay},
                             newton,
                             calling<&fulmox::speed_at_brake>};
const Formula angle_to_brake{"stop.angle_to_brake",
                             "Angle until the brake bites",
                             "φ_1",
                             "{omega}·{t_d} + ½·({T_L} − {T_f})/{J}·{t_d}²",
                             Kind::angle,
                             {inertia, speed, pull, friction, delay},
                             newton,
                             calling<&fulmox::angle_to_brake>};
const Formula angle_under_brake{
    "stop.angle_under_brake",
    "Angle under the brake",
    "φ_2",
    "{J}·{omega}²/(2·({T_b} + {T_f} − {T_L})), without end where the brake gives less than the load",
    Kind::angle,
    {inertia,
     {"omega", "ω_1", Kind::angular_speed, "when the brake bites", range::not_negative},
     pull,
     friction,
     brake},
    newton,
    calling<&fulmox::angle_under_brake>};
const Formula brake_energy{"stop.brake_energy",
                           "Energy that the brake takes",
                           "E_b",
                           "{T_b}·{phi}",
                           Kind::energy,
                           {brake, {"phi", "φ_2", Kind::angle, "angle under the brake", range::not_negative}},
                           "what moves and what falls meanwhile",
                           calling<&fulmox::brake_energy>};
const Formula load_travel{
    "stop.travel",
    "Travel of the load after power is lost",
    "x",
    "({phi_1} + {phi_2})·{r}",
    Kind::length,
    {{"phi_1", "φ_1", Kind::angle, "until the brake bites", range::not_negative},
     {"phi_2", "φ_2", Kind::angle, "under the brake", range::not_negative},
     {"r", "r", Kind::length, "travel per radian of the motor, greatest", range::positive}},
    "kinematics",
    calling<&fulmox::load_travel>};
const Formula load_turn{"stop.turn",
                        "Turn of the load after power is lost",
                        "φ",
                        "({phi_1} + {phi_2})·{r}",
                        Kind::angle,
                        {{"phi_1", "φ_1", Kind::angle, "until the brake bites", range::not_negative},
                         {"phi_2", "φ_2", Kind::angle, "under the brake", range::not_negative},
                         {"r", "r", Kind::number, "turn per radian of the motor, greatest", range::positive}},
                        "kinematics",
                        calling<&fulmox::load_travel>};
const Formula jam_torque{
    "stop.jam",
    "Torque when it runs against its end",
    "T_j",
    "{T_m} + √({T_m}² + {k}·{J}·{omega}²)",
    Kind::torque,
    {{"T_m", "T_m", Kind::torque, "of the motor, which goes on", range::not_negative},
     {"k", "k", Kind::torsional_stiffness, "between motor and end, at the motor shaft", range::positive},
     {"J", "J_m", Kind::inertia, "rotor, brake and head", range::positive},
     {"omega", "ω", Kind::angular_speed, "of the motor", range::not_negative}},
    "energy of the rotor and of its torque into the spring",
    calling<&fulmox::jam_torque>};
const Formula driven_torque{"stop.output",
                            "That torque behind the head",
                            "T_2",
                            "{T}·{i}",
                            Kind::torque,
                            {{"T", "T_j", Kind::torque, "at the motor shaft"},
                             {"i", "i", Kind::number, "ratio of the head", range::positive}},
                            "no losses counted",
                            calling<&fulmox::driven_torque>};
const Formula stop_return{"stop.return",
                          "Energy that comes back in an emergency stop",
                          "E_s",
                          "½·{J}·{omega}²·{T}/({T} − {T_L}), where nothing pulls ½·{J}·{omega}²",
                          Kind::energy,
                          {inertia,
                           {"omega", "ω", Kind::angular_speed, "top speed of the motor", range::not_negative},
                           {"T", "T_m", Kind::torque, "greatest of the motor", range::not_negative},
                           pull},
                          "kinetic energy and what falls meanwhile; friction and copper loss no help: a "
                          "gentle stop has little of either",
                          calling<&fulmox::stop_return>};
const Formula settling_time{"stop.settling",
                            "Time to settle",
                            "t_s",
                            "4/(2π·{f_v})",
                            Kind::time,
                            {{"f_v", "f_v", Kind::frequency, "bandwidth of the loop", range::positive}},
                            "a lag of that bandwidth to within 2 %: ln 50 = 3.9",
                            calling<&fulmox::settling_time>};
const Formula short_peak{"stop.short_peak",
                         "Greatest braking torque of the shorted motor",
                         "T_k",
                         "max of {c}·ω·({R}² + ({x_q}·ω)²)/({R}² + {x_d}·{x_q}·ω²)² up to {omega}",
                         Kind::torque,
                         {c, resistance, along, across, speed},
                         shorted,
                         calling<&fulmox::short_peak>};
const Formula short_angle{"stop.short_angle",
                          "Angle to rest, leads shorted",
                          "φ_k",
                          "{J}/{c}·∫({R}² + {x_d}·{x_q}·ω²)²/({R}² + ({x_q}·ω)²)dω from 0 to {omega}",
                          Kind::angle,
                          {inertia, speed, c, resistance, along, across},
                          "work of the shorted machine's torque; friction not counted",
                          calling<&fulmox::short_angle>};
const Formula short_creep{"stop.short_creep",
                          "Speed at which it sinks, leads shorted",
                          "ω_k",
                          "the least ω with {c}·ω·({R}² + ({x_q}·ω)²)/({R}² + {x_d}·{x_q}·ω²)² = {T_L}",
                          Kind::angular_speed,
                          {pull, c, resistance, along, across},
                          shorted,
                          calling<&fulmox::short_creep>};
} // namespace book

std::span<const Formula* const> stop_formulas() {
  static const std::array list{&book::brake_in_motion,   &book::speed_at_brake, &book::angle_to_brake,
                               &book::angle_under_brake, &book::brake_energy,   &book::load_travel,
                               &book::load_turn,         &book::jam_torque,     &book::driven_torque,
                               &book::short_peak,        &book::short_angle,    &book::short_creep,
                               &book::stop_return,       &book::settling_time};
  return list;
}

} // namespace fulmox
