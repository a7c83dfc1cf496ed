#include "confirm.hpp"

namespace fulmox::tools {
namespace {

void confirm(Section& section) {
  for (std::size_t i = 0; i < section.size(); ++i) {
    Entry entry = section.entry(i);
    if (entry != preset_of(section.spec(), section.field(i))) continue;
    entry.origin = Origin::given;
    section.put(i, std::move(entry));
  }
}

void confirm(std::vector<Section>& sections) {
  for (Section& section : sections) confirm(section);
}

} // namespace

void confirm(Document& document) {
  confirm(document.duty);
  confirm(document.pace);
  for (auto& [id, sections] : document.lists) confirm(sections);
  for (Axis& axis : document.axes) {
    confirm(axis.givens);
    for (const ListInfo& list : section_lists()) confirm(axis.*list.member);
  }
}

} // namespace fulmox::tools
