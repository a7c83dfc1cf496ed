#include "core/machine/supply_trying.hpp"

#include "core/machine/bus_limits.hpp"
#include "core/quantity/format.hpp"

#include <cmath>

namespace fulmox {
namespace {

std::string told(const Limit& limit) {
  const std::string moment = limit.moment ? " at " + shown(limit.moment->time, Kind::time) : "";
  const std::string fails = "Fails: " + std::string(limit.label);
  if (std::isinf(limit.used)) return fails + moment + ". " + limit.rule;
  return fails + ", " + shown(limit.demand, limit.kind) + " of " + shown(limit.capacity, limit.kind) +
         moment + ".";
}

SupplyTrial refused(SupplyTrial trial, std::string why) {
  trial.used = std::numeric_limits<double>::infinity();
  trial.reasons.push_back(std::move(why));
  return trial;
}

} // namespace

Trying::Trying(const MachineRun& run, std::size_t bus, const Document& document)
    : power_(run.power), bus_(bus), document_(document), rules_(document.house_rules),
      stop_(controlled_stop(run.power, bus, document.pace)) {}

SupplyTrial Trying::judge(std::string title, const Section& form) {
  SupplyTrial out;
  out.title = std::move(title);
  out.bus = form;
  const auto data = BusData::from(form);
  if (!data) return refused(std::move(out), "Against: " + data.problem().what);
  power_.buses[bus_].data = *data;
  state_ = run_of(power_, bus_);
  state_.stop = stop_;
  if (state_.low->gave_up || state_.nominal->gave_up || state_.high->gave_up)
    return refused(std::move(out), "Fails: its chopper switches too fast for so little capacitance.");
  Recorder recorder(true);
  weigh(out, judge_bus({power_, bus_, state_, document_.pace, rules_, recorder}));
  return out;
}

void Trying::weigh(SupplyTrial& out, const std::vector<Limit>& limits) const {
  out.used = 0.0;
  out.fits = true;
  for (const Limit& limit : limits) {
    if (limit.state == LimitState::not_judged) continue;
    if (limit.used > out.used || out.worst.empty()) {
      out.used = limit.used;
      out.worst = limit.label;
      if (limit.moment) out.moment = limit.moment->time;
    }
    if (limit.state != LimitState::over) continue;
    out.fits = false;
    out.reasons.push_back(told(limit));
    if (const double farads = capacitance_for_stop(state_); limit.id == "machine.hold_up" && farads > 0.0)
      out.reasons.push_back("The capacitors decide that: " + at_least(farads, Kind::capacitance) +
                            " on the bus in all, the drives' included, would be enough.");
  }
}

} // namespace fulmox
