#include "core/evaluation/machine.hpp"

#include "core/evaluation/guarded.hpp"

#include <algorithm>
#include <cmath>
#include <utility>

namespace fulmox {

bool AxisResult::belongs_to(const Axis& other, const Section& rules) const {
  return axis == other && house_rules == rules;
}

double worst_used(const Evaluation& evaluation) {
  if (evaluation.limits.empty() || evaluation.limits.front().state == LimitState::not_judged)
    return std::nan("");
  for (const Limit& limit : evaluation.limits) // a thing that fits exactly brings nobody near a limit
    if (!limit.only_fits || limit.state != LimitState::clear) return limit.used;
  return evaluation.limits.front().used;
}

double AxisResult::worst_used() const {
  return evaluation != nullptr ? fulmox::worst_used(*evaluation) : std::nan("");
}

SharedResult work_out(const Axis& axis, const Section& house_rules, UnitSet units) {
  auto result = guarded(axis, [&] { return evaluate(axis, house_rules, units); });
  std::shared_ptr<const Evaluation> evaluation;
  if (result) evaluation = std::make_shared<const Evaluation>(std::move(*result));
  return std::make_shared<const AxisResult>(
      AxisResult{evaluation, result ? Problem() : result.problem(), axis, house_rules, units});
}

SharedResult known_result(const MachineResult& before, const Document& document, std::size_t place) {
  const auto fits = [&](const SharedResult& known) {
    return known != nullptr && known->belongs_to(document.axes[place], document.house_rules);
  };
  if (place < before.size() && fits(before[place])) return before[place];
  const auto found = std::find_if(before.begin(), before.end(), fits);
  return found != before.end() ? *found : nullptr;
}

MachineResult evaluate(const Document& document, const MachineResult& before) {
  MachineResult out;
  for (std::size_t i = 0; i < document.axes.size(); ++i) {
    SharedResult known = known_result(before, document, i);
    const bool same = known != nullptr && known->units == document.units;
    out.push_back(same ? known : work_out(document.axes[i], document.house_rules, document.units));
  }
  return out;
}

} // namespace fulmox
