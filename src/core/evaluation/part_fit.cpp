#include "core/evaluation/part_fit.hpp"

#include "core/evaluation/guarded.hpp"
#include "core/evaluation/unknown_readings.hpp"
#include "core/library/part_library.hpp"

#include <algorithm>
#include <cmath>
#include <utility>

namespace fulmox {

double PartFit::rank() const {
  constexpr double last = 1e9;
  if (std::isnan(used)) return last;
  return fits() ? 1.0 - used : std::min(1.0 + used, 0.5 * last);
}

JudgedAxis judge_all(const AxisModel& model, const Axis& axis, const Rules& rules) {
  Recorder silent(false);
  JudgedAxis judged{{}, {}, follow(model)};
  judged.demand = work_out_demand(model, judged.course, rules, silent);
  const LimitContext context{axis, model, judged.course, judged.demand, rules, silent};
  judged.verdict = judge(context);
  judge_readings(context, judged.verdict);
  return judged;
}

Verdict verdict_of(const AxisModel& model, const Axis& axis, const Rules& rules) {
  return judge_all(model, axis, rules).verdict;
}

namespace {

PartFit fit_of(const Verdict& verdict) {
  PartFit fit;
  fit.used = verdict.used;
  fit.worst = verdict.worst;
  for (const Verdict::Over& over : verdict.over) fit.missed.push_back({over.label, over.used});
  return fit;
}

PartFit refused(Problem problem) {
  PartFit fit;
  fit.used = std::nan("");
  fit.problem = std::move(problem);
  return fit;
}

} // namespace

PartTrial::PartTrial(Axis axis, std::string_view slot, const Section& house_rules)
    : axis_(std::move(axis)), slot_(slot) {
  if (const auto wrong = faults(house_rules); !wrong.empty())
    problem_ = wrong.front();
  else
    rules_.emplace(house_rules);
}

/// Gearhead, motor and what hangs on them leave the load's side as it is.
bool PartTrial::changes_load() const {
  return slot_ != "motor" && slot_ != "gearhead" && slot_ != "drive" && slot_ != "brake";
}

PartFit PartTrial::operator()(const Section& part) {
  if (!problem_.what.empty()) return refused(problem_);
  choose_part(axis_, slot_, part);
  const auto fit = guarded(axis_, [&]() -> Expected<PartFit> {
    Recorder silent(false);
    if (load_ == nullptr || changes_load()) {
      auto load = LoadSide::build(axis_, silent);
      if (!load) return load.problem();
      load_ = *load;
    }
    return fit_of(verdict_of(AxisModel::on(load_, axis_, silent), axis_, *rules_));
  });
  return fit ? *fit : refused(fit.problem());
}

} // namespace fulmox
