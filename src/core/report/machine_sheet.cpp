#include "core/report/machine_sheet.hpp"

#include "core/machine/supply_choice.hpp"
#include "core/quantity/format.hpp"
#include "core/report/worksheet.hpp"

#include <cmath>

namespace fulmox {
namespace {

std::string used(const Limit& limit) {
  return std::isinf(limit.used) ? "∞" : format(limit.used, Kind::share).text();
}

void add_schedule(std::string& out, const MachinePower& machine) {
  constexpr double hour = 3600.0;
  out += "Cycle " + shown(machine.schedule.cycle, Kind::time);
  if (!std::isnan(machine.rate)) out += ", " + significant(machine.rate * hour, 4) + " parts an hour";
  out += ".\n\n| block | axis | from | to | repeats | slack | mean of its axis "
         "|\n|---|---|---|---|---|---|---|\n";
  for (std::size_t b = 0; b < machine.blocks.size(); ++b) {
    const Block& block = machine.blocks[b];
    const PlacedBlock& placed = machine.schedule.blocks[b];
    out += "| " + sheet_cell(block.name) + " | " + sheet_cell(machine.axes[block.axis].name) + " | " +
           shown(placed.start, Kind::time) + " | " + shown(placed.end, Kind::time) + " | " +
           std::to_string(block.repeats) + " | " + shown(placed.slack, Kind::time) + " | " +
           shown(mean_power(machine.axes[block.axis].placed), Kind::power) + " |\n";
  }
  out += "\n";
}

void add_limits(std::string& out, const std::vector<Limit>& limits) {
  if (limits.empty()) return;
  out += "| limit | used | state | demand | capacity | at | rule |\n|---|---|---|---|---|---|---|\n";
  for (const Limit& limit : limits) {
    const bool judged = limit.state != LimitState::not_judged;
    out += "| " + std::string(limit.label) + " | " + (judged ? used(limit) : "–") + " | " +
           std::string(word(limit.state)) + " | " + (judged ? shown(limit.demand, limit.kind) : "–") + " | " +
           (judged ? shown(limit.capacity, limit.kind) : "–") + " | " +
           (limit.moment ? shown(limit.moment->time, Kind::time) : std::string()) + " | " +
           sheet_cell(judged ? limit.rule : std::string(limit.reason)) + " |\n";
  }
  out += "\n";
}

void add_bus(std::string& out, const MachineRun& run, std::size_t b, const Document& document) {
  const BusPower& bus = run.power.buses[b];
  out += "### Bus " + sheet_cell(bus.name) + "\n\nMean " + shown(bus.mean, Kind::power) + ", peak " +
         shown(bus.peak.watts, Kind::power) + " at " + shown(bus.peak.time, Kind::time) +
         ", means over 10 ms " + shown(bus.window_10ms.watts, Kind::power) + ", 0.1 s " +
         shown(bus.window_100ms.watts, Kind::power) + ", 1 s " + shown(bus.window_1s.watts, Kind::power) +
         "; drawn " + shown(bus.drawn, Kind::energy) + ", returned " + shown(bus.returned, Kind::energy) +
         " a cycle; all peaks at once " + shown(bus.worst_peak, Kind::power) + ".\n\n";
  if (!bus.problem.empty() || b >= run.buses.size()) {
    out += "Its voltage cannot be worked out: " + sheet_cell(bus.problem) + "\n\n";
    return;
  }
  const BusState& state = run.buses[b];
  out += state.low->collapsed ? "It collapses at " + shown(state.low->collapsed_at, Kind::time) + ".\n\n"
                              : "From " + shown(state.low->lowest, Kind::voltage) + " at " +
                                    shown(state.low->lowest_at, Kind::time) + " to " +
                                    shown(state.high->highest, Kind::voltage) + " at " +
                                    shown(state.high->highest_at, Kind::time) + ".\n\n";
  add_limits(out, state.limits);
  for (const auto& lines : {supply_schools(run, b, document), brake_ways(run, b, document)})
    for (const std::string& line : lines) out += "- " + sheet_cell(line) + "\n";
  out += "\nTo be told to the installer:\n\n";
  for (const std::string& line : installer_words(run, b)) out += "- " + sheet_cell(line) + "\n";
  out += "\n";
}

} // namespace

std::string machine_sheet(const Document& document, const MachineResult& results) {
  if (document.lists.find("buses")->second.empty() && document.lists.find("blocks")->second.empty())
    return {};
  const MachineRun run = run_machine(document, results);
  std::string out = "## The machine and its supply\n\n";
  if (!run.power.problem.what.empty())
    return out + "The schedule cannot be worked out: " + sheet_cell(run.power.problem.text()) + "\n\n";
  add_schedule(out, run.power);
  for (const Problem& remark : run.power.remarks) out += "- " + sheet_cell(remark.text()) + "\n";
  if (!run.power.remarks.empty()) out += "\n";
  if (run.rate) add_limits(out, {*run.rate});
  for (std::size_t b = 0; b < run.power.buses.size(); ++b) add_bus(out, run, b, document);
  return out;
}

} // namespace fulmox
