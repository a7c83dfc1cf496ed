#pragma once
#include "core/form/section.hpp"

namespace fulmox {

/// The form of a coupling between motor (or gearhead) and mechanism; also the columns of a coupling library.
const SectionSpec& coupling_section();

} // namespace fulmox
