#include "core/match/settler.hpp"

#include "core/evaluation/guarded.hpp"
#include "core/match/judge.hpp"

namespace fulmox {

Settler::Settler(Axis axis, const Section& house_rules, MatchSpace space)
    : axis_(std::move(axis)), space_(std::move(space)), loads_(space_.couplings.size()) {
  if (faults(house_rules).empty()) rules_.emplace(house_rules);
}

std::shared_ptr<const LoadSide> Settler::load(std::uint32_t coupling) {
  if (loads_[coupling] == nullptr) {
    Recorder silent(false);
    auto built = guarded(axis_, [&] { return LoadSide::build(axis_, silent); });
    if (built) loads_[coupling] = *built;
  }
  return loads_[coupling];
}

void Settler::operator()(Trial& trial) {
  if (trial.settled || !rules_) return;
  axis_ = with_parts(std::move(axis_), space_, trial.parts);
  const auto side = load(trial.parts.coupling);
  if (side == nullptr) return;
  const auto judged = guarded(axis_, [&]() -> Expected<Judged> {
    Recorder silent(false);
    const AxisModel model = AxisModel::on(side, axis_, silent);
    return figures_of(model, judge_all(model, axis_, *rules_));
  });
  if (judged) trial = trial_of(trial.parts, *judged);
}

} // namespace fulmox
