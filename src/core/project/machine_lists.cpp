#include "core/project/machine_lists.hpp"

#include "core/plan/blocks.hpp"
#include "core/plan/buses.hpp"
#include "core/project/chosen_parts.hpp"
#include "core/support/registry.hpp"

namespace fulmox {

namespace {

const MachineListSpec buses{"buses", "bus", [] {
                              const auto kinds = bus_sections();
                              return std::vector(kinds.begin(), kinds.end());
                            }};
const MachineListSpec blocks{"blocks", "block", [] { return std::vector{&block_section()}; }};
const MachineListSpec loads{"steady_loads", "other load", [] { return std::vector{&steady_load_section()}; }};

} // namespace

static Registry<MachineListSpec>& registry() {
  static Registry<MachineListSpec> lists(
      [](const MachineListSpec& list) -> std::string_view { return list.id; },
      {&chosen_parts_list(), &buses, &blocks, &loads});
  return lists;
}

std::span<const MachineListSpec* const> machine_lists() { return registry().all(); }
const MachineListSpec* find_machine_list(std::string_view id) { return registry().find(id); }
void register_machine_list(const MachineListSpec& list) { registry().add(list); }

} // namespace fulmox
