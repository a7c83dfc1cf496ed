#include "core/library/part_library.hpp"

#include "core/project/slots.hpp"

#include <algorithm>

namespace fulmox {

std::vector<const SlotSpec*> axis_part_slots() {
  std::vector<const SlotSpec*> all;
  for (const SlotSpec* slot : axis_slots())
    if (!slot->kinds().front().library.empty()) all.push_back(slot);
  return all;
}

std::vector<const SlotSpec*> part_slots() {
  std::vector<const SlotSpec*> all = axis_part_slots();
  all.insert(all.end(), machine_slots().begin(), machine_slots().end());
  return all;
}

const SlotSpec* find_part_slot(std::string_view id) {
  for (const SlotSpec* slot : part_slots())
    if (slot->id == id) return slot;
  return nullptr;
}

const Parts& Library::of(std::string_view slot) const {
  static const Parts none;
  const auto found = parts_.find(slot);
  return found != parts_.end() ? found->second : none;
}

const Section* Library::find(std::string_view slot, std::string_view part_number) const {
  for (const Section& part : of(slot))
    if (part.text("part_number") == part_number) return &part;
  return nullptr;
}

void Library::add(std::string_view slot, Parts parts) {
  Parts& all = parts_[std::string(slot)];
  all.insert(all.end(), std::make_move_iterator(parts.begin()), std::make_move_iterator(parts.end()));
}

std::vector<Problem> part_faults(std::string_view slot, const Section& part) {
  std::vector<Problem> all;
  for (std::size_t i = 0; i < part.size(); ++i) {
    const Entry& entry = part.entry(i);
    if (part.field(i).setting || !entry.faulty()) continue;
    all.push_back(
        {std::string(slot) + "." + std::string(part.field(i).id), entry.fault.what, entry.fault.remedy});
  }
  const SlotSpec* of = find_part_slot(slot);
  if (const SlotKind kind = of != nullptr ? kind_in(*of, part) : SlotKind{}; kind.check != nullptr)
    for (Problem& problem : kind.check(part)) all.push_back(std::move(problem));
  return all;
}

void choose_part(Axis& axis, std::string_view slot, const Section& part) {
  Section& place = axis[slot];
  const auto unknown = place.unknown;
  const Section before = place;
  place = part;
  place.path = slot;
  for (std::size_t i = 0; i < place.size(); ++i) {
    const FieldSpec& field = place.field(i);
    if (field.setting && before.has(field.id)) place.put(i, before.entry(field.id));
  }
  const SlotSpec* of = find_part_slot(slot);
  if (const SlotKind kind = of != nullptr ? kind_in(*of, place) : SlotKind{}; kind.settle != nullptr)
    kind.settle(place);
  place.unknown = unknown;
}

} // namespace fulmox
