#pragma once
#include "core/project/machine_lists.hpp"

namespace fulmox {

/// A choice of parts as it was made: for which axis, what was chosen, against which rivals, by which weights,
/// and what spoke for it. Kept with the machine, so that nobody has to ask later why.
const SectionSpec& chosen_parts_section();

/// All choices of a machine, in the order in which they were made.
const MachineListSpec& chosen_parts_list();

} // namespace fulmox
