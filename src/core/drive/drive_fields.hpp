#pragma once
#include "core/form/section.hpp"

#include <string_view>
#include <vector>

namespace fulmox {

/// The form of a drive: its currents, what every kind has, then the fields of its own.
std::vector<FieldSpec> drive_fields(std::vector<FieldSpec> currents, std::vector<FieldSpec> own);

/// Continuous current, peak and how long it may last; `amperes` says which ampere is meant.
std::vector<FieldSpec> overload_currents(std::string_view amperes);

/// What is wrong between or within the fields that every kind has: an encoder that nobody knows.
std::vector<Problem> check_drive_sheet(const Section& sheet);

// Fields that several kinds have.

FieldSpec standby_field();
FieldSpec device_drop_field();

} // namespace fulmox
