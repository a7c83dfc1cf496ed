#pragma once
#include "core/working/formula.hpp"

#include <span>

namespace fulmox {

/// Three phases fed with blocks of 120° from a stiff voltage.
struct BlockMachine {
  double kt = 0.0;         ///< N·m per commutated ampere, > 0
  double resistance = 0.0; ///< Ω between two leads, > 0
  double inductance = 0.0; ///< H between two leads, >= 0
  double pole_pairs = 1.0;
  bool flat = false; ///< flat back-EMF, else a sine
};

/// The commutated current I_eff = T/Kt that a voltage between the leads drives at speed ω >= 0, over what
/// (1 − s)·V/R would be; s = Kt·ω/V in 0…1, x = p·ω·L/R >= 0. Inductance delays every commutation: the share
/// falls to a tenth on fast motors. Read from a table of time-stepped currents (tests step them anew), low
/// rather than high between its points and beyond them.
double block_share(double s, double x, bool flat);
/// I_eff in A at a voltage; 0 beyond the no-load speed.
double block_current(const BlockMachine& machine, double speed, double volts);
/// The voltage that drives a current I >= 0; its inverse.
double block_volts(const BlockMachine& machine, double speed, double current);

namespace book {
extern const Formula block_volts, block_torque_at;
}
std::span<const Formula* const> block_formulas();

} // namespace fulmox
