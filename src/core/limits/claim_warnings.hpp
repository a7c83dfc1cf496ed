#pragma once
#include "core/limits/second_look.hpp"

#include <span>

namespace fulmox {

/// Numbers of a data sheet that do not follow from its others, with the usual slip behind the factor.
std::span<const WarningSpec> claim_warnings();

} // namespace fulmox
