#include "core/mechanism/mechanism.hpp"

#include "core/mechanism/screw.hpp"

#include <array>

namespace fulmox {

std::span<const MechanismSpec* const> mechanism_specs() {
  static const std::array specs{&screw_mechanism()};
  return specs;
}

const MechanismSpec* find_mechanism(std::string_view id) {
  for (const MechanismSpec* spec : mechanism_specs())
    if (spec->section.id == id) return spec;
  return nullptr;
}

} // namespace fulmox
