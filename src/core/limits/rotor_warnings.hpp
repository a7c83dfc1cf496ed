#pragma once
#include "core/limits/second_look.hpp"

#include <span>

namespace fulmox {

/// What magnets inside a rotor and a weakened field bring with them.
std::span<const WarningSpec> rotor_warnings();

} // namespace fulmox
