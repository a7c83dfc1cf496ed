#include "core/machine/machine_power.hpp"

#include "core/drive/drive.hpp"
#include "core/machine/laid_out.hpp"
#include "core/machine/laid_schedule.hpp"
#include "core/power/alignment.hpp"
#include "core/project/names.hpp"

#include <algorithm>
#include <cmath>
#include <map>

namespace fulmox {
namespace {

bool faulty(const Section& section) { return !faults(section).empty(); }

std::vector<double> segment_ends(const Cycle& cycle) {
  std::vector<double> ends(cycle.facts.size(), 0.0);
  for (const Passage& p : cycle.passages) ends[p.segment] = std::max(ends[p.segment], p.start + p.duration);
  if (!ends.empty()) ends.back() = cycle.duration;
  return ends;
}

class Build {
public:
  Build(const Document& document, const MachineResult& results, const MachinePower* before)
      : document_(document), results_(results), before_(before) {}

  MachinePower run() {
    for (std::size_t i = 0; i < document_.axes.size(); ++i) add_axis(i);
    read_buses();
    lay_schedule(document_, out_);
    if (!out_.problem.what.empty()) return std::move(out_);
    for (AxisPower& axis : out_.axes) lay(axis);
    assign();
    sum_up();
    return std::move(out_);
  }

private:
  void remark(std::string where, std::string what, std::string remedy) {
    out_.remarks.push_back({std::move(where), std::move(what), std::move(remedy)});
  }

  const Evaluation* evaluation(std::size_t i) const {
    return i < results_.size() && results_[i] != nullptr ? results_[i]->evaluation.get() : nullptr;
  }

  /// A model belongs to one state of its axis: as long as it is the same, so is all that follows from it.
  bool keep_known(AxisPower& axis, const Evaluation& e) const {
    if (before_ == nullptr) return false;
    const auto known = std::find_if(before_->axes.begin(), before_->axes.end(),
                                    [&](const AxisPower& other) { return other.model == e.model; });
    if (known == before_->axes.end()) return false;
    axis.model = known->model;
    axis.own = known->own;
    axis.waiting = known->waiting;
    axis.holding = known->holding;
    axis.coil = known->coil;
    axis.segment_ends = known->segment_ends;
    axis.stops = known->stops;
    return true;
  }

  void add_axis(std::size_t i) {
    AxisPower axis;
    axis.name = document_.axes[i].name;
    if (another_axis_called(document_, i, axis.name))
      remark(axis.name, "another axis is called so too; blocks mean the first of them.",
             "Give each a name of its own.");
    const Evaluation* e = evaluation(i);
    if (e != nullptr && keep_known(axis, *e)) {
      // as it was
    } else if (e != nullptr) {
      const AxisModel& model = *e->model;
      axis.model = e->model;
      axis.holding = waiting_power(model, e->demand.holding.torque, Waiting::holding);
      axis.own = power_of(model, e->course);
      const std::string& waiting = document_.axes[i]["surroundings"].text("waiting");
      axis.waiting = waiting_power(model, e->demand.holding.torque,
                                   waiting == "off"      ? Waiting::off
                                   : waiting == "braked" ? Waiting::braked
                                                         : Waiting::holding);
      axis.segment_ends = segment_ends(model.load->cycle);
      if (model.brake.fitted && model.brake.power > 0.0) axis.coil = model.brake.power;
    } else {
      axis.problem = i < results_.size() && results_[i] != nullptr
                         ? results_[i]->problem
                         : Problem{"", "it is being worked out.", ""};
      if (axis.problem.what.empty()) axis.problem.what = "it has no cycle.";
      remark(axis.name, "it counts as idle: " + axis.problem.what, "Give the axis what it lacks.");
    }
    out_.axes.push_back(std::move(axis));
  }

  std::optional<std::size_t> bus_called(const std::string& name) const {
    for (std::size_t i = 0; i < out_.buses.size(); ++i)
      if (out_.buses[i].name == name) return i;
    return std::nullopt;
  }

