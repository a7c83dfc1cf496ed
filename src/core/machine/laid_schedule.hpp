#pragma once
#include "core/machine/machine_power.hpp"

namespace fulmox {

/// Blocks, schedule and rate of a machine whose axes have their powers; its problem where they cannot be
/// placed, remarks on what is left out.
void lay_schedule(const Document& document, MachinePower& machine);

} // namespace fulmox
