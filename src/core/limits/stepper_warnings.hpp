#pragma once
#include "core/limits/second_look.hpp"

namespace fulmox {

/// What is worth a second look on an axis with an open-loop stepper; nothing on others.
std::span<const WarningSpec> stepper_warnings();

} // namespace fulmox
