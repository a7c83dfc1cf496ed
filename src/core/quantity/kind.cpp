#include "core/quantity/kind.hpp"

#include "core/quantity/constants.hpp"

namespace fulmox {
namespace {

using namespace constants;
using D = DisplayUnit;

constexpr D plain_numbers[] = {{"", 1.0}};
constexpr D share_units[] = {{"%", 0.01}};
constexpr D length_si[] = {{"µm", 1e-6}, {"mm", 1e-3}, {"m", 1.0}};
constexpr D length_in[] = {{"in", inch}};
constexpr D area_units[] = {{"mm²", 1e-6}};
constexpr D lead_si[] = {{"mm", 1e-3}};
constexpr D angle_units[] = {{"°", degree}};
constexpr D mass_si[] = {{"g", 1e-3}, {"kg", 1.0}};
constexpr D mass_in[] = {{"lb", pound}};
constexpr D time_units[] = {{"ms", 1e-3}, {"s", 1.0}, {"d", 86400.0}};
constexpr D speed_si[] = {{"mm/s", 1e-3}, {"m/s", 1.0}};
constexpr D speed_in[] = {{"in/s", inch}};
constexpr D acceleration_si[] = {{"m/s²", 1.0}};
constexpr D acceleration_in[] = {{"in/s²", inch}};
constexpr D jerk_si[] = {{"m/s³", 1.0}};
constexpr D jerk_in[] = {{"in/s³", inch}};
constexpr D angular_speed_units[] = {{"rpm", rpm}};
constexpr D angular_acceleration_units[] = {{"rad/s²", 1.0}};
constexpr D angular_jerk_units[] = {{"rad/s³", 1.0}};
constexpr D force_si[] = {{"N", 1.0}, {"kN", 1e3}};
constexpr D force_in[] = {{"lbf", pound_force}};
constexpr D viscous_units[] = {{"N·s/m", 1.0}};
constexpr D torque_si[] = {{"mN·m", 1e-3}, {"N·m", 1.0}};
constexpr D torque_in[] = {{"lbf·in", pound_force* inch}};
constexpr D torque2_units[] = {{"N²·m²·s", 1.0}};
constexpr D inertia_si[] = {{"g·cm²", 1e-7}, {"kg·cm²", 1e-4}, {"kg·m²", 1.0}};
constexpr D inertia_in[] = {{"ozf·in·s²", ounce_force* inch}};
constexpr D density_units[] = {{"kg/m³", 1.0}};
constexpr D energy_units[] = {{"mJ", 1e-3}, {"J", 1.0}, {"kJ", 1e3}};
constexpr D power_units[] = {{"mW", 1e-3}, {"W", 1.0}, {"kW", 1e3}};
constexpr D frequency_units[] = {{"Hz", 1.0}, {"kHz", 1e3}};
constexpr D current_units[] = {{"mA", 1e-3}, {"A", 1.0}};
constexpr D current2_units[] = {{"A²·s", 1.0}};
constexpr D voltage_units[] = {{"mV", 1e-3}, {"V", 1.0}};
constexpr D resistance_units[] = {{"mΩ", 1e-3}, {"Ω", 1.0}};
constexpr D inductance_units[] = {{"µH", 1e-6}, {"mH", 1e-3}, {"H", 1.0}};
constexpr D capacitance_units[] = {{"µF", 1e-6}, {"mF", 1e-3}};
constexpr D torque_constant_si[] = {{"N·m/A", 1.0}};
constexpr D torque_constant_in[] = {{"ozf·in/A", ounce_force* inch}};
constexpr D emf_units[] = {{"V/krpm", 1.0 / (1000.0 * rpm)}};
constexpr D speed_constant_units[] = {{"rpm/V", rpm}};
constexpr D flux_units[] = {{"mWb", 1e-3}, {"Wb", 1.0}};
constexpr D motor_constant_units[] = {{"N·m/√W", 1.0}};
constexpr D temperature_units[] = {{"°C", 1.0, zero_celsius}};
constexpr D rise_units[] = {{"K", 1.0}};
constexpr D thermal_units[] = {{"K/W", 1.0}};
constexpr D capacity_units[] = {{"J/K", 1.0}};
constexpr D iron_units[] = {{"mN·m/krpm", 1e-3 / (1000.0 * rpm)}};
constexpr D spring_units[] = {{"N/m", 1.0}, {"N/mm", 1e3}};
constexpr D stiffness_units[] = {{"N·m/rad", 1.0}, {"kN·m/rad", 1e3}};

// clang-format off
constexpr KindInfo kinds[] = {
  //                                                                  m  kg   s   A   K  rad; least and most plausible magnitude (choice)
  {Kind::number, "number", "a plain number", "1",                    {0, 0, 0, 0, 0, 0}, plain_numbers, plain_numbers, 1e-12, 1000000000000.0},
  {Kind::share, "share", "a share", "1",                             {0, 0, 0, 0, 0, 0}, share_units, share_units, 1e-9, 1000.0},
  {Kind::length, "length", "a length", "m",                          {1, 0, 0, 0, 0, 0}, length_si, length_in, 1e-9, 100000.0},
  {Kind::area, "area", "a cross-section", "m²",                   {2, 0, 0, 0, 0, 0}, area_units, area_units, 1e-12, 100.0},
  {Kind::lead, "lead", "a lead (length per turn)", "m",              {1, 0, 0, 0, 0, 0}, lead_si, length_in, 1e-7, 1000.0},
  {Kind::angle, "angle", "an angle", "rad",                          {0, 0, 0, 0, 0, 1}, angle_units, angle_units, 1e-9, 10000000.0},
  {Kind::mass, "mass", "a mass", "kg",                               {0, 1, 0, 0, 0, 0}, mass_si, mass_in, 1e-9, 1000000000.0},
  {Kind::time, "time", "a time", "s",                                {0, 0, 1, 0, 0, 0}, time_units, time_units, 1e-9, 1000000000.0},
  {Kind::speed, "speed", "a speed", "m/s",                           {1, 0, -1, 0, 0, 0}, speed_si, speed_in, 1e-9, 100000.0},
  {Kind::acceleration, "acceleration", "an acceleration", "m/s²",    {1, 0, -2, 0, 0, 0}, acceleration_si, acceleration_in, 1e-9, 100000000.0},
  {Kind::jerk, "jerk", "a jerk", "m/s³",                             {1, 0, -3, 0, 0, 0}, jerk_si, jerk_in, 1e-9, 1000000000000.0},
  {Kind::angular_speed, "angular_speed", "a speed of rotation", "rad/s", {0, 0, -1, 0, 0, 1}, angular_speed_units, angular_speed_units, 1e-9, 1000000.0},
  {Kind::angular_acceleration, "angular_acceleration", "an angular acceleration", "rad/s²", {0, 0, -2, 0, 0, 1}, angular_acceleration_units, angular_acceleration_units, 1e-9, 10000000000.0},
  {Kind::angular_jerk, "angular_jerk", "an angular jerk", "rad/s³",  {0, 0, -3, 0, 0, 1}, angular_jerk_units, angular_jerk_units, 1e-9, 100000000000000.0},
  {Kind::force, "force", "a force", "N",                             {1, 1, -2, 0, 0, 0}, force_si, force_in, 1e-9, 10000000000.0},
  {Kind::viscous_friction, "viscous_friction", "a viscous friction", "N·s/m", {0, 1, -1, 0, 0, 0}, viscous_units, viscous_units, 1e-9, 1000000000.0},
  {Kind::torque, "torque", "a torque", "N·m",                        {2, 1, -2, 0, 0, 0}, torque_si, torque_in, 1e-9, 1000000000.0},
  {Kind::torque_squared_time, "torque_squared_time", "a torque squared times time", "N²·m²·s", {4, 2, -3, 0, 0, 0}, torque2_units, torque2_units, 0.0, 1e300},
  {Kind::inertia, "inertia", "a moment of inertia", "kg·m²",         {2, 1, 0, 0, 0, 0}, inertia_si, inertia_in, 1e-15, 1000000000.0},
  {Kind::density, "density", "a density", "kg/m³",                   {-3, 1, 0, 0, 0, 0}, density_units, density_units, 0.001, 100000.0},
  {Kind::energy, "energy", "an energy", "J",                         {2, 1, -2, 0, 0, 0}, energy_units, energy_units, 1e-12, 1000000000000.0},
  {Kind::power, "power", "a power", "W",                             {2, 1, -3, 0, 0, 0}, power_units, power_units, 1e-12, 1000000000000.0},
  {Kind::frequency, "frequency", "a frequency", "Hz",                {0, 0, -1, 0, 0, 0}, frequency_units, frequency_units, 1e-9, 1000000000000.0},
  {Kind::current, "current", "a current", "A",                       {0, 0, 0, 1, 0, 0}, current_units, current_units, 1e-9, 1000000.0},
  {Kind::current_squared_time, "current_squared_time", "a current squared times time", "A²·s", {0, 0, 1, 2, 0, 0}, current2_units, current2_units, 0.0, 1e300},
  {Kind::voltage, "voltage", "a voltage", "V",                       {2, 1, -3, -1, 0, 0}, voltage_units, voltage_units, 1e-9, 1000000.0},
  {Kind::resistance, "resistance", "a resistance", "Ω",              {2, 1, -3, -2, 0, 0}, resistance_units, resistance_units, 1e-9, 1000000000.0},
  {Kind::inductance, "inductance", "an inductance", "H",             {2, 1, -2, -2, 0, 0}, inductance_units, inductance_units, 1e-12, 1000000.0},
  {Kind::capacitance, "capacitance", "a capacitance", "F",           {-2, -1, 4, 2, 0, 0}, capacitance_units, capacitance_units, 1e-15, 1000000.0},
  {Kind::torque_constant, "torque_constant", "a torque constant", "N·m/A", {2, 1, -2, -1, 0, 0}, torque_constant_si, torque_constant_in, 1e-9, 1000000.0},
  {Kind::emf_constant, "emf_constant", "a back-EMF constant", "V·s/rad", {2, 1, -2, -1, 0, -1}, emf_units, emf_units, 1e-9, 1000000.0},
  {Kind::speed_constant, "speed_constant", "a speed constant", "rad/(V·s)", {-2, -1, 2, 1, 0, 1}, speed_constant_units, speed_constant_units, 1e-9, 1000000.0},
  {Kind::flux_linkage, "flux_linkage", "a flux linkage", "Wb",       {2, 1, -2, -1, 0, 0}, flux_units, flux_units, 1e-12, 1000000.0},
  {Kind::motor_constant, "motor_constant", "a motor constant", "N·m/√W", {0, 0, 0, 0, 0, 0}, motor_constant_units, motor_constant_units, 1e-9, 1000000.0},
  {Kind::temperature, "temperature", "a temperature", "K",           {0, 0, 0, 0, 1, 0}, temperature_units, temperature_units, 1.0, 10000.0},
  {Kind::temperature_rise, "temperature_rise", "a temperature difference", "K", {0, 0, 0, 0, 1, 0}, rise_units, rise_units, 1e-6, 10000.0},
  {Kind::thermal_resistance, "thermal_resistance", "a thermal resistance", "K/W", {-2, -1, 3, 0, 1, 0}, thermal_units, thermal_units, 1e-6, 1000000.0},
  {Kind::heat_capacity, "heat_capacity", "a heat capacity", "J/K", {2, 1, -2, 0, -1, 0}, capacity_units, capacity_units, 1e-6, 1000000000.0},
  {Kind::iron_viscous, "iron_viscous", "a speed-proportional torque", "N·m·s/rad", {2, 1, -1, 0, 0, -1}, iron_units, iron_units, 1e-15, 1000000.0},
  {Kind::torsional_stiffness, "torsional_stiffness", "a torsional stiffness", "N·m/rad", {2, 1, -2, 0, 0, -1}, stiffness_units, stiffness_units, 1e-6, 1000000000000000.0},
  {Kind::stiffness, "stiffness", "a stiffness", "N/m",               {0, 1, -2, 0, 0, 0}, spring_units, spring_units, 1e-6, 1000000000000000.0},
};
// clang-format on

} // namespace

const KindInfo& info(Kind kind) {
  static_assert(std::size(kinds) == static_cast<std::size_t>(Kind::count_));
  return kinds[static_cast<std::size_t>(kind)];
}

} // namespace fulmox
