#include "cli/machine.hpp"

#include "cli/csv_json.hpp"
#include "cli/input.hpp"
#include "cli/limit_json.hpp"
#include "cli/number_option.hpp"

#include "core/library/catalogue.hpp"
#include "core/machine/machine_run.hpp"
#include "core/machine/staggering.hpp"
#include "core/machine/supply_choice.hpp"
#include "core/quantity/format.hpp"
#include "core/requirements/duty.hpp"
#include "core/support/data_folder.hpp"
#include "core/working/explain.hpp"

#include <CLI/CLI.hpp>
#include <fmt/format.h>
#include <nlohmann/json.hpp>

#include <cmath>
#include <iostream>

namespace fulmox::cli {
namespace {

using Json = nlohmann::ordered_json;

std::string text_of(const Limit& limit) {
  if (limit.state == LimitState::not_judged)
    return fmt::format("  {:<22} not judged: {}\n", limit.label, limit.reason);
  return fmt::format("  {:<22} {:>7} {:<6} {} of {}{}\n", limit.label,
                     std::isfinite(limit.used) ? fmt::format("{:.0f} %", 100.0 * limit.used) : "∞",
                     word(limit.state), shown(limit.demand, limit.kind), shown(limit.capacity, limit.kind),
                     limit.moment ? " at " + shown(limit.moment->time, Kind::time) : "");
}

Json at(const PowerAt& power) { return {{"power", power.watts}, {"time", power.time}}; }

Json schedule_json(const MachinePower& m) {
  Json blocks = Json::array();
  for (std::size_t i = 0; i < m.blocks.size(); ++i)
    blocks.push_back({{"name", m.blocks[i].name},
                      {"axis", m.axes[m.blocks[i].axis].name},
                      {"start", m.schedule.blocks[i].start},
                      {"end", m.schedule.blocks[i].end},
                      {"repeats", m.blocks[i].repeats},
                      {"slack", m.schedule.blocks[i].slack}});
  return {{"cycle", m.schedule.cycle},
          {"shortest", m.schedule.shortest},
          {"parts_per_hour", number(3600.0 * m.rate)},
          {"blocks", std::move(blocks)}};
}

/// `working`: each limit with how it came about.
Json bus_json(const MachineRun& run, std::size_t i, bool working, UnitSet units) {
  const BusPower& p = run.power.buses[i];
  Json axes = Json::array();
  for (const std::size_t a : p.axes) axes.push_back(run.power.axes[a].name);
  Json out{{"name", p.name},
           {"axes", std::move(axes)},
           {"mean", p.mean},
           {"rms", p.rms},
           {"peak", at(p.peak)},
           {"percentile_50", p.half},
           {"percentile_95", p.often},
           {"percentile_99", p.nearly},
           {"window_10ms", at(p.window_10ms)},
           {"window_100ms", at(p.window_100ms)},
           {"window_1s", at(p.window_1s)},
           {"drawn", p.drawn},
           {"returned", p.returned},
           {"returned_each_alone", p.each_returned},
           {"reflected", number(p.reflected.greatest)},
           {"worst_peak", p.worst_peak}};
  if (!p.problem.empty()) {
    out["problem"] = p.problem;
    return out;
  }
  const BusState& s = run.buses[i];
  out["worst_returned"] = number(s.worst_returned);
  out["collapsed"] = s.low->collapsed;
  if (s.low->collapsed) out["collapsed_at"] = s.low->collapsed_at;
  out["lowest"] = {{"volts", s.low->lowest}, {"time", s.low->lowest_at}};
  out["highest"] = {{"volts", s.high->highest}, {"time", s.high->highest_at}};
  out["supplied"] = s.nominal->supplied;
  out["burnt"] = s.nominal->burnt;
  out["balance"] = s.nominal->balance;
  out["settled"] = s.nominal->settled;
  out["greatest_current"] = s.low->most_current;
  out["ride_through"] = number(s.ride);
  if (s.stop)
    out["stop"] = {
        {"ramps", s.stop->slowing},    {"returned", s.stop->returned}, {"returned_at_once", s.stop->pushed},
        {"unnoticed", s.stop->notice}, {"ramp", s.stop->ramp},         {"brakes", s.stop->brake}};
  if (s.start)
    out["starts"] = {{"up", s.start->up}, {"time", number(s.start->up_at)}, {"trips", s.start->trips}};
  Json limits = Json::array();
  for (const Limit& limit : s.limits) {
    limits.push_back(limit_json(limit));
    if (working && !limit.step.empty()) limits.back()["working"] = explain(s.steps, limit.step, units);
  }
  out["limits"] = std::move(limits);
  return out;
}

std::string bus_text(const MachineRun& run, std::size_t i, bool working, UnitSet units) {
  const BusPower& p = run.power.buses[i];
  std::string out = fmt::format(
      "\nBus {}\n  mean {}, peak {} at {}, 95 % below {}, 10 ms {}, 0.1 s {}, 1 s {}\n  drawn {}, returned "
      "{} a "
      "cycle; worst alignment {}\n",
      p.name, shown(p.mean, Kind::power), shown(p.peak.watts, Kind::power), shown(p.peak.time, Kind::time),
      shown(p.often, Kind::power), shown(p.window_10ms.watts, Kind::power),
      shown(p.window_100ms.watts, Kind::power), shown(p.window_1s.watts, Kind::power),
      shown(p.drawn, Kind::energy), shown(p.returned, Kind::energy), shown(p.worst_peak, Kind::power));
  if (!p.problem.empty()) return out + "  its voltage cannot be worked out: " + p.problem + "\n";
  const BusState& s = run.buses[i];
  if (s.low->collapsed)
    out += fmt::format("  collapses at {}\n", shown(s.low->collapsed_at, Kind::time));
  else
    out += fmt::format("  {} at {} to {} at {}; out of the supply {} on the mean, resistor {}\n",
                       shown(s.low->lowest, Kind::voltage), shown(s.low->lowest_at, Kind::time),
                       shown(s.high->highest, Kind::voltage), shown(s.high->highest_at, Kind::time),
                       shown(s.supplied_watts, Kind::power),
                       shown(s.nominal->burnt / run.power.schedule.cycle, Kind::power));
  for (const Limit& limit : s.limits) {
    out += text_of(limit);
    if (working && !limit.step.empty()) out += explain(s.steps, limit.step, units) + "\n";
  }
  return out;
}

Json trial_json(const SupplyTrial& t) {
  return {{"title", t.title},       {"part", t.part},   {"fits", t.fits},
          {"used", number(t.used)}, {"worst", t.worst}, {"reasons", t.reasons}};
}

Json stagger_json(const std::vector<StaggerPoint>& front, const StaggerAsked& asked) {
  Json out = Json::array();
  for (const StaggerPoint& point : front) {
    Json starts = Json::object();
    for (std::size_t b = 0; b < asked.blocks.size(); ++b)
      starts[asked.blocks[b].name] = point.found.offsets[b];
    out.push_back({{"cycle", point.found.cycle},
                   {"before", point.found.before},
                   {"peak", point.found.peak},
                   {"with_jitter", point.found.with_jitter},
                   {"bound", point.found.bound},
                   {"starts", std::move(starts)}});
  }
  return out;
}

std::string stagger_text(const std::vector<StaggerPoint>& front, const StaggerAsked& asked) {
  std::string out;
  for (const StaggerPoint& point : front) {
    out += fmt::format("  cycle {}: peak {} → {}, {} if starts vary by {}; none below {}\n",
                       shown(point.found.cycle, Kind::time), shown(point.found.before, Kind::power),
                       shown(point.found.peak, Kind::power), shown(point.found.with_jitter, Kind::power),
                       shown(asked.jitter, Kind::time), shown(point.found.bound, Kind::power));
    for (std::size_t b = 0; b < asked.blocks.size(); ++b)
      if (point.found.offsets[b] != asked.blocks[b].offset)
        out +=
            fmt::format("    {}: start {} instead of {}\n", asked.blocks[b].name,
                        shown(point.found.offsets[b], Kind::time), shown(asked.blocks[b].offset, Kind::time));
  }
  return out;
}

Expected<std::string> machine_report(const Document& document, const MachineOptions& asked) {
  const MachineRun run = run_machine(document, evaluate(document));
  if (!run.power.problem.what.empty()) return run.power.problem;
  Json root{{"schedule", schedule_json(run.power)}, {"buses", Json::array()}, {"remarks", Json::array()}};
  std::string text =
      fmt::format("Machine cycle {}, {} parts an hour\n", shown(run.power.schedule.cycle, Kind::time),
                  std::isnan(run.power.rate) ? "–" : significant(3600.0 * run.power.rate));
  for (std::size_t i = 0; i < run.power.blocks.size(); ++i) {
    const PlacedBlock& placed = run.power.schedule.blocks[i];
    text += fmt::format("  {:<20} {} to {}, slack {}\n", run.power.blocks[i].name,
                        shown(placed.start, Kind::time), shown(placed.end, Kind::time),
                        shown(placed.slack, Kind::time));
  }
  for (const Problem& remark : run.power.remarks) {
    root["remarks"].push_back(remark.text());
    text += "  " + remark.text() + "\n";
  }
  if (run.rate) {
    root["rate"] = limit_json(*run.rate);
    text += text_of(*run.rate);
  }
  Library library;
  if (asked.supplies) {
    auto loaded = load_library(data_folder() / "library");
    if (!loaded) return loaded.problem();
    library = *std::move(loaded);
  }
  for (std::size_t i = 0; i < run.power.buses.size(); ++i) {
    Json bus = bus_json(run, i, asked.working, document.units);
    text += bus_text(run, i, asked.working, document.units);
    if (asked.stagger && !run.power.buses[i].axes.empty()) {
      StaggerAsked question = stagger_question(run.power, i, document);
      question.count_on_returns = asked.count_on_returns;
      const auto front = stagger_front(question);
      bus["stagger"] = stagger_json(front, question);
      text += stagger_text(front, question);
    }
    if (asked.supplies && run.power.buses[i].problem.empty()) {
      Json trials = Json::array();
      for (const SupplyTrial& t : supply_trials(run, i, document, library)) {
        trials.push_back(trial_json(t));
        text += fmt::format("  {} {}\n", t.fits ? "fits " : "fails", t.title);
        for (const std::string& reason : t.reasons) text += "      " + reason + "\n";
      }
      bus["supplies"] = std::move(trials);
      for (const auto& [id, lines] : {std::pair{"schools", supply_schools(run, i, document)},
                                      std::pair{"braking", brake_ways(run, i, document)},
                                      std::pair{"installer", installer_words(run, i)}}) {
        bus[id] = lines;
        for (const std::string& line : lines) text += "  " + line + "\n";
      }
    }
    root["buses"].push_back(std::move(bus));
  }
  return asked.json ? root.dump(2) + "\n" : text;
}

Expected<std::string> bus_csv(const Document& document, const std::string& name, double step) {
  const MachineRun run = run_machine(document, evaluate(document));
  if (!run.power.problem.what.empty()) return run.power.problem;
  for (std::size_t i = 0; i < run.power.buses.size(); ++i) {
    const BusPower& bus = run.power.buses[i];
    if (bus.name != name && !(name.empty() && run.power.buses.size() == 1)) continue;
    if (!bus.problem.empty()) return Problem{bus.name, bus.problem, "Type what is missing."};
    constexpr double most_lines = 1e6;
    const double count = std::floor(run.power.schedule.cycle / step + 1e-9);
    if (count > most_lines)
      return Problem{"--step", "that makes more than a million lines.", "Take a longer step."};
    const BusState& state = run.buses[i];
    std::string out = "time [s],power [W],low [V],nominal [V],high [V]\n";
    for (int k = 0; k <= static_cast<int>(count); ++k) {
      const double t = std::min(k * step, run.power.schedule.cycle * (1.0 - 1e-12));
      out += fmt::format("{:.6g},{:.6g},{:.6g},{:.6g},{:.6g}\n", k * step, bus.total.at(t),
                         state.low->volts_at(t), state.nominal->volts_at(t), state.high->volts_at(t));
    }
    return out;
  }
  std::string names;
  for (const BusPower& bus : run.power.buses) names += (names.empty() ? "" : ", ") + bus.name;
  return Problem{"--bus", name.empty() ? "which bus?" : "there is no bus \"" + name + "\".",
                 names.empty() ? "The machine has no bus yet." : "Buses: " + names + "."};
}

} // namespace

CLI::App* machine_options(CLI::App& app, MachineOptions& o) {
  auto* command = app.add_subcommand("machine", "All axes together: schedule, power, buses, limits");
  command->add_option("FILE", o.file, "A .fulmox machine")->required();
  command->add_flag("--supplies", o.supplies, "Also kinds of supply and those of the library on every bus");
  command->add_flag("--stagger", o.stagger, "Also the starts with the least peak on every bus");
  command->add_flag("--count-on-returns", o.count_on_returns, "There: braking of one axis feeds another");
  command->add_flag("--working", o.working, "Every limit of a bus with how it came about");
  command->add_flag("--json", o.json, "Print JSON");
  return command;
}

int machine_command(const MachineOptions& o) {
  const auto document = load_document(o.file);
  if (!document) return fail(document.problem());
  if (const auto wrong = machine_faults(*document); !wrong.empty()) return fail(wrong.front());
  const auto told = machine_report(*document, o);
  if (!told) return fail(told.problem());
  std::cout << *told;
  return good;
}

CLI::App* bus_options(CLI::App& app, BusOptions& o) {
  auto* command = app.add_subcommand("bus", "Power and voltage of a bus over the machine's cycle, as CSV");
  command->add_option("FILE", o.file, "A .fulmox machine")->required();
  command->add_option("--bus", o.bus, "Its name; the only one without it");
  command->add_option("--step", o.step, "Seconds between rows, 0.001 without it")
      ->check(number_from(1e-6, 1e6));
  command->add_flag("--json", o.json, "Print JSON");
  return command;
}

int bus_command(const BusOptions& o) {
  const auto document = load_document(o.file);
  if (!document) return fail(document.problem());
  if (const auto wrong = machine_faults(*document); !wrong.empty()) return fail(wrong.front());
  const auto told = bus_csv(*document, o.bus, o.step);
  if (!told) return fail(told.problem());
  print_table([&](const TextSink& to) { to(*told); }, o.json);
  return good;
}

} // namespace fulmox::cli
