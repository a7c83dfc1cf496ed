#include "cli/match_answer.hpp"

#include "cli/limit_json.hpp"

#include "core/match/remarks.hpp"

#include <algorithm>
#include <cmath>
#include <span>

namespace fulmox::cli {

using Json = nlohmann::ordered_json;

namespace {

Json parts_json(const MatchSpace& space, const Combination& parts) {
  Json out;
  const auto add = [&](const char* slot, const PartChoice& choice) {
    Json one{{"maker", choice.maker}, {"part_number", choice.number}};
    if (!choice.setting.empty()) one["setting"] = choice.setting;
    out[slot] = choice.none() ? Json() : one;
  };
  add("motor", space.motors[parts.motor]);
  add("gearhead", space.heads[parts.head]);
  add("drive", space.drives[parts.drive]);
  add("brake", space.brakes[parts.brake]);
  add("coupling", space.couplings[parts.coupling]);
  return out;
}

Json broken_json(std::span<const Verdict::Over> limits) {
  Json broken = Json::array();
  for (const auto& over : limits) broken.push_back({{"limit", over.label}, {"used", finite(over.used)}});
  return broken;
}

Json trial_json(const MatchAnswer& answer, const Trial& trial) {
  const MatchSpace& space = answer.space;
  Json out{{"parts", parts_json(space, trial.parts)}, {"worst", trial.worst}};
  for (const Yardstick& yardstick : yardsticks())
    out[std::string(yardstick.id)] = finite(yardstick.value(space, trial));
  const Standing standing = standing_of(space, trial, answer.weights);
  const Combination& p = trial.parts;
  out["order"] = {{"missing", standing.missing},
                  {"sum", standing.sum},
                  {"place", {p.motor, p.head, p.drive, p.brake, p.coupling}}};
  if (const auto smaller = smaller_does_better(space, answer.result, trial, answer.settle.get()))
    out["smaller_does_better"] = {{"motor", space.motors[smaller->motor].name()}, {"used", smaller->used}};
  if (!trial.wanted.empty()) out["not_judged"] = {{"limit", trial.unjudged}, {"input", trial.wanted}};
  return out;
}

} // namespace

Json outlook_json(const MatchSpace& space, std::string_view slot, const PartChoice& part,
                  const PartOutlook& outlook) {
  Json out{{"slot", slot}, {"maker", part.maker}, {"part_number", part.number}};
  if (!part.setting.empty()) out["setting"] = part.setting;
  out["fits"] = outlook.fits;
  if (!outlook.why.empty()) out["why"] = outlook.why;
  if (outlook.nearest)
    out["nearest_miss"] = {{"parts", parts_json(space, outlook.nearest->trial.parts)},
                           {"used", finite(outlook.nearest->trial.used)},
                           {"broken", broken_json(outlook.nearest->over)}};
  return out;
}

Json answer_json(const MatchAnswer& a, std::size_t top) {
  Json list = Json::array(), misses = Json::array(), killers = Json::array(), unusable = Json::array();
  for (std::size_t i = 0; i < std::min(top, a.order.size()); ++i)
    list.push_back(trial_json(a, a.result.fits[a.order[i]]));
  for (const Miss& miss : a.result.misses) {
    Json one = trial_json(a, miss.trial);
    one["broken"] = broken_json(miss.over);
    misses.push_back(one);
  }
  for (const Killer& killer : a.result.killers)
    killers.push_back({{"limit", killer.limit}, {"combinations", killer.combinations}});
  for (const Unusable& part : a.result.unusable)
    unusable.push_back({{"part", part.name}, {"problem", part.problem.text()}});
  Json counts;
  for (std::size_t f = 0; f < facets().size(); ++f)
    for (const FacetCount& count : a.counts[f])
      counts[std::string(facets()[f].id)][count.value] = count.combinations;
  return {{"tried", a.result.tried},
          {"cannot_be_fed", a.result.feedless},
          {"fit", a.result.fits.size()},
          {"listed", a.listed},
          {"top", list},
          {"near_misses", misses},
          {"ruled_out_by", killers},
          {"unusable", unusable},
          {"counts", counts}};
}

} // namespace fulmox::cli
