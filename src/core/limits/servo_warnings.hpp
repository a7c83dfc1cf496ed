#pragma once
#include "core/limits/second_look.hpp"

namespace fulmox {

// What a data sheet of a servo motor often leaves open; nothing of any other kind of motor.

/// Torque and back-EMF constant must tell the same in one convention.
std::optional<Warning> constants_disagree(const LimitContext& context);
/// A constant without the ampere or volt it refers to.
std::optional<Warning> convention_missing(const LimitContext& context);
/// A resistance that may be that of a phase or of two leads.
std::optional<Warning> winding_unknown(const LimitContext& context);

} // namespace fulmox
