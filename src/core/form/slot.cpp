#include "core/form/slot.hpp"

namespace fulmox {

SlotKind kind_in(const SlotSpec& slot, const Section& section) {
  const auto kinds = slot.kinds();
  for (const SlotKind& kind : kinds)
    if (kind.form == &section.spec()) return kind;
  return kinds.front();
}

bool names_kind(const SlotSpec& slot, const Section& section) {
  return slot.chosen_by == ChosenBy::list ||
         (slot.chosen_by == ChosenBy::part && slot.kinds().front().form != &section.spec());
}

std::string summary_of_fields(const Section& section, const std::vector<std::string_view>& fields) {
  std::string told;
  for (const std::string_view field : fields) {
    if (!section.has(field) || section.blank(field)) continue;
    told += (told.empty() ? "" : " · ") + section.text(field);
  }
  return told;
}

std::string part_summary(const Section& section) {
  if (!section.blank("part_number")) return section.text("part_number");
  return section.all_blank() ? "not chosen" : "own data";
}

} // namespace fulmox
