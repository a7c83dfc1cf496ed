#include "core/project/machine_lists.hpp"

namespace fulmox {

namespace {
std::vector<const MachineListSpec*>& registry() {
  static std::vector<const MachineListSpec*> all; // none of our own yet
  return all;
}
} // namespace

std::span<const MachineListSpec* const> machine_lists() { return registry(); }

const MachineListSpec* find_machine_list(std::string_view id) {
  for (const MachineListSpec* list : machine_lists())
    if (list->id == id) return list;
  return nullptr;
}

void register_machine_list(const MachineListSpec& list) {
  if (find_machine_list(list.id) == nullptr) registry().push_back(&list);
}

} // namespace fulmox
