#pragma once
#include "core/form/field.hpp"

#include <string_view>

namespace fulmox {

/// The field of a form that was most likely meant by a name it does not have; "" where none comes near.
std::string_view nearest_field(const SectionSpec& form, std::string_view written);

} // namespace fulmox
