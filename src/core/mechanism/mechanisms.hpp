#pragma once
#include "core/mechanism/mechanism.hpp"

namespace fulmox {

// One function per file of this folder; mechanism.cpp lists them.
const MechanismSpec& screw_mechanism();
const MechanismSpec& power_screw_mechanism();
const MechanismSpec& belt_mechanism();
const MechanismSpec& rack_mechanism();
const MechanismSpec& conveyor_mechanism();
const MechanismSpec& table_mechanism();
const MechanismSpec& arm_mechanism();
const MechanismSpec& drum_mechanism();
const MechanismSpec& crank_mechanism();
const MechanismSpec& general_mechanism();

} // namespace fulmox
