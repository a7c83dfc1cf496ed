#pragma once
#include "core/form/section.hpp"

namespace fulmox {

/// The form for the machine's cycle: how long, how many parts, whether cycles overlap, what happens at a loss
/// of the mains.
const SectionSpec& pace_section();

} // namespace fulmox