  void read_buses() {
    for (const Section& section : document_.lists.find("buses")->second) {
      BusPower bus;
      bus.name = section.text("name");
      if (const auto wrong = faults(section); !wrong.empty()) {
        remark(bus.name.empty() ? "Bus" : bus.name, "it is left out: " + wrong.front().what,
               wrong.front().remedy);
        continue;
      }
      auto data = BusData::from(section);
      if (!data) {
        remark(bus.name.empty() ? "Bus" : bus.name, "it is left out: " + data.problem().what,
               data.problem().remedy);
        continue;
      }
      if (bus_called(bus.name)) {
        remark(bus.name, "two buses have this name.", "Give each a name of its own.");
        continue;
      }
      bus.data = *data;
      out_.buses.push_back(std::move(bus));
    }
  }

  void lay(AxisPower& axis) {
    const double period = out_.schedule.cycle;
    axis.placed = laid_out(axis.own, axis.own.pieces.empty() ? 0.0 : axis.waiting, period, out_.blocks,
                           out_.schedule, axis.blocks);
    if (axis.coil <= 0.0) return;
    const auto i = static_cast<std::size_t>(&axis - out_.axes.data());
    const bool closed = document_.axes[i]["surroundings"].text("waiting") != "holding";
    axis.brake = laid_out(coil_power(evaluation(i)->model->load->cycle, axis.coil), closed ? 0.0 : axis.coil,
                          period, out_.blocks, out_.schedule, axis.blocks);
  }

  void assign() {
    for (std::size_t i = 0; i < out_.axes.size(); ++i) {
      AxisPower& axis = out_.axes[i];
      const Section& room = document_.axes[i]["surroundings"];
      const auto on = [&](std::string_view field, std::optional<std::size_t>& bus) {
        const std::string& name = room.text(field);
        if (name.empty()) return;
        bus = bus_called(name);
        if (!bus)
          remark(axis.name, "its bus \"" + name + "\" is not in the machine.", "Choose one of the buses.");
      };
      on("shared_bus", axis.bus);
      on("brake_bus", axis.brake_bus);
      if (room.text("shared_bus").empty() && !out_.buses.empty() && !axis.own.pieces.empty())
        remark(axis.name, "it is on no bus, so no bus carries its power.", "Choose its bus in the overview.");
      if (axis.bus) join(i, out_.buses[*axis.bus]);
      if (!axis.brake_bus) continue;
      if (axis.coil > 0.0)
        out_.buses[*axis.brake_bus].brakes.push_back(i);
      else if (axis.model != nullptr && axis.model->brake.fitted)
        remark(axis.name, "the power of its brake's coil is not told; it is counted as none.",
               "Type it, or ask for it.");
    }
    for (const Section& load : document_.lists.find("steady_loads")->second) add_load(load);
  }

  void join(std::size_t i, BusPower& bus) {
    bus.axes.push_back(i);
    const Evaluation* e = evaluation(i);
    if (e == nullptr) return;
    const Drive& drive = *e->model->drive;
    const std::string& name = out_.axes[i].name;
    if (!std::isnan(drive.capacitance))
      bus.drives += drive.capacitance;
    else
      bus.untold.push_back(name);
    const auto narrow = [&](double value, double& bound, std::string& whose, bool higher) {
      if (std::isnan(value) || (!std::isnan(bound) && (higher ? value <= bound : value >= bound))) return;
      bound = value;
      whose = name;
    };
    out_.axes[i].least_volts = drive.bus_min;
    if (std::isnan(drive.bus_min)) bus.no_under.push_back(name);
    if (std::isnan(drive.overvoltage) && std::isnan(drive.bus_max)) bus.no_over.push_back(name);
    narrow(drive.bus_min, bus.under, bus.under_of, true);
    narrow(drive.overvoltage, bus.over, bus.over_of, false);
    if (std::isnan(drive.overvoltage)) narrow(drive.bus_max, bus.over, bus.over_of, false);
    if (drive.bus_max < bus.data.nominal.supply.highest())
      remark(name, "the bus \"" + bus.name + "\" is set higher than its drive bears.",
             "Put it on another bus or choose another drive.");
  }

