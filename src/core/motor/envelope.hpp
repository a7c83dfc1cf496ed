#pragma once
#include "core/working/formula.hpp"

#include <span>

namespace fulmox {

/// A field-oriented permanent-magnet motor on its drive, non-salient (L_d = L_q).
struct SineMachine {
  double k = 0.0;          ///< V·s/rad: peak back-EMF of one phase of the equivalent wye
  double resistance = 0.0; ///< Ω, one phase of the wye, R_ll/2, > 0
  double inductance = 0.0; ///< H, one phase of the wye, L_ll/2, >= 0
  double pole_pairs = 1.0;
};

struct DqCurrent {
  double d = 0.0, q = 0.0; ///< A, peak
};

/// The largest i_q (motoring) or the most negative one (braking) at mechanical speed ω >= 0, within
/// √(i_d² + i_q²) <= current_limit and phase peak voltage <= voltage_limit. i_d = 0, or i_d <= 0 with field
/// weakening. When even i_q = 0 breaks the voltage limit, motoring returns zero current.
DqCurrent best_current(const SineMachine& machine, double speed, double voltage_limit, double current_limit,
                       bool weakening, bool braking = false);

/// The current of the least size that makes i_q (negative: braking) within a phase peak voltage: i_d <= 0, no
/// more than it takes. Where no i_d is enough, the one that takes the least voltage. A voltage of 0 counts as
/// not known: i_d = 0.
DqCurrent least_current(const SineMachine& machine, double current_q, double speed, double voltage_limit);

/// V² − v² with i_d = 0, in V²: below 0 the field has to be weakened. A polynomial of i_q and speed.
double voltage_room(const SineMachine& machine, double current_q, double speed, double voltage_limit);

/// Phase peak voltage that a given i_q with i_d = 0 needs at speed ω.
double phase_voltage(double k, double resistance, double inductance, double pole_pairs, double speed,
                     double current_q);

/// T = 1.5·K·i_q in N·m: torque in the air gap; i_q in peak ampere.
double air_gap_torque(double k, double current_q);

/// Speed at which the back-EMF alone uses up the voltage: V/K in rad/s.
double base_speed(double voltage_limit, double k);

/// Continuous shaft torque of the two-node heat path, temperatures in K:
/// T = Kt·√(P_cu/(1.5·R_warm)) − (k_h + k_e·ω), P_cu = (T_lim − T_amb − P_iron·R_ca)/(R_wc + R_ca); 0 when
/// iron loss alone is too much.
double continuous_torque(double kt_rms, double resistance_20, double limit_temperature, double ambient,
                         double r_winding_case, double r_case_ambient, double hysteresis, double eddy,
                         double speed);

/// The rms current of the same heat path, in all three lines. A; 0 when iron loss alone is too much.
double heat_current(double resistance_20, double limit_temperature, double ambient, double r_winding_case,
                    double r_case_ambient, double hysteresis, double eddy, double speed);

/// √[(T_lim − T_amb − ΔT_Fe)/(T_lim − T_cat − ΔT_Fe)], capped at 1; ΔT_Fe = P_iron·R_ca in K, 0 when unknown.
double ambient_derating(double limit_temperature, double ambient, double catalogue_ambient, double iron_rise);

/// 1 % per 100 m above 1000 m; common practice, confirm with the maker.
double altitude_derating(double altitude);

namespace book {
extern const Formula phase_voltage, air_gap_torque, base_speed, continuous_torque, heat_current,
    ambient_derating, altitude_derating, least_current, sine_envelope, emf_phase_peak, saturated_torque,
    shaft_torque;
}
std::span<const Formula* const> envelope_formulas();

} // namespace fulmox
