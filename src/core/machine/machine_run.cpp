#include "core/machine/machine_run.hpp"

#include "core/machine/bus_limits.hpp"

#include <algorithm>
#include <cmath>

namespace fulmox {
namespace {

std::optional<Limit> rate_limit(const MachineRun& run, const Document& document, Recorder& recorder) {
  const double wanted = document.pace.term("rate");
  if (std::isnan(wanted) || std::isnan(run.power.rate) || run.power.schedule.cycle <= 0.0)
    return std::nullopt;
  constexpr double hour = 3600.0;
  Limit limit;
  limit.id = "machine.rate";
  limit.label = "Parts an hour";
  limit.demand = wanted;
  limit.capacity = run.power.rate * hour;
  limit.kind = Kind::number;
  limit.rule = "Parts wanted against what the machine's cycle makes.";
  limit.input = "pace.rate";
  const Term used = recorder.apply(book::used_share, {"limit.machine.rate", "Parts an hour"},
                                   {{limit.demand, ""}, {limit.capacity, ""}});
  recorder.note(limit.rule);
  limit.used = used;
  limit.step = used.ref;
  const Rules rules(document.house_rules);
  limit.state = state_of(limit.used, rules.term("attention"));
  return limit;
}

} // namespace

double MachineRun::worst_used() const {
  double worst = rate ? rate->used : std::nan("");
  for (const BusState& bus : buses)
    for (const Limit& limit : bus.limits)
      if (limit.state != LimitState::not_judged && !(limit.used <= worst)) worst = limit.used;
  return worst;
}

MachineRun begin_machine(const Document& document, const MachineResult& results, const MachineRun* before) {
  MachineRun run;
  run.power = machine_power(document, results, before != nullptr ? &before->power : nullptr);
  Recorder recorder(true);
  run.rate = rate_limit(run, document, recorder);
  run.steps = recorder.take();
  return run;
}

void finish_machine(MachineRun& run, const Document& document, const std::function<bool()>& wanted) {
  if (!run.power.problem.what.empty()) {
    run.complete = true;
    return;
  }
  if (!faults(document.house_rules).empty()) return;
  const Rules rules(document.house_rules);
  for (std::size_t i = 0; i < run.power.buses.size(); ++i) {
    if (!wanted()) return;
    BusState state;
    if (run.power.buses[i].problem.empty()) {
      state = run_of(run.power, i);
      if (state.low->gave_up || state.nominal->gave_up || state.high->gave_up) {
        run.power.buses[i].problem = "it takes too many steps: its chopper switches too fast for so little "
                                     "capacitance, or the cycle is too long.";
        run.power.remarks.push_back({run.power.buses[i].name, run.power.buses[i].problem,
                                     "Give it more capacitance or a wider hysteresis, or a shorter cycle."});
        run.buses.push_back(std::move(state));
        continue;
      }
      if (!wanted()) return;
      keep_stops(run.power, document.pace, wanted);
      if (!wanted()) return;
      state.stop = controlled_stop(run.power, i, document.pace);
      Recorder recorder(true);
      state.limits = judge_bus({run.power, i, state, document.pace, rules, recorder});
      state.steps = recorder.take();
    }
    run.buses.push_back(std::move(state));
  }
  run.fed = fed_volts(run.power, run.buses);
  run.complete = true;
}

void finish_returns(MachineRun& run, const std::function<bool()>& wanted) {
  for (std::size_t b = 0; b < run.buses.size() && wanted(); ++b)
    if (run.power.buses[b].problem.empty())
      run.buses[b].worst_returned = worst_return_to(run.power, b, wanted);
}

MachineRun run_machine(const Document& document, const MachineResult& results) {
  MachineRun run = begin_machine(document, results);
  finish_machine(run, document);
  finish_returns(run);
  return run;
}

Axis as_fed(const Axis& axis, const FedVolts& fed) {
  if (std::isnan(fed.low)) return axis;
  Axis out = axis;
  Section& room = out["surroundings"];
  const auto put = [&](std::string_view field, double volts) {
    char text[32];
    std::snprintf(text, sizeof text, "%.6g V", volts);
    room.type(field, text, Origin::measured);
    Entry entry = room.entry(field);
    entry.note = "What the machine's bus gives this axis.";
    room.put(field, std::move(entry));
  };
  put("bus", fed.set);
  put("bus_low", std::min(fed.low, fed.set));
  put("bus_high", std::max(fed.high, fed.set));
  return out;
}

} // namespace fulmox
