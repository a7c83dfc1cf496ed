#pragma once
#include "core/form/section.hpp"

#include <span>

namespace fulmox {

/// The forms of a bus, by what feeds it: a regulated supply, a transformer with rectifier, the mains.
std::span<const SectionSpec* const> bus_sections();
const SectionSpec& regulated_bus_section();
const SectionSpec& transformer_bus_section();
const SectionSpec& mains_bus_section();

} // namespace fulmox
