#pragma once
#include "core/working/formula.hpp"

#include <span>

namespace fulmox {

// Constants of a three-phase permanent-magnet motor with sinusoidal back-EMF.
// The core keeps terminal values: Ke as line-line peak volts per rad/s, R and L line to line, Kt per rms line
// ampere.

/// Ke(ll,pk) = √2·Ke(ll,rms). V·s/rad.
double ke_from_line_rms(double ke);
/// Ke(ll,pk) = √3·√2·Ke(phase,rms) of the equivalent wye.
double ke_from_phase_rms(double ke);
/// Ke(ll,pk) = √3·Ke(phase,peak) of the equivalent wye.
double ke_from_phase_peak(double ke);
/// Ke(ll,pk) = Kt(rms)/√(3/2).
double ke_from_kt(double kt_rms);
/// Kt(rms) = √(3/2)·Ke(ll,pk) = √3·Ke(ll,rms). N·m per rms line ampere.
double kt_from_ke(double ke_line_peak);
/// Kt(rms) = √2·Kt(peak).
double kt_from_peak(double kt_peak);
/// Kt(rms) = (π/3)·√(3/2)·Kt(DC) for a six-step drive on a sine back-EMF, Kt(DC) = (3/π)·Ke(ll,pk).
double kt_from_dc(double kt_dc);
/// Line-line from phase, wye: 2·R_ph; holds for R and L.
double line_from_wye(double phase);
/// Line-line from phase, delta: (2/3)·R_ph.
double line_from_delta(double phase);
/// R = R20·(1 + 0.00393·(T − 20 °C)); T in K.
double warm_resistance(double resistance_20, double temperature);
/// 1 + β·(T − 20 °C): what is left of Kt and Ke at a magnet temperature in K; β in 1/K, below 0.
double magnet_factor(double per_kelvin, double temperature);
/// T_amb + 0.6·(T_lim − T_amb): magnet of a motor whose winding is at its limit, where none is told; common
/// practice. K.
double usual_magnet_temperature(double winding_limit, double ambient);
/// P = 1.5·I²·R_ll; I the rms line current, any winding.
double copper_loss(double current_rms, double resistance_line);
/// I = |T|/Kt, rms line ampere.
double torque_current(double torque, double kt_rms);
/// T_g = T + s·T_d: torque in the air gap for a shaft torque T; s the direction of rotation, T_d >= 0 drag
/// and iron torque. Curves of catalogues are at the shaft: drag is off there once and comes back once here.
double air_gap_for(double shaft_torque, double direction, double drag);
/// I = I_r + (|T_g| − Kt·I_r)·(I_pk − I_r)/(T_pk − Kt·I_r): between rated and peak point the torque constant
/// falls; |T_g| >= Kt·I_r, T_pk the air-gap torque at I_pk. A, rms.
double saturated_current(double air_gap, double kt_rms, double rated_current, double peak_current,
                         double peak_air_gap);
/// Km = Kt(rms)/√(1.5·R_ll), N·m/√W.
double motor_constant(double kt_rms, double resistance_line);

namespace book {
extern const Formula ke_from_line_rms, ke_from_line_peak, ke_from_phase_rms, ke_from_phase_peak, ke_from_kt,
    kt_from_ke, kt_as_rms, kt_from_peak, kt_from_dc, resistance_as_line, resistance_from_wye,
    resistance_from_delta, inductance_as_line, inductance_from_wye, inductance_from_delta, warm_resistance,
    magnet_factor, kt_hot, hot_torque, copper_loss, motor_constant, air_gap_for, saturated_current,
    torque_current;
}
std::span<const Formula* const> motor_constant_formulas();

} // namespace fulmox
