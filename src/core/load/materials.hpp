#pragma once
#include "core/form/field.hpp"

#include <span>

namespace fulmox {

struct Material {
  std::string_view id, label;
  double density; ///< kg/m³ at room temperature, from memory
};

std::span<const Material> materials();
/// Density of a material by id; NaN for an unknown one.
double density_of(std::string_view id);
/// A choice among the materials; the first is preset.
FieldSpec material_field();

} // namespace fulmox
