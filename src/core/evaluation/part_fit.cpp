#include "core/evaluation/part_fit.hpp"

#include "core/library/part_library.hpp"

#include <algorithm>
#include <cmath>

namespace fulmox {

double PartFit::rank() const {
  constexpr double last = 1e9;
  if (std::isnan(used)) return last;
  return fits() ? 1.0 - used : std::min(1.0 + used, 0.5 * last);
}

PartFit fit_of(const AxisResult& result) {
  PartFit fit;
  fit.used = result.worst_used();
  fit.problem = result.problem;
  if (result.evaluation == nullptr || std::isnan(fit.used)) return fit;
  fit.worst = result.evaluation->limits.front().label;
  for (const Limit& limit : result.evaluation->limits)
    if (limit.state == LimitState::over) fit.missed.push_back({limit.label, limit.used});
  return fit;
}

PartFit try_part(Axis axis, std::string_view slot, const Section& part, const Section& house_rules) {
  choose_part(axis, slot, part);
  return fit_of(*work_out(axis, house_rules, UnitSet::si));
}

} // namespace fulmox
