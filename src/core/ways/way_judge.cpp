#include "core/ways/way_judge.hpp"

#include "core/demand/demand.hpp"
#include "core/evaluation/guarded.hpp"
#include "core/evaluation/unknown_readings.hpp"

#include <algorithm>
#include <array>
#include <cmath>

namespace fulmox {

namespace {

/// Sharing all entries: values put in without typing count, which comparing texts would not see.
bool shared(const Section& a, const Section& b) {
  return &a.spec() == &b.spec() && a.content() == b.content();
}
bool shared(const std::vector<Section>& a, const std::vector<Section>& b) {
  return std::equal(a.begin(), a.end(), b.begin(), b.end(),
                    [](const Section& x, const Section& y) { return shared(x, y); });
}

} // namespace

/// What the load's side is made from, and nothing else.
bool WayJudge::same_load(const Axis& axis) const {
  if (!last_ || load_ == nullptr) return false;
  constexpr std::array<std::string_view, 3> slots{"load", "mechanism", "coupling"};
  return std::all_of(slots.begin(), slots.end(),
                     [&](std::string_view slot) { return shared(axis[slot], (*last_)[slot]); }) &&
         shared(axis.cycle, last_->cycle) && shared(axis.stages, last_->stages) &&
         shared(axis.pieces, last_->pieces);
}

std::optional<std::vector<Limit>> WayJudge::operator()(const Axis& axis) {
  const auto limits = guarded(axis, [&]() -> Expected<std::vector<Limit>> {
    Recorder silent(false);
    if (!same_load(axis)) {
      load_ = nullptr;
      last_ = axis;
      auto load = LoadSide::build(axis, silent);
      if (!load) return load.problem();
      load_ = *load;
    } else if (const auto wrong = faults(axis); !wrong.empty()) {
      return wrong.front();
    }
    const AxisModel model = AxisModel::on(load_, axis, silent);
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
