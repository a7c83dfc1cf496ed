#pragma once
#include "core/form/section.hpp"
#include "core/form/slot.hpp"

namespace fulmox {

/// The form of a coupling between motor (or gearhead) and mechanism; also the columns of a coupling library.
const SectionSpec& coupling_section();
const SlotSpec& coupling_slot();

} // namespace fulmox
