#pragma once
#include "core/motion/segments.hpp"
#include "core/project/document.hpp"

// Machines of many axes, for measuring.

namespace fulmox::bench {

/// The demo's picker so often, each with a hundred moves and dwells.
inline Document large(const Document& demo, std::size_t axes, int segments) {
  Document d = demo;
  d.lists.find("blocks")->second.clear();
  Axis axis = demo.axes.front();
  const std::vector<Section> once = axis.cycle; // four: down, wait, up, wait
  axis.cycle.clear();
  for (int i = 0; i < segments; ++i) axis.cycle.push_back(once[static_cast<std::size_t>(i) % once.size()]);
  d.axes.assign(axes, axis);
  for (std::size_t i = 0; i < axes; ++i) d.axes[i].name = "Axis " + std::to_string(i + 1);
  number_sections(d);
  return d;
}

/// Eight axes of two hundred segments on one regulated bus, without a controlled stop.
inline Document eight_long_axes(const Document& demo) {
  constexpr std::size_t axes = 8;
  constexpr int segments = 200;
  Document d = demo;
  std::vector<Section>& buses = d.lists.find("buses")->second;
  buses.erase(buses.begin() + 1, buses.end());
  d = large(d, axes, segments);
  d.lists.find("buses")->second.front().type("limit", "100 A");
  d.pace.type("stop_ramp", "");
  return d;
}

} // namespace fulmox::bench
