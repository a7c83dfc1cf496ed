#pragma once
#include "core/demand/course.hpp"

namespace fulmox {

/// Integrals over one cycle, exact to rounding: Gauss's rule on stretches in which nothing changes its sign.
struct CycleIntegrals {
  double torque_squared = 0.0;  ///< N²·m²·s, motor shaft
  double current_squared = 0.0; ///< A²·s, rms line current
  double turns = 0.0;           ///< rad, motor, without sign
  double speed_squared = 0.0;   ///< rad²/s
  double driven = 0.0;          ///< J put into the shaft
  double returned = 0.0;        ///< J taken back at the shaft, >= 0
  double bus_drawn = 0.0;       ///< J
  double bus_returned = 0.0;    ///< J, >= 0
  /// J, the most a bus without a sink must swallow: a pause in which little is drawn does not empty it; ∞
  /// when more is returned than drawn.
  double reflected = 0.0;
  double gear_weighted = 0.0; ///< ∫|T_2|^k·|n_1|dt
  TorqueParts energy;         ///< J, by cause, at the motor shaft
};

/// Whether torque runs straight over the stretch: constant acceleration and nothing that depends on position.
bool runs_straight(const AxisModel& model, const Stretch& stretch);

CycleIntegrals integrate(const AxisModel& model, const Course& course, double gear_exponent);

/// The overload integrator of a drive, dE/dt = I² − I_c², E >= 0, in its steady cycle: A²·s, ∞ where the rms
/// current is above the continuous current I_c in A rms.
Reflected overload(const AxisModel& model, const Course& course, double continuous_current);

} // namespace fulmox
