#pragma once
#include "core/form/section.hpp"

#include <optional>
#include <span>
#include <string_view>
#include <vector>

namespace fulmox {

/// The forms of a bus, by what feeds it: a regulated supply, a transformer with rectifier, the mains.
std::span<const SectionSpec* const> bus_sections();
const SectionSpec& regulated_bus_section();
const SectionSpec& transformer_bus_section();
const SectionSpec& mains_bus_section();

/// The fields in which these forms tell of the supply itself; a library tells of its supplies in the same.
std::vector<FieldSpec> regulated_supply_fields();
std::vector<FieldSpec> transformer_fields();

/// Whether a field of a bus stays as it is when its supply is changed: name, mains, capacitors, chopper,
/// cable.
bool stays_with_bus(std::string_view field);

/// What is wrong or missing between the fields that tell what a regulated supply does in overload.
struct OverloadFault {
  std::string_view field, what, remedy;
};
std::optional<OverloadFault> overload_fault(const Section& supply);

} // namespace fulmox
