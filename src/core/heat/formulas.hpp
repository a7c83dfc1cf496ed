#pragma once
#include "core/working/formula.hpp"

#include <span>

namespace fulmox {

/// C = τ/R, J/K, of a node that cools with τ (s) through R (K/W) alone.
double heat_capacity(double time_constant, double thermal_resistance);
/// R_wc + R_ca in K/W from the catalogue's continuous torque: what its copper loss (W, winding at its limit)
/// lifts from the catalogue's ambient to the limit. Temperatures in K; loss > 0.
double rated_thermal_resistance(double limit, double catalogue_ambient, double copper_at_limit);
/// C = c·x·m: specific heat c in J/(kg·K), share x of the mass m in kg.
double part_capacity(double specific_heat, double share, double mass);
/// Mean rise of a winding in the steady cycle: P_cu·(R_wc + R_ca) + P_b·R_ca, K.
double mean_winding_rise(double copper, double winding_to_case, double case_to_ambient, double body);
/// √((R_wc + R_ca)/(s·R_wc + R_ca)): torque that may be held for ever over the continuous one, when the
/// hottest phase takes s >= 1 times its even share.
double hold_factor(double winding_to_case, double case_to_ambient, double crowding);
/// Seconds from T_0 to T_lim (K) when nothing is led away: C/(α·P)·ln((1 + α(T_lim − 20 °C))/(1 + α(T_0 − 20
/// °C))), P > 0 the loss at 20 °C; 0 when it is there already. A little short, which is the safe side.
double adiabatic_time(double capacity, double loss_20, double limit, double from);

namespace book {
extern const Formula heat_capacity, rated_thermal_resistance, resistance_share, part_capacity, worse_cooling,
    mean_winding_rise, hottest_winding, hottest_case, hold_factor, adiabatic_time, crowded_loss, time_found;
}
std::span<const Formula* const> heat_formulas();

} // namespace fulmox
