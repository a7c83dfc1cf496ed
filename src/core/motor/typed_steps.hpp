#pragma once
#include "core/form/section.hpp"

#include <string>
#include <string_view>

namespace fulmox {

/// Full steps of a turn by a stepper's sheet; NaN for other motors, and where its teeth are not told.
double full_steps_of(const Section& motor);

/// A speed in steps a second ("800 steps/s") put into turns, the reckoning in sight: "800/200 rev/s" at 200
/// full steps a turn. Pulses a second ("pulses/s", "pps") where it is told how many make a turn: what a data
/// sheet counts may be half steps or micro-steps. Untouched where nothing of the kind is written behind a
/// number, and where the count is NaN.
std::string steps_as_turns(std::string_view text, double full_steps, double pulses);

} // namespace fulmox