  void add_load(const Section& load) {
    const std::string& name = load.text("name");
    const auto bus = bus_called(load.text("bus"));
    if (!bus)
      return remark(name,
                    load.blank("bus") ? "it hangs on no bus."
                                      : "its bus \"" + load.text("bus") + "\" is not in the machine.",
                    "Choose one of the buses.");
    if (faulty(load)) return remark(name, faults(load).front().what, faults(load).front().remedy);
    const double period = out_.schedule.cycle, watts = load.term("power");
    const double from = load.blank("on_at") ? 0.0 : load.term("on_at").value;
    const double length = load.blank("on_for") ? period - from : load.term("on_for").value;
    if (from > period || length > period)
      return remark(name, "it is switched at a time beyond the machine's cycle.", "Type times within it.");
    PowerCurve power = constant_power(watts, period);
    if (!load.blank("on_at") || !load.blank("on_for")) {
      const std::array on{watts}, off{0.0};
      power.pieces = {{0.0, length, Series::through(on)}, {length, period, Series::through(off)}};
      if (period - length < 1e-9) power.pieces.pop_back();
      power.pieces.back().to = period;
      power = delayed(power, from);
    }
    BusPower& on = out_.buses[*bus];
    on.steady =
        on.steady.pieces.empty() ? power : sum_of(std::array<const PowerCurve*, 2>{&on.steady, &power});
    on.steady_watts += watts;
  }

  void sum_up() {
    std::vector<const PowerCurve*> everything;
    for (BusPower& bus : out_.buses) {
      std::vector<const PowerCurve*> parts;
      for (const std::size_t i : bus.axes) parts.push_back(&out_.axes[i].placed);
      for (const std::size_t i : bus.brakes) parts.push_back(&out_.axes[i].brake);
      if (!bus.steady.pieces.empty()) parts.push_back(&bus.steady);
      measure(bus, parts);
      for (const std::string& name : bus.untold)
        remark(name, "its drive's capacitance is not told; it is counted as none.",
               "Type it, or ask for it.");
      if (!(bus.data.own_capacitance + bus.drives > 0.0)) {
        bus.problem = "no capacitance is told, neither of a drive nor on the bus.";
        remark(bus.name, bus.problem, "Type the capacitors on the bus.");
      }
      everything.push_back(&bus.total);
    }
    if (!everything.empty()) out_.all = sum_of(everything);
  }

  void measure(BusPower& bus, const std::vector<const PowerCurve*>& parts) {
    bus.total = parts.empty() ? constant_power(0.0, out_.schedule.cycle) : sum_of(parts);
    bus.mean = mean_power(bus.total);
    bus.rms = rms_power(bus.total);
    bus.drawn = drawn_energy(bus.total);
    bus.returned = returned_energy(bus.total);
    bus.peak = greatest_power(bus.total);
    bus.least = least_power(bus.total);
    bus.half = percentile(bus.total, 0.5);
    bus.often = percentile(bus.total, 0.95);
    bus.nearly = percentile(bus.total, 0.99);
    bus.window_10ms = greatest_window(bus.total, 0.01);
    bus.window_100ms = greatest_window(bus.total, 0.1);
    bus.window_1s = greatest_window(bus.total, 1.0);
    bus.reflected = reflected_energy(bus.total);
    bus.worst_peak = worst_peak(parts);
    for (const PowerCurve* part : parts) bus.each_returned += returned_energy(*part);
  }

  const Document& document_;
  const MachineResult& results_;
  const MachinePower* before_;
  MachinePower out_;
};

} // namespace

MachinePower machine_power(const Document& document, const MachineResult& results,
                           const MachinePower* before) {
  return Build(document, results, before).run();
}

std::optional<double> own_time(const MachinePower& machine, std::size_t axis, double time) {
  for (const std::size_t b : machine.axes[axis].blocks) {
    const PlacedBlock& placed = machine.schedule.blocks[b];
    for (const double t : {time, time + machine.schedule.cycle})
      if (t >= placed.start && t < placed.end) return std::fmod(t - placed.start, machine.blocks[b].length());
  }
  return std::nullopt;
}

} // namespace fulmox
