#include "core/project/merging.hpp"

#include "core/project/names.hpp"

#include <algorithm>
#include <map>

namespace fulmox {
namespace {

using NewNames = std::map<std::string, std::string>; // there → here

/// Blocks with names of their own keep those where they are free; who waits for them follows, and who waits
/// for a block that is called by its axis follows the axis.
void take_blocks(Document& into, const Document& from, const NewNames& axes) {
  std::vector<Section>& here = into.lists.find("blocks")->second;
  std::vector<Section> taken = from.lists.find("blocks")->second;
  NewNames blocks = axes;
  const auto known = [&](const std::string& name) {
    const auto called = [&](const Section& block) { return block_name(block) == name; };
    return std::any_of(here.begin(), here.end(), called) || std::any_of(taken.begin(), taken.end(), called) ||
           std::any_of(into.axes.begin(), into.axes.end(),
                       [&](const Axis& axis) { return axis.name == name; });
  };
  for (Section& block : taken) {
    const std::string before = block_name(block);
    if (const auto axis = axes.find(block.text("axis")); axis != axes.end()) block.type("axis", axis->second);
    if (!block.blank("name")) {
      block.type("name", ""); // it may keep its own
      block.type("name", fresh_name(before, known));
    }
    blocks[before] = block_name(block);
  }
  for (Section& block : taken)
    for (const std::string_view field : {"after", "also_after"})
      if (const auto found = blocks.find(block.text(field)); found != blocks.end())
        block.type(field, found->second);
  here.insert(here.end(), taken.begin(), taken.end());
}

} // namespace

void take_axes(Document& into, const Document& from) {
  NewNames named;
  for (Axis axis : from.axes) {
    const std::string name = fresh_axis_name(into, axis.name);
    named[axis.name] = name;
    axis.name = name;
    into.axes.push_back(std::move(axis));
  }
  take_blocks(into, from, named);
  for (const std::string_view list : {"buses", "steady_loads"})
    for (const Section& section : from.lists.find(list)->second) {
      std::vector<Section>& here = into.lists.find(list)->second;
      const bool known = std::any_of(
          here.begin(), here.end(), [&](const Section& s) { return s.text("name") == section.text("name"); });
      if (!known) here.push_back(section);
    }
}

} // namespace fulmox
