#include "core/mechanism/linear_drive.hpp"
#include "core/quantity/constants.hpp"

#include <array>
#include <cmath>

namespace fulmox {
namespace {
double speed(double v, double r) { return v / r; }
double driving(double force, double r, double efficiency) { return force * r / efficiency; }
double backdriven(double force, double r, double back) { return force * r * back; }
double rest(double force, double r) { return force * r; }
double load_inertia(double mass, double r) { return mass * r * r; }
double from_module(double module, double teeth, double helix) {
  return module * teeth / (2.0 * std::cos(helix));
}
double from_pitch(double teeth, double pitch) { return teeth * pitch / (2.0 * constants::pi); }
double as_mass(double count, double inertia, double radius) { return count * inertia / (radius * radius); }
double shared(double radius, double falls) { return radius / falls; }
} // namespace

namespace book {
namespace {
const Parameter r{"r", "r", Kind::length, "pitch radius", range::positive};
const Parameter force{"F", "F", Kind::force, "force on the load"};
constexpr std::string_view rolling = "rolling without slip";
constexpr std::string_view work = "virtual work, efficiency with the direction of power";
} // namespace

const Formula wheel_speed{
    "wheel.speed", "Speed of the wheel",   "ω",
    "{v}/{r}",     Kind::angular_speed,    {{"v", "v", Kind::speed, "speed of the load"}, r},
    rolling,       calling<&fulmox::speed>};
const Formula wheel_acceleration{"wheel.acceleration",
                                 "Acceleration of the wheel",
                                 "α",
                                 "{a}/{r}",
                                 Kind::angular_acceleration,
                                 {{"a", "a", Kind::acceleration, "acceleration of the load"}, r},
                                 rolling,
                                 calling<&fulmox::speed>};
const Formula wheel_driving{
    "wheel.torque_driving",
    "Torque, wheel drives load",
    "T",
    "{F}·{r}/{eta}",
    Kind::torque,
    {force, r, {"eta", "η", Kind::share, "efficiency when driving", range::efficiency}},
    work,
    calling<&fulmox::driving>};
const Formula wheel_backdriven{
    "wheel.torque_backdriven",
    "Torque, load drives wheel",
    "T",
    "{F}·{r}·{eta_b}",
    Kind::torque,
    {force, r, {"eta_b", "η_b", Kind::share, "efficiency when back-driven", {-range::infinity, 1.0}}},
    work,
    calling<&fulmox::backdriven>};
const Formula wheel_rest{"wheel.torque_rest",
                         "Torque at rest",
                         "T",
                         "{F}·{r}",
                         Kind::torque,
                         {force, r},
                         "lever arm, friction not counted as help",
                         calling<&fulmox::rest>};
const Formula wheel_load_inertia{"inertia.wheel_load",
                                 "Travelling mass at the wheel",
                                 "J_m",
                                 "{m}·{r}²",
                                 Kind::inertia,
                                 {{"m", "m", Kind::mass, "travelling mass", range::not_negative}, r},
                                 "equal kinetic energy",
                                 calling<&fulmox::load_inertia>};
const Formula pinion_radius{"wheel.pinion_radius",
                            "Pitch radius of the pinion",
                            "r",
                            "{m_n}·{z}/(2·cos {beta})",
                            Kind::length,
                            {{"m_n", "m_n", Kind::length, "normal module", range::positive},
                             {"z", "z", Kind::number, "teeth", range::positive},
                             {"beta", "β", Kind::angle, "helix angle", {0.0, 1.0}}},
                            "gear geometry",
                            calling<&fulmox::from_module>};
const Formula pitch_radius{"wheel.pitch_radius",
                           "Pitch radius of the pulley",
                           "r",
                           "{z}·{p}/2π",
                           Kind::length,
                           {{"z", "z", Kind::number, "teeth", range::positive},
                            {"p", "p", Kind::length, "pitch of the belt", range::positive}},
                           "pulley geometry",
                           calling<&fulmox::from_pitch>};
const Formula equal_mass{"wheel.equal_mass",
                         "Turning parts as a travelling mass",
                         "m_J",
                         "{n}·{J}/{r_k}²",
                         Kind::mass,
                         {{"n", "n", Kind::number, "how many", range::not_negative},
                          {"J", "J", Kind::inertia, "inertia of one", range::not_negative},
                          {"r_k", "r_k", Kind::length, "its radius", range::positive}},
                         "equal kinetic energy",
                         calling<&fulmox::as_mass>};
const Formula sheave_radius{"wheel.falls",
                            "Travel per rad of the drum",
                            "r_n",
                            "{r}/{n}",
                            Kind::length,
                            {{"r", "r", Kind::length, "drum axis to rope centre", range::positive},
                             {"n", "n", Kind::number, "falls of rope", range::positive}},
                            "rope shared between its falls",
                            calling<&fulmox::shared>};
} // namespace book

std::span<const Formula* const> wheel_formulas() {
  static const std::array list{&book::wheel_speed,      &book::wheel_acceleration, &book::wheel_driving,
                               &book::wheel_backdriven, &book::wheel_rest,         &book::wheel_load_inertia,
                               &book::pinion_radius,    &book::pitch_radius,       &book::equal_mass,
                               &book::sheave_radius};
  return list;
}

} // namespace fulmox
