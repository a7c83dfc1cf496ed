#include "core/project/names.hpp"

#include <algorithm>
#include <set>
#include <utility>

namespace fulmox {
namespace {

std::vector<Section>& list_called(Document& document, std::string_view id) {
  return document.lists.find(id)->second;
}

bool any_block_called(const Document& document, const std::string& name) {
  const std::vector<Section>& blocks = document.lists.find("blocks")->second;
  return std::any_of(blocks.begin(), blocks.end(),
                     [&](const Section& block) { return block_name(block) == name; });
}

/// Blocks that wait for what was called so wait for what is called otherwise now; not where a block still is
/// called so.
void follow(Document& document, const std::string& before, const std::string& now) {
  if (before.empty() || now.empty() || any_block_called(document, before)) return;
  for (Section& block : list_called(document, "blocks"))
    for (const std::string_view field : {"after", "also_after"})
      if (block.text(field) == before) block.type(field, now);
}

} // namespace

std::string fresh_name(const std::string& wanted, const std::function<bool(const std::string&)>& taken) {
  std::string name = wanted;
  for (int n = 2; taken(name); ++n) name = wanted + " " + std::to_string(n);
  return name;
}

std::string fresh_axis_name(const Document& document, const std::string& wanted) {
  return fresh_name(wanted, [&](const std::string& name) {
    return another_axis_called(document, document.axes.size(), name);
  });
}

const std::string& block_name(const Section& block) {
  return block.blank("name") ? block.text("axis") : block.text("name");
}

bool another_axis_called(const Document& document, std::size_t axis, const std::string& name) {
  for (std::size_t i = 0; i < document.axes.size(); ++i)
    if (i != axis && document.axes[i].name == name) return true;
  return false;
}

void rename_axis(Document& document, std::size_t axis, const std::string& name) {
  const std::string before = std::exchange(document.axes[axis].name, name);
  // nobody speaks of one without a name, and where two share it, the other may be meant
  if (before.empty() || name.empty() || another_axis_called(document, axis, before)) return;
  for (auto& [id, sections] : document.lists)
    for (Section& section : sections)
      if (section.has("axis") && section.text("axis") == before) section.type("axis", name);
  // its blocks that have no name of their own are called otherwise now, also one that goes without saying
  const std::vector<Section>& blocks = list_called(document, "blocks");
  const bool another_is = std::any_of(blocks.begin(), blocks.end(),
                                      [&](const Section& block) { return block.text("name") == name; });
  if (!another_is) follow(document, before, name); // else they would wait for that one
}

void remove_axis(Document& document, std::size_t axis) {
  const std::string name = document.axes.at(axis).name;
  if (!another_axis_called(document, axis, name))
    std::erase_if(list_called(document, "blocks"),
                  [&](const Section& block) { return block.text("axis") == name; });
  document.axes.erase(document.axes.begin() + static_cast<std::ptrdiff_t>(axis));
}

namespace {

/// Calls `of(section, field)` for all that hangs on a bus by its name.
template <class Of> void each_on_bus(Document& document, const Of& of) {
  for (Section& load : list_called(document, "steady_loads")) of(load, "bus");
  for (Axis& axis : document.axes)
    for (const std::string_view field : {"shared_bus", "brake_bus"}) of(axis["surroundings"], field);
}

/// The one name that is spoken of and that no bus has; "" where there is none, or several.
std::string orphaned_bus_name(Document& document) {
  std::set<std::string> names;
  each_on_bus(document, [&](const Section& section, std::string_view field) {
    if (!section.blank(field) && !bus_exists(document, section.text(field)))
      names.insert(section.text(field));
  });
  return names.size() == 1 ? *names.begin() : std::string();
}

} // namespace

void rename_bus(Document& document, std::size_t bus, const std::string& name) {
  std::vector<Section>& buses = list_called(document, "buses");
  std::string before = buses.at(bus).text("name");
  const auto another_called = [&](const std::string& wanted) {
    for (std::size_t i = 0; i < buses.size(); ++i)
      if (i != bus && buses[i].text("name") == wanted) return true;
    return false;
  };
  // its name was cleared on the way to another one
  if (before.empty() && !another_called("")) before = orphaned_bus_name(document);
  const std::string now = name.empty() ? name : fresh_name(name, another_called);
  buses[bus].type("name", now);
  // nobody speaks of one without a name, and where two share it, the other may be meant
  if (before.empty() || now.empty() || another_called(before)) return;
  each_on_bus(document, [&](Section& section, std::string_view field) {
    if (section.text(field) == before) section.type(field, now);
  });
}

void change_block(Document& document, std::size_t block, std::size_t field, Entry entry) {
  const std::vector<Section>& blocks = list_called(document, "blocks");
  Section& changed = list_called(document, "blocks").at(block);
  const auto another_called = [&](const std::string& name) {
    return std::any_of(blocks.begin(), blocks.end(),
                       [&](const Section& other) { return &other != &changed && block_name(other) == name; });
  };
  const std::string before = block_name(changed);
  if (changed.field(field).id == "name" && !entry.blank())
    entry = make_entry(changed.field(field), fresh_name(entry.text, [&](const std::string& name) {
                         return another_called(name) ||
                                (name != changed.text("axis") &&
                                 another_axis_called(document, document.axes.size(), name));
                       }));
  changed.put(field, std::move(entry));
  const std::string now = block_name(changed);
  if (!another_called(now)) follow(document, before, now); // else they would wait for the other
}

bool bus_exists(const Document& document, const std::string& name) {
  const std::vector<Section>& buses = document.lists.find("buses")->second;
  return std::any_of(buses.begin(), buses.end(),
                     [&](const Section& bus) { return bus.text("name") == name; });
}

namespace {

std::optional<Problem> bus_fault(const Document& document, const std::string& where, const Section& section,
                                 std::string_view field) {
  if (section.blank(field) || bus_exists(document, section.text(field))) return std::nullopt;
  return Problem{where + "." + std::string(field),
                 "no bus is called \"" + section.text(field) + "\", so nothing judges its supply.",
                 "Name one of the machine's buses, or leave it blank."};
}

} // namespace

std::vector<Problem> bus_faults(const Document& document, std::size_t axis) {
  std::vector<Problem> all;
  const std::string where = "axes[" + std::to_string(axis) + "].surroundings";
  for (const std::string_view field : {"shared_bus", "brake_bus"})
    if (auto fault = bus_fault(document, where, document.axes[axis]["surroundings"], field))
      all.push_back(std::move(*fault));
  return all;
}

std::vector<Problem> name_faults(const Document& document) {
  std::vector<Problem> all;
  std::set<std::string> seen;
  const auto look_at = [&](const std::string& where, const std::string& what, const std::string& name) {
    if (name.empty())
      all.push_back({where, "the " + what + " has no name.", "Give it one of its own."});
    else if (!seen.insert(name).second)
      all.push_back(
          {where, "another " + what + " is called \"" + name + "\" too.", "Give each a name of its own."});
  };
  for (std::size_t i = 0; i < document.axes.size(); ++i)
    look_at("axes[" + std::to_string(i) + "].name", "axis", document.axes[i].name);
  seen.clear();
  for (const Section& bus : document.lists.find("buses")->second)
    look_at(bus.path + ".name", "bus", bus.text("name"));
  for (std::size_t i = 0; i < document.axes.size(); ++i)
    for (Problem& fault : bus_faults(document, i)) all.push_back(std::move(fault));
  for (const Section& load : document.lists.find("steady_loads")->second)
    if (auto fault = bus_fault(document, load.path, load, "bus")) all.push_back(std::move(*fault));
  return all;
}

} // namespace fulmox
