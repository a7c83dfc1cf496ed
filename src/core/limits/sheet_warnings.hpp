#pragma once
#include "core/limits/second_look.hpp"

namespace fulmox {

/// Data sheets of motors that contradict themselves: ratios that must be near 1, and what the usual factors
/// away from it mean. A question, never a correction.
std::span<const WarningSpec> sheet_warnings();

} // namespace fulmox
