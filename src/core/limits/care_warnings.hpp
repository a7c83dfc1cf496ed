#pragma once
#include "core/limits/second_look.hpp"

#include <span>

namespace fulmox {

/// What wears, burns, trips or was sized by half: judgements that no rung of its own makes.
std::span<const WarningSpec> care_warnings();

} // namespace fulmox
