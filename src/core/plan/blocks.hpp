#pragma once
#include "core/form/section.hpp"

namespace fulmox {

/// The form for one axis's cycle within the machine's: when it starts and how often it runs. An axis without
/// a block runs its cycle once, from the start.
const SectionSpec& block_section();

/// The form for what takes power from a bus without being an axis.
const SectionSpec& steady_load_section();

} // namespace fulmox
