#pragma once
#include "core/working/formula.hpp"

#include <span>

namespace fulmox {

// Motors whose torque follows one current: brushed motors, and three-phase motors fed with blocks, where it
// is the commutated current. Currents are that direct current, volts those between the two leads that carry
// it.

/// I = |T_g|/Kt. A.
double dc_current(double air_gap_torque, double kt);
/// V = Kt·ω + R·I + V_b·sgn(I): I negative while braking.
double dc_volts(double kt, double resistance, double brush_drop, double speed, double current);
/// T = Kt·(V − V_b − Kt·ω)/R, at least 0: what a voltage drives through the winding, motoring.
double dc_torque_at(double kt, double resistance, double brush_drop, double speed, double volts);
/// (V − V_b)/Kt: the speed at which nothing is left of the voltage.
double dc_top_speed(double volts, double brush_drop, double kt);
/// Kt/√R, N·m/√W.
double dc_motor_constant(double kt, double resistance);
/// T = Kt·√(P_cu/R(T_lim)) − (k_h + k_e·ω), P_cu = (T_lim − T_amb − P_Fe·R_ca)/(R_wc + R_ca); at least 0.
double dc_continuous_torque(double kt, double resistance_20, double limit_temperature, double ambient,
                            double r_winding_case, double r_case_ambient, double hysteresis, double eddy,
                            double speed);

/// Kt per commutated ampere of blocks: Ke(ll,pk) for a flat back-EMF, (3/π)·Ke(ll,pk) for a sine.
double kt_flat(double ke_line_peak);
double kt_blocks_on_sine(double ke_line_peak);
/// The same from a torque per rms line ampere of sine currents on a sine back-EMF: (3/π)·Kt(rms)/√(3/2).
double kt_blocks_from_rms(double kt_rms);
/// Ke(ll,pk) = 1.3416·Ke(ll,rms) of a flat back-EMF (120° flat phases, two of them in a row).
double ke_flat_from_line_rms(double ke_line_rms);

namespace book {
extern const Formula dc_current, dc_volts, dc_torque_at, dc_top_speed, dc_motor_constant, dc_continuous,
    kt_flat, kt_blocks_on_sine, kt_blocks_from_rms, kt_dc_as_given, ke_flat_from_line_rms;
}
std::span<const Formula* const> dc_formulas();

} // namespace fulmox
