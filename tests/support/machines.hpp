#pragma once
#include "core/machine/machine_run.hpp"
#include "support/axes.hpp"

#include <algorithm>

namespace fulmox::testing {

inline Section& bus_of(Document& d, std::size_t i = 0) { return d.lists.find("buses")->second.at(i); }
inline std::vector<Section>& blocks_of(Document& d) { return d.lists.find("blocks")->second; }

inline MachineRun run_of(const Document& d) { return run_machine(d, evaluate(d)); }

inline const Limit* limit_of(const MachineRun& run, std::size_t bus, std::string_view id) {
  for (const Limit& limit : run.buses.at(bus).limits)
    if (limit.id == id) return &limit;
  return nullptr;
}

inline bool remarked(const MachineRun& run, const std::string& text) {
  return std::any_of(run.power.remarks.begin(), run.power.remarks.end(),
                     [&](const Problem& p) { return p.text().find(text) != std::string::npos; });
}

/// A controlled stop asked of a machine: `whole` from the loss of the mains, of it `ramp` slowing down.
inline void ask_for_stop(Document& d, std::string_view whole, std::string_view ramp) {
  d.pace.type("stop_time", whole);
  d.pace.type("stop_ramp", ramp);
}

/// The demo's picker alone on a bus of 48 V, running on and on.
inline Document one_axis() {
  Document d = demo();
  d.axes.resize(1);
  blocks_of(d).clear();
  d.lists.find("steady_loads")->second.clear();
  std::vector<Section>& buses = d.lists.find("buses")->second;
  buses.erase(buses.begin() + 1, buses.end());
  d.pace.type("rate", "");
  d.axes[0]["surroundings"].type("brake_bus", "");
  return d;
}

} // namespace fulmox::testing
