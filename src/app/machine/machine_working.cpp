#include "app/machine/machine_working.hpp"

#include "app/session/machine_watch.hpp"
#include "app/session/session.hpp"
#include "core/quantity/format.hpp"

#include <algorithm>

namespace fulmox::app {
namespace {

/// Whether a limit is this step, or compares what this step gives.
bool rests_on(const Limit& limit, const Step& step, const std::vector<Step>& steps) {
  if (limit.step == step.id) return true;
  const auto found =
      std::find_if(steps.begin(), steps.end(), [&](const Step& s) { return s.id == limit.step; });
  return found != steps.end() && std::any_of(found->terms.begin(), found->terms.end(),
                                             [&](const Term& term) { return term.ref == step.id; });
}

const Limit* limit_of(const MachineRun& run, std::optional<std::size_t> bus, const Step& step) {
  if (!bus) return run.rate && run.rate->step == step.id ? &*run.rate : nullptr;
  if (*bus >= run.buses.size()) return nullptr;
  for (const Limit& limit : run.buses[*bus].limits)
    if (rests_on(limit, step, run.buses[*bus].steps)) return &limit;
  return nullptr;
}

} // namespace

const std::vector<Step>* MachineWorking::steps() const {
  const MachineRun* run = session_.machine_watch().run();
  if (run == nullptr) return nullptr;
  if (!bus_) return &run->steps;
  return *bus_ < run->buses.size() ? &run->buses[*bus_].steps : nullptr;
}

std::string_view MachineWorking::step_behind(std::string_view result) const {
  const std::vector<Step>* all = steps();
  const auto found = std::find_if(all->begin(), all->end(), [&](const Step& s) { return s.id == result; });
  return found != all->end() ? found->id : std::string_view{};
}

std::string MachineWorking::input_behind(const Step& step, const Term& term) const {
  if (!term.ref.empty())
    return describe_path(session_.document(), session_.axis_index(), term.ref).empty()
               ? std::string()
               : std::string(term.ref);
  const Limit* limit = limit_of(*session_.machine_watch().run(), bus_, step);
  if (limit == nullptr) return {};
  // the limits of a bus are worked out from its data, which do not know their fields: the one that governs
  // is told by its value
  const std::string path = governing_input(session_, *limit, bus_.value_or(0));
  const auto dot = path.rfind('.');
  if (dot == std::string::npos) return {};
  const Section* section = session_.section(path.substr(0, dot));
  if (section == nullptr || !section->has(path.substr(dot + 1))) return {};
  return section->entry(path.substr(dot + 1)).value == term.value ? path : std::string();
}

QString MachineWorking::remark() const {
  const MachineWatch& watch = session_.machine_watch();
  return watch.old() ? "The machine is being worked out; these are the last results." : QString();
}

std::string governing_input(Session& session, const Limit& limit, std::size_t bus) {
  const std::string_view input = limit.input;
  if (input.empty() || input.starts_with("pace.") || input.find('.') != std::string_view::npos)
    return std::string(input);
  const MachineRun* run = session.machine_watch().run();
  for (const Section& section : session.document().lists.find("buses")->second)
    if (run != nullptr && bus < run->power.buses.size() && section.text("name") == run->power.buses[bus].name)
      return section.path + "." + std::string(input);
  return {};
}

} // namespace fulmox::app
