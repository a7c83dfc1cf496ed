#pragma once
#include "core/form/field.hpp"

#include <string_view>
#include <vector>

namespace fulmox {

/// The form of a drive: what every kind has, then the fields of its own. `amperes` says which ampere is
/// meant.
std::vector<FieldSpec> drive_fields(std::string_view amperes, std::vector<FieldSpec> own);

// Fields that several kinds have.

FieldSpec standby_field();
FieldSpec device_drop_field();

} // namespace fulmox
