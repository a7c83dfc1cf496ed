#include "core/rotation/rotation.hpp"

#include <array>
#include <numeric>

namespace fulmox {

double inertia_torque(double inertia, double acceleration) { return inertia * acceleration; }
double opposing_torque(double direction, double drag) { return direction * drag; }
double rising_drag(double drag, double rise, double speed) { return drag + rise * speed; }
double stage_driving(double torque, double ratio, double efficiency) { return torque / (ratio * efficiency); }
double stage_backdriven(double torque, double ratio, double back_efficiency) {
  return torque * back_efficiency / ratio;
}
double stage_rest(double torque, double ratio) { return torque / ratio; }
double stage_speed(double speed, double ratio) { return speed * ratio; }
double reflected_inertia(double inertia, double ratio) { return inertia / (ratio * ratio); }

namespace {
double sum(std::span<const double> terms) { return std::accumulate(terms.begin(), terms.end(), 0.0); }
} // namespace

namespace book {
namespace {
const Parameter torque{"T", "T_out", Kind::torque, "torque at the output"};
const Parameter ratio{"i", "i", Kind::number, "reduction, turns in per turn out", range::positive};
constexpr std::string_view power = "power balance of the stage, efficiency with the direction of power";
} // namespace

const Formula inertia_torque{"torque.inertia",
                             "Torque that accelerates an inertia",
                             "T",
                             "{J}·{alpha}",
                             Kind::torque,
                             {{"J", "J", Kind::inertia, "inertia", range::not_negative},
                              {"alpha", "α", Kind::angular_acceleration, "angular acceleration"}},
                             "Newton's second law for rotation",
                             calling<&fulmox::inertia_torque>};
const Formula opposing_torque{"torque.drag",
                              "Drag torque",
                              "T",
                              "{s}·{T_d}",
                              Kind::torque,
                              {{"s", "s", Kind::number, "direction of rotation", {-1.0, 1.0}},
                               {"T_d", "T_d", Kind::torque, "drag", range::not_negative}},
                              "dry drag, outside the efficiency",
                              calling<&fulmox::opposing_torque>};
const Formula rising_drag{"torque.rising_drag",
                          "Drag torque at speed",
                          "T",
                          "{T} + {b}·{omega}",
                          Kind::torque,
                          {{"T", "T_0", Kind::torque, "near standstill, the way it turns"},
                           {"b", "b_0", Kind::iron_viscous, "growth with speed", range::not_negative},
                           {"omega", "ω", Kind::angular_speed, "at the input"}},
                          "dry and viscous drag, outside the efficiency",
                          calling<&fulmox::rising_drag>};
const Formula stage_driving{
    "stage.driving", "Torque through the stage, driving",
    "T_in",          "{T}/({i}·{eta})",
    Kind::torque,    {torque, ratio, {"eta", "η", Kind::share, "efficiency when driving", range::efficiency}},
    power,           calling<&fulmox::stage_driving>};
const Formula stage_backdriven{
    "stage.backdriven",
    "Torque through the stage, back-driven",
    "T_in",
    "{T}·{eta_b}/{i}",
    Kind::torque,
    {torque, ratio, {"eta_b", "η_b", Kind::share, "efficiency when back-driven", {-range::infinity, 1.0}}},
    power,
    calling<&fulmox::stage_backdriven>};
const Formula stage_rest{"stage.rest",
                         "Torque through the stage at rest",
                         "T_in",
                         "{T}/{i}",
                         Kind::torque,
                         {torque, ratio},
                         "lever arm, friction not counted as help",
                         calling<&fulmox::stage_rest>};
const Formula stage_speed{"stage.speed",
                          "Speed through the stage",
                          "ω_in",
                          "{i}·{omega}",
                          Kind::angular_speed,
                          {{"omega", "ω_out", Kind::angular_speed, "speed at the output"}, ratio},
                          "gear kinematics",
                          calling<&fulmox::stage_speed>};
const Formula stage_acceleration{
    "stage.acceleration",
    "Acceleration through the stage",
    "α_in",
    "{i}·{alpha}",
    Kind::angular_acceleration,
    {{"alpha", "α_out", Kind::angular_acceleration, "acceleration at the output"}, ratio},
    "gear kinematics",
    calling<&fulmox::stage_speed>};
const Formula output_speed{"stage.output_speed",
                           "Speed behind the stage",
                           "ω_out",
                           "{omega}/{i}",
                           Kind::angular_speed,
                           {{"omega", "ω_in", Kind::angular_speed, "speed at the input"}, ratio},
                           "gear kinematics",
                           calling<+[](double speed, double i) { return speed / i; }>};
const Formula reflected_inertia{
    "inertia.reflected",
    "Inertia seen through the stage",
    "J_in",
    "{J}/{i}²",
    Kind::inertia,
    {{"J", "J_out", Kind::inertia, "inertia at the output", range::not_negative}, ratio},
    "equal kinetic energy",
    calling<&fulmox::reflected_inertia>};
const Formula ratio_product{"stage.product",
                            "Ratio of stages in a row",
                            "i",
                            "{i_1}·{i_2}",
                            Kind::number,
                            {{"i_1", "i_1", Kind::number, "ratio so far", range::positive},
                             {"i_2", "i_2", Kind::number, "ratio of the next stage", range::positive}},
                            "gear kinematics",
                            calling<+[](double a, double b) { return a * b; }>};
const Formula torque_sum{"torque.sum",  "Sum of torques",
                         "T",           "{T}",
                         Kind::torque,  {{"T", "ΣT", Kind::torque, "torques at this shaft"}},
                         "equilibrium", &sum,
                         true};
const Formula inertia_sum{"inertia.sum",
                          "Sum of inertias",
                          "J",
                          "{J}",
                          Kind::inertia,
                          {{"J", "ΣJ", Kind::inertia, "inertias at this shaft", range::not_negative}},
                          "additive about one axis",
                          &sum,
                          true};
const Formula mass_sum{
    "mass.sum", "Sum of masses",
    "m",        "{m}",
    Kind::mass, {{"m", "Σm", Kind::mass, "masses that move together", range::not_negative}},
    "additive", &sum,
    true};
} // namespace book

std::span<const Formula* const> rotation_formulas() {
  static const std::array list{
      &book::inertia_torque,   &book::opposing_torque,   &book::rising_drag,   &book::stage_driving,
      &book::stage_backdriven, &book::stage_rest,        &book::stage_speed,   &book::stage_acceleration,
      &book::output_speed,     &book::reflected_inertia, &book::ratio_product, &book::torque_sum,
      &book::inertia_sum,      &book::mass_sum};
  return list;
}

} // namespace fulmox
