#include "core/project/slots.hpp"

#include "core/brake/brake.hpp"
#include "core/coupling/coupling.hpp"
#include "core/drive/drive.hpp"
#include "core/gearhead/gearhead.hpp"
#include "core/mechanism/mechanism.hpp"
#include "core/motor/motor.hpp"
#include "core/plan/supply_parts.hpp"
#include "core/requirements/requirements.hpp"
#include "core/supply/surroundings.hpp"
#include "core/support/registry.hpp"

#include <array>
#include <stdexcept>

namespace fulmox {

static Registry<SlotSpec>& registry() {
  static Registry<SlotSpec> slots([](const SlotSpec& slot) { return slot.id; },
                                  {&load_slot(), &mechanism_slot(), &surroundings_slot(),
                                   &requirements_slot(), &gearhead_slot(), &motor_slot(), &coupling_slot(),
                                   &brake_slot(), &drive_slot()});
  return slots;
}

std::span<const SlotSpec* const> axis_slots() { return registry().all(); }
std::span<const SlotSpec* const> machine_slots() {
  static const std::array slots{&bus_supply_slot()};
  return slots;
}

const SlotSpec* find_slot(std::string_view id) { return registry().find(id); }
void register_slot(const SlotSpec& slot) { registry().add(slot); }

std::size_t slot_index(std::string_view id) {
  const auto all = axis_slots();
  for (std::size_t i = 0; i < all.size(); ++i)
    if (all[i]->id == id) return i;
  throw std::out_of_range("no slot " + std::string(id));
}

} // namespace fulmox
