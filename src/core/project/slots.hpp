#pragma once
#include "core/form/slot.hpp"

#include <optional>
#include <span>

namespace fulmox {

/// The slots of every axis, in the order of the work.
std::span<const SlotSpec* const> axis_slots();
const SlotSpec* find_slot(std::string_view id);
/// What the machine itself is made of, beside its axes, and a library may hold: supplies of its buses.
std::span<const SlotSpec* const> machine_slots();
/// Its place among axis_slots(); std::out_of_range when there is none: a mistake of the program, not of the
/// user.
std::size_t slot_index(std::string_view id);
/// Adds one; to be called before the first axis is made. What is already there stays.
void register_slot(const SlotSpec& slot);

} // namespace fulmox
