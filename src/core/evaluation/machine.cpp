#include "core/evaluation/machine.hpp"

#include "core/evaluation/guarded.hpp"
#include "core/project/names.hpp"

#include <algorithm>
#include <cmath>
#include <utility>

namespace fulmox {

bool AxisResult::belongs_to(const Axis& other, const Section& rules) const {
  return axis == other && house_rules == rules;
}

const Limit* worst_limit(const Evaluation& evaluation) {
  if (evaluation.limits.empty() || evaluation.limits.front().state == LimitState::not_judged) return nullptr;
  for (const Limit& limit : evaluation.limits) // a thing that fits exactly brings nobody near a limit
    if (limit.state != LimitState::not_judged && (!limit.only_fits || limit.state != LimitState::clear))
      return &limit;
  return &evaluation.limits.front();
}

double worst_used(const Evaluation& evaluation) {
  const Limit* worst = worst_limit(evaluation);
  return worst != nullptr ? worst->used : std::nan("");
}

std::string left_open(const Evaluation& evaluation, const Axis& axis, const Document& document) {
  const auto count = std::count_if(evaluation.limits.begin(), evaluation.limits.end(),
                                   [](const Limit& limit) { return limit.state == LimitState::not_judged; });
  std::string open;
  if (count > 0) open = std::to_string(count) + (count == 1 ? " limit is" : " limits are") + " not judged";
  for (const auto& [field, whose] :
       {std::pair("shared_bus", "supply"), {"brake_bus", "supply of the brake"}}) {
    const std::string& bus = axis["surroundings"].text(field);
    if (!bus.empty() && !bus_exists(document, bus))
      open += (open.empty() ? "" : ", ") + std::string(whose) + " not judged: no bus is called “" + bus + "”";
  }
  return open;
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
