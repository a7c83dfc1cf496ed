#include "core/drive/drive.hpp"

#include "core/drive/sine_drive.hpp"

#include <algorithm>
#include <vector>

namespace fulmox {

void Drive::read_common(const Section& sheet) {
  continuous_current = sheet.term("continuous_current");
  peak_current = sheet.term("peak_current");
  peak_time = sheet.term("peak_time");
  capacitance = sheet.term("capacitance");
  overvoltage = sheet.term("overvoltage");
  bus_min = sheet.term("bus_min");
  bus_max = sheet.term("bus_max");
  chosen = !sheet.blank("peak_current") || !sheet.blank("continuous_current");
}

namespace {
std::vector<const DriveKind*>& registry() {
  static std::vector<const DriveKind*> all{&sine_drive()};
  return all;
}
} // namespace

std::span<const DriveKind* const> drive_kinds() { return registry(); }

void register_drive(const DriveKind& kind) {
  const auto same = [&](const DriveKind* known) { return known->slot.form->id == kind.slot.form->id; };
  if (std::none_of(registry().begin(), registry().end(), same)) registry().push_back(&kind);
}

std::unique_ptr<const Drive> build_drive(const Section& sheet) {
  for (const DriveKind* kind : registry())
    if (kind->slot.form == &sheet.spec()) return kind->build(sheet);
  return registry().front()->build(sheet);
}

const SlotSpec& drive_slot() {
  static const SlotSpec slot{"drive", "Drive", [] {
                               std::vector<SlotKind> kinds;
                               for (const DriveKind* kind : registry()) kinds.push_back(kind->slot);
                               return kinds;
                             }};
  return slot;
}

} // namespace fulmox
