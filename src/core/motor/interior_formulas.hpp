#pragma once
#include "core/motor/envelope.hpp"

namespace fulmox {

/// A field-oriented motor with magnets inside its rotor: the inductance turns with it, and the difference
/// makes torque of its own (reluctance). Currents in peak ampere, values of one phase of the equivalent wye.
struct InteriorMachine {
  double k = 0.0;      ///< V·s/rad: peak back-EMF of one phase, magnets as cold as they come; > 0
  double magnet = 1.0; ///< share of it that makes torque when they are hot, in (0, 1]
  double resistance = 0.0;
  double inductance_d = 0.0; ///< H, along the magnets, > 0
  double inductance_q = 0.0; ///< H, across them, > 0; usually the larger
  double pole_pairs = 1.0;
};

/// T = 1.5·(K·i_q + p·(L_d − L_q)·i_d·i_q) with hot magnets: torque in the air gap, N·m.
double interior_torque(const InteriorMachine& machine, DqCurrent current);

/// The split of a current that makes most torque: i_d = (ψ − √(ψ² + 8·ΔL²·I²))/(4·ΔL), ΔL = L_q − L_d,
/// ψ = K/p hot. `current` negative where it brakes.
DqCurrent most_torque_per_ampere(const InteriorMachine& machine, double current);

/// The least current >= 0 that makes a torque (of either sign), voltage left aside. A, peak.
double interior_current(const InteriorMachine& machine, double air_gap_torque);

/// Phase peak voltage of a current at a speed.
double interior_voltage(const InteriorMachine& machine, DqCurrent current, double speed);

/// The current of greatest torque (braking: of the most negative one) within √(i_d² + i_q²) <= current_limit
/// and phase peak voltage <= voltage_limit at a speed >= 0. Without weakening on the line of most torque per
/// ampere, reduced until it fits. None where the voltage leaves none.
DqCurrent best_interior_current(const InteriorMachine& machine, double speed, double voltage_limit,
                                double current_limit, bool weakening, bool braking = false);

/// The current of the least size that makes a torque (negative: braking) within a voltage; where none does,
/// the one that takes the least voltage. A voltage of 0 counts as not known.
DqCurrent least_interior_current(const InteriorMachine& machine, double air_gap_torque, double speed,
                                 double voltage_limit);

/// Back-EMF K of a phase behind a torque constant (N·m per rms ampere) quoted at an rms current: the torque
/// of reluctance is taken off. NaN where reluctance alone would make more. V·s/rad.
double emf_behind_kt(double kt_rms, double current_rms, double difference, double pole_pairs);

namespace book {
extern const Formula interior_emf, interior_current, interior_torque, interior_d_current, interior_voltage,
    interior_least_current, interior_envelope;
}
std::span<const Formula* const> interior_formulas();

} // namespace fulmox
