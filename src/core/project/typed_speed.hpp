#pragma once
#include "core/project/axis.hpp"

#include <string>
#include <string_view>

namespace fulmox {

/// What is typed in a field of an axis's motor or drive ("motor", "drive"), a speed in steps or pulses a
/// second put into turns where the axis's stepper tells how many make one; any other text as it is. Speeds of
/// the motor, never of the load, are told so.
std::string with_turns(const Axis& axis, std::string_view slot, const FieldSpec& spec, std::string_view text);

/// The same for an axis that was written by hand: what its fields could not make sense of alone.
void read_steps(Axis& axis);

} // namespace fulmox
