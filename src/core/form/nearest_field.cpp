#include "core/form/nearest_field.hpp"

#include "core/support/nearest_name.hpp"

#include <vector>

namespace fulmox {

std::string_view nearest_field(const SectionSpec& form, std::string_view written) {
  std::vector<std::string_view> names;
  for (const FieldSpec& field : form.fields) names.push_back(field.id);
  return nearest_name(written, names);
}

} // namespace fulmox
