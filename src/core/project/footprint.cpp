#include "core/project/footprint.hpp"

#include <unordered_set>

namespace fulmox {
namespace {

template <class F> void each_list(const Axis& axis, const F& f) {
  f(axis.givens);
  for (const ListInfo& list : section_lists()) f(axis.*list.member);
}

class Footprint {
public:
  explicit Footprint(const Document& before) {
    const auto note = [&](const std::vector<Section>& sections) {
      for (const Section& section : sections) shared_.insert(section.content());
    };
    for (const Axis& axis : before.axes) each_list(axis, note);
    for (const auto& [id, sections] : before.lists) note(sections);
  }

  std::size_t of(const std::vector<Section>& now, const std::vector<Section>* before) const {
    std::size_t bytes = 0;
    for (std::size_t i = 0; i < now.size(); ++i) {
      // moved along by an insertion, a form still shares all it holds
      const bool whole = shared_.count(now[i].content()) > 0;
      const Section* partner = whole                                     ? &now[i]
                               : before != nullptr && i < before->size() ? &(*before)[i]
                                                                         : nullptr;
      bytes += partner != nullptr ? now[i].own_size(*partner) : now[i].own_size(Section(now[i].spec()));
    }
    return bytes;
  }

private:
  std::unordered_set<const void*> shared_;
};

std::size_t size_of(const std::map<std::string, std::string>& unknown) {
  std::size_t bytes = 0;
  for (const auto& [name, text] : unknown) bytes += name.capacity() + text.capacity() + 96;
  return bytes;
}

} // namespace

std::size_t own_size(const Document& now, const Document& before) {
  const Footprint footprint(before);
  std::size_t bytes = sizeof(Document) + now.house_rules.own_size(before.house_rules) +
                      now.duty.own_size(before.duty) + now.pace.own_size(before.pace) + size_of(now.unknown);
  for (const auto& [id, sections] : now.lists) {
    const auto partner = before.lists.find(id);
    bytes += footprint.of(sections, partner != before.lists.end() ? &partner->second : nullptr);
  }
  for (std::size_t a = 0; a < now.axes.size(); ++a) {
    const Axis* partner = a < before.axes.size() ? &before.axes[a] : nullptr;
    bytes += sizeof(Axis) + size_of(now.axes[a].unknown);
    bytes += footprint.of(now.axes[a].givens, partner != nullptr ? &partner->givens : nullptr);
    for (const ListInfo& list : section_lists())
      bytes +=
          footprint.of(now.axes[a].*list.member, partner != nullptr ? &(partner->*list.member) : nullptr);
  }
  return bytes;
}

} // namespace fulmox
