#include "core/project/machine_lists.hpp"

#include "core/plan/blocks.hpp"
#include "core/plan/buses.hpp"
#include "core/project/chosen_parts.hpp"
#include "core/support/registry.hpp"

namespace fulmox {

namespace {

const MachineListSpec bus_list{"buses", "bus", [] {
                                 const auto kinds = bus_sections();
                                 return std::vector(kinds.begin(), kinds.end());
                               }};
const MachineListSpec block_list{"blocks", "block", [] { return std::vector{&block_section()}; }};
const MachineListSpec steady_load_list{"steady_loads", "other load",
                                       [] { return std::vector{&steady_load_section()}; }};

} // namespace

static Registry<MachineListSpec>& known_lists() {
  static Registry<MachineListSpec> lists(
      [](const MachineListSpec& list) -> std::string_view { return list.id; },
      {&chosen_parts_list(), &bus_list, &block_list, &steady_load_list});
  return lists;
}

std::span<const MachineListSpec* const> machine_lists() { return known_lists().all(); }
const MachineListSpec* find_machine_list(std::string_view id) { return known_lists().find(id); }
void register_machine_list(const MachineListSpec& list) { known_lists().add(list); }

} // namespace fulmox
