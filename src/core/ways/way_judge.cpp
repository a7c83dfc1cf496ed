#include "core/ways/way_judge.hpp"

#include "core/demand/demand.hpp"
#include "core/evaluation/guarded.hpp"
#include "core/evaluation/unknown_readings.hpp"

#include <cmath>

namespace fulmox {

std::optional<std::vector<Limit>> WayJudge::operator()(const Axis& axis) {
  const auto limits = guarded(axis, [&]() -> Expected<std::vector<Limit>> {
    Recorder silent(false);
    const auto load = load_(axis);
    if (!load) return load.problem();
    const AxisModel model = AxisModel::on(*load, axis, silent);
    const Course course = follow(model);
    const Demand demand = work_out_demand(model, course, rules_, silent);
    const LimitContext context{axis, model, course, demand, rules_, silent};
    std::vector<Limit> all = judge_limits(context);
    judge_readings(context, all);
    return all;
  });
  if (!limits) return std::nullopt;
  return *limits;
}

double WayJudge::used(const Axis& axis, std::string_view id) {
  const auto limits = (*this)(axis);
  if (!limits) return std::nan("");
  for (const Limit& limit : *limits)
    if (limit.id == id && limit.state != LimitState::not_judged) return limit.used;
  return std::nan("");
}

std::pair<double, std::string_view> WayJudge::worst(const Axis& axis) {
  const auto limits = (*this)(axis);
  if (!limits) return {std::nan(""), ""};
  std::pair<double, std::string_view> worst{0.0, ""};
  for (const Limit& limit : *limits)
    if (limit.state != LimitState::not_judged && limit.used > worst.first &&
        !(limit.only_fits && limit.used <= 1.0))
      worst = {limit.used, limit.label};
  return worst;
}

} // namespace fulmox
