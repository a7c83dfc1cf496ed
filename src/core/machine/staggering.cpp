#include "core/machine/staggering.hpp"

#include "core/plan/blocks.hpp"

#include <algorithm>
#include <cmath>
#include <cstdio>

namespace fulmox {

StaggerAsked stagger_question(const MachinePower& machine, std::size_t bus, const Document& document) {
  StaggerAsked out;
  const std::string& cycles = document.pace.text("cycles");
  out.pace.cycle = document.pace.term("cycle");
  out.pace.overlapping = cycles == "overlap";
  if (cycles == "free") { // they wrap around what they repeat after
    out.pace.cycle = machine.schedule.cycle;
    out.pace.overlapping = true;
  }
  out.jitter = document.pace.term("jitter");
  out.blocks = machine.blocks;
  const BusPower& on = machine.buses[bus];
  for (const Block& block : machine.blocks) {
    const bool here = std::find(on.axes.begin(), on.axes.end(), block.axis) != on.axes.end();
    const AxisPower& axis = machine.axes[block.axis];
    // an axis of another bus keeps its place and weighs nothing here
    out.powers.push_back(here ? axis.own : constant_power(0.0, block.length()));
    out.waiting.push_back(here ? axis.waiting : 0.0);
    out.moves.push_back(here);
  }
  for (const std::size_t i : on.axes) out.base += machine.axes[i].waiting;
  out.base += on.steady_watts;
  for (const std::size_t i : on.brakes) out.base += machine.axes[i].coil;
  return out;
}

std::vector<StaggerPoint> stagger_front(StaggerAsked asked) {
  std::vector<StaggerPoint> out;
  const auto placed = place(asked.blocks, asked.pace);
  if (!placed) return out;
  for (const double share : {0.0, 0.02, 0.05, 0.1, 0.2}) {
    if (!asked.wanted()) break;
    asked.longer = share * placed->cycle;
    const auto found = stagger(asked);
    if (!found) break;
    // a longer cycle that brings nothing is no point of the front
    if (!out.empty() && found->peak > out.back().found.peak * (1.0 - 1e-3)) continue;
    out.push_back({asked.longer, *found});
  }
  return out;
}

void take_starts(Document& document, const MachinePower& machine, const StaggerAsked& asked,
                 const Staggered& found) {
  std::vector<Section>& blocks = document.lists["blocks"];
  const auto typed = [](double seconds) {
    char text[32];
    std::snprintf(text, sizeof text, "%.4g s", seconds);
    return std::string(text);
  };
  // the document's blocks stand in the order of the machine's, those that are left out aside
  for (std::size_t b = 0; b < machine.blocks.size(); ++b) {
    if (found.offsets[b] == asked.blocks[b].offset) continue;
    if (machine.implied[b]) {
      Section block(block_section());
      block.type("axis", machine.axes[machine.blocks[b].axis].name);
      block.type("offset", typed(found.offsets[b]));
      blocks.push_back(std::move(block));
    } else {
      blocks[machine.sections[b]].type("offset", typed(found.offsets[b]));
    }
  }
  if (asked.longer > 0.0) document.pace.type("cycle", typed(found.cycle));
}

} // namespace fulmox
