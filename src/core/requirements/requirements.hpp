#pragma once
#include "core/form/section.hpp"
#include "core/form/slot.hpp"

namespace fulmox {

/// The form for what is asked of an axis beyond its moves: how exact, how stiff, how much room to stop.
const SectionSpec& requirements_section();
const SlotSpec& requirements_slot();

} // namespace fulmox
