#pragma once
#include "core/form/field.hpp"

#include <vector>

namespace fulmox {

/// The form of a motor: what every kind has, around the fields of its own. The same ids in all of them, so
/// that another kind keeps what both know. `claims`: what its sheets also tell, only to be compared.
std::vector<FieldSpec> motor_fields(std::vector<FieldSpec> own, std::vector<FieldSpec> claims = {});

// Fields that several kinds have.

FieldSpec rotor_inertia_field();
FieldSpec continuous_curve_field();
FieldSpec peak_curve_field();
FieldSpec resistance_field(std::string_view help);
FieldSpec inductance_field(std::string_view help);
FieldSpec pole_pairs_field();
FieldSpec encoder_field();
/// Whether resistance and inductance are those between two leads or of one phase.
FieldSpec winding_as_field();
/// Amperes of a kind's own convention, told in the help.
FieldSpec rated_current_field(std::string_view help);
FieldSpec peak_current_field(std::string_view help);

} // namespace fulmox
