#include "app/machine/machine_edits.hpp"

#include "app/session/session.hpp"
#include "core/plan/blocks.hpp"
#include "core/plan/buses.hpp"
#include "core/project/names.hpp"
#include "core/quantity/format.hpp"

#include <algorithm>
#include <cmath>

namespace fulmox::app {
namespace {

using Sections = std::vector<Section>;

Sections& list_of(Document& document, std::string_view id) { return document.lists.find(id)->second; }

} // namespace

void set_block_start(Session& session, const MachinePower& machine, std::size_t block, double seconds,
                     const QString& merge_key) {
  constexpr double tick = 1e-3; // s: what is dragged is typed in whole milliseconds
  const double start = std::max(0.0, std::round(seconds / tick) * tick);
  const std::string text = QString::number(start, 'g', 7).toStdString() + " s";
  session.edit("Move block", merge_key, [&](Document& d) {
    Sections& blocks = list_of(d, "blocks");
    if (!machine.implied[block]) return blocks[machine.sections[block]].type("offset", text);
    const std::string& axis = machine.axes[machine.blocks[block].axis].name;
    // while it is dragged it has become a real one already
    const auto known =
        std::find_if(blocks.begin(), blocks.end(), [&](const Section& s) { return s.text("axis") == axis; });
    if (known != blocks.end()) return known->type("offset", text);
    Section made(block_section());
    made.type("axis", axis);
    made.type("offset", text);
    blocks.push_back(std::move(made));
  });
}

void set_bus(Session& session, std::size_t axis, const std::string& field, const std::string& bus) {
  session.edit("Put on bus", "", [&](Document& d) { d.axes.at(axis)["surroundings"].type(field, bus); });
}

void add_bus(Session& session, const SectionSpec& form) {
  session.edit("Add bus", "", [&](Document& d) {
    Sections& buses = list_of(d, "buses");
    Section bus(form);
    double volts = std::nan("");
    for (const Axis& axis : d.axes)
      if (std::isnan(volts)) volts = axis["surroundings"].term("bus");
    if (!std::isnan(volts) && form.id == "regulated") bus.type("volts", format(volts, Kind::voltage).text());
    const std::string wanted = form.id == "mains" ? "Mains" : format(bus.term("volts"), Kind::voltage).text();
    bus.type("name", fresh_name(wanted, [&](const std::string& name) {
               return std::any_of(buses.begin(), buses.end(),
                                  [&](const Section& s) { return s.text("name") == name; });
             }));
    if (buses.empty())
      for (Axis& axis : d.axes) axis["surroundings"].type("shared_bus", bus.text("name"));
    buses.push_back(std::move(bus));
  });
}

void add_block(Session& session, const std::string& axis) {
  session.edit("Add block", "", [&](Document& d) {
    Sections& blocks = list_of(d, "blocks");
    Section block(block_section());
    block.type("axis", axis);
    const auto of_axis = [&](const Section& s) { return s.text("axis") == axis; };
    const auto last = std::find_if(blocks.rbegin(), blocks.rend(), of_axis);
    if (last != blocks.rend()) { // one after the other
      const std::string before = block_name(*last);
      block.type("name", fresh_name(axis + " again", [&](const std::string& name) {
                   return std::any_of(blocks.begin(), blocks.end(),
                                      [&](const Section& s) { return s.text("name") == name; });
                 }));
      block.type("after", before);
    }
    blocks.push_back(std::move(block));
  });
}

void add_load(Session& session, const std::string& bus) {
  session.edit("Add load", "", [&](Document& d) {
    Section load(steady_load_section());
    load.type("bus", bus);
    list_of(d, "steady_loads").push_back(std::move(load));
  });
}

void remove_entry(Session& session, const std::string& list, std::size_t index) {
  session.edit("Remove", "", [&](Document& d) {
    Sections& all = list_of(d, list);
    if (index < all.size()) all.erase(all.begin() + static_cast<std::ptrdiff_t>(index));
  });
}

void copy_axis(Session& session, std::size_t axis) {
  session.edit("Copy axis", "", [&](Document& d) {
    Axis copy = d.axes.at(axis);
    copy.name = fresh_axis_name(d, copy.name);
    d.axes.insert(d.axes.begin() + static_cast<std::ptrdiff_t>(axis) + 1, std::move(copy));
  });
}

void move_axis(Session& session, std::size_t axis, int by) {
  const auto to = static_cast<std::ptrdiff_t>(axis) + by;
  if (to < 0 || to >= static_cast<std::ptrdiff_t>(session.document().axes.size())) return;
  session.edit("Move axis", "",
               [&](Document& d) { std::swap(d.axes[axis], d.axes[static_cast<std::size_t>(to)]); });
}

void take_bus_volts(Session& session, const std::vector<FedVolts>& fed) {
  session.edit("Take bus voltages", "", [&](Document& d) {
    for (std::size_t i = 0; i < d.axes.size() && i < fed.size(); ++i) d.axes[i] = as_fed(d.axes[i], fed[i]);
  });
}

} // namespace fulmox::app
