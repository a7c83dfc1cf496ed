#pragma once
#include "core/form/section.hpp"

#include <span>
#include <string_view>
#include <vector>

namespace fulmox {

/// A list of sections that belongs to the whole machine, not to one axis: supplies, a schedule, measurements.
/// File, schema, undo, differences and faults follow from it.
struct MachineListSpec {
  std::string_view id;   ///< its member in files; heads the paths of its sections, "supplies[0]"
  std::string_view what; ///< one of its members, in words
  std::vector<const SectionSpec*> (*kinds)();
};

std::span<const MachineListSpec* const> machine_lists();
const MachineListSpec* find_machine_list(std::string_view id);
/// Adds one; what is already there stays.
void register_machine_list(const MachineListSpec& list);

} // namespace fulmox
