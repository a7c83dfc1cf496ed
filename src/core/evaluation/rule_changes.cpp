#include "core/evaluation/rule_changes.hpp"

namespace fulmox {
namespace {

std::vector<Limit> judged(const Axis& axis, const AxisModel& model, const Course& course,
                          const Section& house_rules) {
  Recorder silent(false);
  const Rules rules(house_rules);
  const Demand demand = work_out_demand(model, course, rules, silent);
  const LimitContext context{axis, model, course, demand, rules, silent};
  std::vector<Limit> all;
  for (const LimitSpec* spec : limit_specs()) {
    Limit limit = spec->judge(context).value_or(Limit{});
    limit.label = spec->label;
    all.push_back(std::move(limit));
  }
  return all;
}

} // namespace

std::vector<RuleChange> rule_changes(const Document& document, const Section& other_rules) {
  std::vector<RuleChange> changes;
  if (!faults(other_rules).empty() || !faults(document.house_rules).empty()) return changes;
  Recorder silent(false);
  for (const Axis& axis : document.axes) {
    const auto model = AxisModel::build(axis, silent);
    if (!model) continue;
    const Course course = follow(*model);
    const auto now = judged(axis, *model, course, document.house_rules);
    const auto then = judged(axis, *model, course, other_rules);
    for (std::size_t i = 0; i < now.size(); ++i)
      if (now[i].state != then[i].state)
        changes.push_back({axis.name, now[i].label, now[i].state, then[i].state, now[i].used, then[i].used});
  }
  return changes;
}

std::vector<std::size_t> differing_rules(const Section& a, const Section& b) {
  std::vector<std::size_t> fields;
  for (std::size_t i = 0; i < a.size(); ++i) {
    const std::string_view id = a.field(i).id;
    if (id != "name" && id != "reason" && a.entry(i).text != b.entry(i).text) fields.push_back(i);
  }
  return fields;
}

} // namespace fulmox
