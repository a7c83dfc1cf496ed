#include "core/mechanism/screw_formulas.hpp"

#include "core/quantity/constants.hpp"

#include <array>
#include <cmath>

namespace fulmox {

using constants::pi;
using constants::tau;

double screw_speed(double speed, double lead) { return tau * speed / lead; }
double screw_acceleration(double acceleration, double lead) { return tau * acceleration / lead; }
double screw_torque_driving(double force, double lead, double efficiency) {
  return force * lead / (tau * efficiency);
}
double screw_torque_backdriven(double force, double lead, double back_efficiency) {
  return force * lead * back_efficiency / tau;
}
double screw_torque_rest(double force, double lead) { return force * lead / tau; }
double screw_back_efficiency(double efficiency) { return 2.0 - 1.0 / efficiency; }
double screw_inertia(double density, double length, double diameter) {
  return pi / 32.0 * density * length * std::pow(diameter, 4);
}
double screw_load_inertia(double mass, double lead) { return mass * std::pow(lead / tau, 2); }
double screw_preload_drag(double preload, double lead, double diameter) {
  return 0.05 / std::sqrt(lead / (pi * diameter)) * preload * lead / tau;
}
double thread_angle(double flank, double lead, double diameter) {
  const double lambda = std::atan(lead / (pi * diameter));
  return std::atan(std::tan(flank) * std::cos(lambda));
}
double power_screw_efficiency(double friction, double lead, double diameter, double flank) {
  const double slope = lead / (pi * diameter);
  const double c = std::cos(thread_angle(flank, lead, diameter));
  return (c - friction * slope) / (c + friction / slope);
}
double power_screw_back_efficiency(double friction, double lead, double diameter, double flank) {
  const double slope = lead / (pi * diameter);
  const double c = std::cos(thread_angle(flank, lead, diameter));
  return (c - friction / slope) / (c + friction * slope);
}
double collar_torque(double direction, double force, double friction, double diameter) {
  return direction * std::abs(force) * friction * diameter / 2.0;
}

namespace book {
namespace {
const Parameter lead{"p", "p", Kind::lead, "lead, travel per turn", range::positive};
const Parameter force{"F", "F", Kind::force, "force along the screw"};
const Parameter efficiency{"eta", "η", Kind::share, "efficiency when driving", range::efficiency};
const std::vector<Parameter> thread_parameters{
    {"mu", "μ", Kind::number, "friction in the thread", range::not_negative},
    lead,
    {"d_m", "d_m", Kind::length, "mean diameter of the thread", range::positive},
    {"alpha", "α", Kind::angle, "flank half-angle", {0.0, 1.0}}};
constexpr std::string_view wedge = "inclined plane wound round a cylinder: machine-design textbooks";
constexpr std::string_view kinematics = "screw kinematics";
constexpr std::string_view virtual_work = "virtual work on the screw, efficiency with the direction of power";
} // namespace

const Formula screw_speed{"screw.speed",
                          "Screw speed",
                          "ω",
                          "2π·{v}/{p}",
                          Kind::angular_speed,
                          {{"v", "v", Kind::speed, "speed of the load"}, lead},
                          kinematics,
                          calling<&fulmox::screw_speed>};
const Formula screw_acceleration{"screw.acceleration",
                                 "Screw acceleration",
                                 "α",
                                 "2π·{a}/{p}",
                                 Kind::angular_acceleration,
                                 {{"a", "a", Kind::acceleration, "acceleration of the load"}, lead},
                                 kinematics,
                                 calling<&fulmox::screw_acceleration>};
const Formula screw_torque_driving{"screw.torque_driving",
                                   "Screw torque, screw drives load",
                                   "T",
                                   "{F}·{p}/(2π·{eta})",
                                   Kind::torque,
                                   {force, lead, efficiency},
                                   virtual_work,
                                   calling<&fulmox::screw_torque_driving>};
const Formula screw_torque_backdriven{
    "screw.torque_backdriven",
    "Screw torque, load drives screw",
    "T",
    "{F}·{p}·{eta_b}/2π",
    Kind::torque,
    {force, lead, {"eta_b", "η_b", Kind::share, "efficiency when back-driven", {-range::infinity, 1.0}}},
    virtual_work,
    calling<&fulmox::screw_torque_backdriven>};
const Formula screw_torque_rest{"screw.torque_rest",
                                "Screw torque at rest",
                                "T",
                                "{F}·{p}/2π",
                                Kind::torque,
                                {force, lead},
                                "virtual work, friction not counted as help",
                                calling<&fulmox::screw_torque_rest>};
const Formula screw_back_efficiency{"screw.back_efficiency",
                                    "Efficiency when the load drives the screw",
                                    "η_b",
                                    "2 − 1/{eta}",
                                    Kind::share,
                                    {efficiency},
                                    "power-screw approximation, up to 7 % low",
                                    calling<&fulmox::screw_back_efficiency>};
const Formula screw_inertia{"inertia.screw",
                            "Inertia of the screw",
                            "J_s",
                            "(π/32)·{rho}·{L}·{d}⁴",
                            Kind::inertia,
                            {{"rho", "ρ", Kind::density, "density", range::positive},
                             {"L", "L", Kind::length, "length of the screw", range::positive},
                             {"d", "d", Kind::length, "nominal diameter", range::positive}},
                            "solid cylinder of the nominal diameter, a little high",
                            calling<&fulmox::screw_inertia>};
const Formula screw_load_inertia{
    "inertia.screw_load",
    "Moved mass at the screw",
    "J_m",
    "{m}·({p}/2π)²",
    Kind::inertia,
    {{"m", "m", Kind::mass, "moved mass with counterweight", range::not_negative}, lead},
    "equal kinetic energy",
    calling<&fulmox::screw_load_inertia>};
const Formula screw_preload_drag{"screw.preload_drag",
                                 "Drag of a preloaded nut",
                                 "T_pl",
                                 "0.05/√({p}/(π·{d}))·{F}·{p}/2π",
                                 Kind::torque,
                                 {{"F", "F_pl", Kind::force, "preload between the nuts", range::not_negative},
                                  lead,
                                  {"d", "d", Kind::length, "nominal diameter", range::positive}},
                                 "empirical, from memory; opposes rotation, outside the efficiency",
                                 calling<&fulmox::screw_preload_drag>};
const Formula power_screw_efficiency{
    "screw.efficiency",
    "Efficiency of the thread, driving",
    "η",
    "(cos φ_n − {mu}·tan λ)/(cos φ_n + {mu}/tan λ); tan λ = {p}/(π·{d_m}), tan φ_n "
    "= tan {alpha}·cos λ",
    Kind::share,
    thread_parameters,
    wedge,
    calling<&fulmox::power_screw_efficiency>};
const Formula power_screw_back_efficiency{
    "screw.thread_back_efficiency",
    "Efficiency of the thread, load drives it",
    "η_b",
    "(cos φ_n − {mu}/tan λ)/(cos φ_n + {mu}·tan λ); tan λ = {p}/(π·{d_m}), "
    "tan φ_n = tan {alpha}·cos λ",
    Kind::share,
    thread_parameters,
    wedge,
    calling<&fulmox::power_screw_back_efficiency>};
const Formula collar_torque{
    "screw.collar",
    "Friction of the thrust collar",
    "T_c",
    "{s}·|{F}|·{mu_c}·{d_c}/2",
    Kind::torque,
    {{"s", "s", Kind::number, "direction of motion", {-1.0, 1.0}},
     force,
     {"mu_c", "μ_c", Kind::number, "friction of the collar", range::not_negative},
     {"d_c", "d_c", Kind::length, "mean diameter of the collar", range::not_negative}},
    "Coulomb friction at the mean diameter",
    calling<&fulmox::collar_torque>};
} // namespace book

std::span<const Formula* const> screw_formulas() {
  static const std::array list{&book::screw_speed,
                               &book::screw_acceleration,
                               &book::screw_torque_driving,
                               &book::screw_torque_backdriven,
                               &book::screw_torque_rest,
                               &book::screw_back_efficiency,
                               &book::screw_inertia,
                               &book::screw_load_inertia,
                               &book::screw_preload_drag,
                               &book::power_screw_efficiency,
                               &book::power_screw_back_efficiency,
                               &book::collar_torque};
  return list;
}

} // namespace fulmox
