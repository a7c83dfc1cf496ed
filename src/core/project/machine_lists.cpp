#include "core/project/machine_lists.hpp"

#include "core/project/chosen_parts.hpp"
#include "core/support/registry.hpp"

namespace fulmox {

static Registry<MachineListSpec>& registry() {
  static Registry<MachineListSpec> lists(
      [](const MachineListSpec& list) -> std::string_view { return list.id; }, {&chosen_parts_list()});
  return lists;
}

std::span<const MachineListSpec* const> machine_lists() { return registry().all(); }
const MachineListSpec* find_machine_list(std::string_view id) { return registry().find(id); }
void register_machine_list(const MachineListSpec& list) { registry().add(list); }

} // namespace fulmox
