#include "core/heat/formulas.hpp"

#include "core/quantity/constants.hpp"

#include <array>
#include <cmath>

namespace fulmox {

using constants::copper_reference;
using constants::copper_temperature_coefficient;

double heat_capacity(double time_constant, double thermal_resistance) {
  return time_constant / thermal_resistance;
}

double rated_thermal_resistance(double limit, double catalogue_ambient, double copper_at_limit) {
  return (limit - catalogue_ambient) / copper_at_limit;
}

double part_capacity(double specific_heat, double share, double mass) { return specific_heat * share * mass; }

double mean_winding_rise(double copper, double winding_to_case, double case_to_ambient, double body) {
  return copper * (winding_to_case + case_to_ambient) + body * case_to_ambient;
}

double hold_factor(double winding_to_case, double case_to_ambient, double crowding) {
  return std::sqrt((winding_to_case + case_to_ambient) / (crowding * winding_to_case + case_to_ambient));
}

double adiabatic_time(double capacity, double loss_20, double limit, double from) {
  if (from >= limit) return 0.0;
  return capacity / (copper_temperature_coefficient * loss_20) *
         std::log((1.0 + copper_temperature_coefficient * (limit - copper_reference)) /
                  (1.0 + copper_temperature_coefficient * (from - copper_reference)));
}

namespace {
double resistance_share(double total, double share) { return total * share; }
double worse_cooling(double resistance, double mounting, double altitude) {
  return resistance * mounting / (altitude * altitude);
}
double hottest_winding(double ambient, double rise, double above) { return ambient + rise + above; }
double hottest_case(double ambient, double copper, double body, double resistance, double above) {
  return ambient + (copper + body) * resistance + above;
}
double crowded_loss(double copper, double crowding) { return copper * crowding; }
double time_found(double time) { return time; }

constexpr std::string_view two_nodes =
    "two thermal nodes in a row; heat flow proportional to temperature difference";
const Parameter to_case{"R_wc", "R_wc", Kind::thermal_resistance, "winding to case", range::positive};
const Parameter to_air{"R_ca", "R_ca", Kind::thermal_resistance, "case to ambient, as mounted here",
                       range::positive};
const Parameter ambient{"T_a", "T_a", Kind::temperature, "of the air around the motor", {223.15, 423.15}};
const Parameter crowding{"s", "s", Kind::number, "loss of the hottest phase over its even share", {1.0, 5.0}};
} // namespace

namespace book {
const Formula heat_capacity{"heat.capacity",
                            "Heat capacity from a time constant",
                            "C",
                            "{tau}/{R}",
                            Kind::heat_capacity,
                            {{"tau", "τ", Kind::time, "time constant of the data sheet", range::positive},
                             {"R", "R", Kind::thermal_resistance, "through which it cools", range::positive}},
                            "first-order cooling",
                            calling<&fulmox::heat_capacity>};
const Formula rated_thermal_resistance{
    "heat.rated_resistance",
    "Thermal resistance that the rated point tells",
    "R_wa",
    "({T_lim} − {T_cat})/{P}",
    Kind::thermal_resistance,
    {{"T_lim", "T_lim", Kind::temperature, "winding limit", {273.15, 573.15}},
     {"T_cat", "T_cat", Kind::temperature, "ambient of the catalogue", {223.15, 373.15}},
     {"P", "P_cu", Kind::power, "copper loss at the continuous torque, winding at its limit",
      range::positive}},
    "estimate: the continuous torque heats the winding to its limit",
    calling<&fulmox::rated_thermal_resistance>};
const Formula resistance_share{
    "heat.resistance_share",
    "Share of a thermal resistance",
    "R",
    "{R}·{x}",
    Kind::thermal_resistance,
    {{"R", "R_wa", Kind::thermal_resistance, "winding to ambient", range::positive},
     {"x", "x", Kind::share, "its share, from memory", {0.0, 1.0}}},
    "estimate",
    calling<&fulmox::resistance_share>};
const Formula part_capacity{
    "heat.part_capacity",
    "Heat capacity of part of a motor",
    "C",
    "{c}·{x}·{m}",
    Kind::heat_capacity,
    {{"c", "c", Kind::number, "specific heat in J/(kg·K): copper 390, iron and aluminium together 450",
      range::positive},
     {"x", "x", Kind::share, "share of the motor's mass, from memory", {0.0, 1.0}},
     {"m", "m", Kind::mass, "of the motor", range::positive}},
    "estimate; specific heats from memory",
    calling<&fulmox::part_capacity>};
const Formula worse_cooling{
    "heat.worse_cooling",
    "Case to ambient, as mounted and at this altitude",
    "R_ca",
    "{R}·{m}/{k_h}²",
    Kind::thermal_resistance,
    {{"R", "R_ca", Kind::thermal_resistance, "on the catalogue's plate", range::positive},
     {"m", "m", Kind::number, "thin steel 1.5, plastic 1.8 (from memory: 1.3 to 1.8)", {1.0, 10.0}},
     {"k_h", "k_h", Kind::share, "derating of the torque for altitude", {0.0, 1.0, true}}},
    "loss goes with the square of the torque",
    calling<&fulmox::worse_cooling>};
const Formula mean_winding_rise{
    "heat.mean_rise",
    "Mean rise of the winding",
    "ΔT_m",
    "{P_cu}·({R_wc} + {R_ca}) + {P_b}·{R_ca}",
    Kind::temperature_rise,
    {{"P_cu", "P_cu", Kind::power, "mean copper loss at the temperatures reached", range::not_negative},
     to_case,
     to_air,
     {"P_b", "P_b", Kind::power, "mean loss in the case: friction, iron, brake", range::not_negative}},
    two_nodes,
    calling<&fulmox::mean_winding_rise>};
const Formula hottest_winding{"heat.hottest",
                              "Hottest winding in the steady cycle",
                              "T_w",
                              "{T_a} + {dT} + {s}",
                              Kind::temperature,
                              {ambient,
                               {"dT", "ΔT_m", Kind::temperature_rise, "mean rise", range::not_negative},
                               {"s", "ΔT_s", Kind::temperature_rise,
                                "what the hottest moment of the hottest phase lies above the mean"}},
                              two_nodes,
                              calling<&fulmox::hottest_winding>};
const Formula hottest_case{
    "heat.case",
    "Hottest case in the steady cycle",
    "T_c",
    "{T_a} + ({P_cu} + {P_b})·{R_ca} + {s}",
    Kind::temperature,
    {ambient,
     {"P_cu", "P_cu", Kind::power, "mean copper loss", range::not_negative},
     {"P_b", "P_b", Kind::power, "mean loss in the case", range::not_negative},
     to_air,
     {"s", "ΔT_s", Kind::temperature_rise, "what the hottest moment lies above the mean"}},
    two_nodes,
    calling<&fulmox::hottest_case>};
const Formula hold_factor{"heat.hold_factor",
                          "Torque that may be held for ever, over the continuous torque",
                          "k_s",
                          "√(({R_wc} + {R_ca})/({s}·{R_wc} + {R_ca}))",
                          Kind::share,
                          {to_case, to_air, crowding},
                          "each phase sits on its own path to the case",
                          calling<&fulmox::hold_factor>};
const Formula crowded_loss{
    "heat.crowded",
    "Loss of the hottest phase, times the phases",
    "P_s",
    "{P}·{s}",
    Kind::power,
    {{"P", "P_20", Kind::power, "copper loss of all phases, winding at 20 °C", range::not_negative},
     crowding},
    "at rest one phase may stand at its crest",
    calling<&fulmox::crowded_loss>};
const Formula adiabatic_time{
    "heat.overload",
    "Time until the winding reaches its limit",
    "t",
    "{C}/(α·{P})·ln((1 + α·({T_lim} − 20 °C))/(1 + α·({T_0} − 20 °C))), α = 0.00393/K",
    Kind::time,
    {{"C", "C_w", Kind::heat_capacity, "of the winding", range::positive},
     {"P", "P_s", Kind::power, "loss at 20 °C", range::positive},
     {"T_lim", "T_lim", Kind::temperature, "winding limit", {273.15, 573.15}},
     {"T_0", "T_0", Kind::temperature, "where it starts", {223.15, 573.15}}},
    "nothing led away meanwhile, which is a little short: the safe side; copper, IEC 60028",
    calling<&fulmox::adiabatic_time>};
const Formula time_found{
    "heat.time_to_limit",
    "Time from cold to the winding's limit",
    "t",
    "{t}",
    Kind::time,
    {{"t", "t", Kind::time, "cycle after cycle, by the thermal network", range::not_negative}},
    "matrix exponential of the two-node network",
    calling<&fulmox::time_found>};
} // namespace book

std::span<const Formula* const> heat_formulas() {
  static const std::array list{&book::heat_capacity,    &book::rated_thermal_resistance,
                               &book::resistance_share, &book::part_capacity,
                               &book::worse_cooling,    &book::mean_winding_rise,
                               &book::hottest_winding,  &book::hottest_case,
                               &book::hold_factor,      &book::crowded_loss,
                               &book::adiabatic_time,   &book::time_found};
  return list;
}

} // namespace fulmox
