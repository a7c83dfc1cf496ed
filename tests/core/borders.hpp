#pragma once
#include "core/project/axis.hpp"

#include <functional>
#include <string>
#include <string_view>
#include <vector>

namespace fulmox::testing {

/// One axis on either side of where a warning begins.
struct Border {
  std::string_view warning;
  std::function<void(Axis&)> speaks, silent;
};

/// A quantity as it is typed, with twelve digits.
std::string text(double value, const char* unit);

/// Those of open-loop steppers, from the demo's picker.
std::vector<Border> stepper_borders();
/// Those of data sheets that contradict themselves.
std::vector<Border> sheet_borders();
/// Those of magnets inside a rotor and of weakened fields.
std::vector<Border> rotor_borders();
/// Those of numbers of a sheet that follow from its others.
std::vector<Border> claim_borders();
/// Those of what wears, burns, trips or was sized by half.
std::vector<Border> care_borders();

} // namespace fulmox::testing
