#include "core/project/merging.hpp"

#include "core/project/names.hpp"

#include <algorithm>
#include <map>

namespace fulmox {

void take_axes(Document& into, const Document& from) {
  std::map<std::string, std::string> named; // there → here
  for (Axis axis : from.axes) {
    const std::string name = fresh_axis_name(into, axis.name);
    named[axis.name] = name;
    axis.name = name;
    into.axes.push_back(std::move(axis));
  }
  std::vector<Section>& blocks = into.lists.find("blocks")->second;
  for (Section block : from.lists.find("blocks")->second) {
    const auto rename = [&](std::string_view field) {
      if (const auto found = named.find(block.text(field)); found != named.end())
        block.type(field, found->second);
    };
    for (const std::string_view field : {"axis", "after", "also_after"}) rename(field);
    blocks.push_back(std::move(block));
  }
  for (const std::string_view list : {"buses", "steady_loads"})
    for (const Section& section : from.lists.find(list)->second) {
      std::vector<Section>& here = into.lists.find(list)->second;
      const bool known = std::any_of(
          here.begin(), here.end(), [&](const Section& s) { return s.text("name") == section.text("name"); });
      if (!known) here.push_back(section);
    }
}

} // namespace fulmox
