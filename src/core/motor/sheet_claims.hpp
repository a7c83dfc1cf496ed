#pragma once
#include "core/form/field.hpp"

#include <vector>

namespace fulmox {

// Numbers of a data sheet that follow from its others. Nothing is worked out from them: the second look
// compares, as a sheet that contradicts itself is mostly one whose conventions are misread.

/// Motor constant, time constants, rated power and speed: of every motor with a torque constant.
std::vector<FieldSpec> sheet_claims();
/// The same with speed and current without load at a voltage: of motors fed with direct current.
std::vector<FieldSpec> direct_current_claims();
/// The same with the torque at a stall: of brushed motors.
std::vector<FieldSpec> brushed_claims();
/// R·I of one phase: of steppers.
std::vector<FieldSpec> stepper_claims();

} // namespace fulmox
