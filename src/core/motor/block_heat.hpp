#pragma once
#include "core/motor/six_step_formulas.hpp"

#include <span>

namespace fulmox {

/// Direct current that heats the winding (R_ll·I²) like the phase currents of a machine fed with blocks:
/// with inductance they overlap, and near the no-load speed the arcs of a sine drive currents to and fro that
/// make no torque. Rises with current and speed. `current` >= 0 is what makes the torque, speed >= 0. A.
/// Steady currents of the voltage-fed machine; a drive that holds the current itself heats less.
double block_heat_current(const BlockMachine& machine, double speed, double current);

namespace book {
extern const Formula block_heat_current;
}

} // namespace fulmox
