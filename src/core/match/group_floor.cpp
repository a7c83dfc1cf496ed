#include "core/match/group_floor.hpp"

#include "core/limits/limit.hpp"

#include <algorithm>
#include <cmath>

namespace fulmox {

/// Losses run straight in the current: what they differ by is greatest at an end.
double GroupFloor::energy(const Drive& drive) const {
  if (std::isnan(drawn)) return drawn;
  const double saved = std::max({0.0, lost_at_rest - drive.loss(0.0), lost_at_current - drive.loss(current)});
  return std::max(0.0, drawn - cycle * saved);
}

Trial GroupFloor::trial(const Combination& parts, const Drive& drive) const {
  WorstShare share = worst;
  for (const ByFigure& by : by_figures) share.at_least(by.demand / (drive.*by.capacity), by.order);
  const double peak = drive.peak_current;
  const auto torque = std::find_if(by_torque.begin(), by_torque.end(), [&](const ByCurrent& by) {
    return by.current == peak || (std::isnan(by.current) && std::isnan(peak));
  });
  if (torque != by_torque.end()) share.at_least(torque->share.least, torque->share.order);
  Trial trial;
  trial.parts = parts;
  trial.used = share.least;
  trial.worst = limit_specs()[share.order]->label;
  trial.unjudged = unjudged;
  trial.wanted = wanted;
  trial.energy = energy(drive);
  trial.ratio = ratio;
  trial.winding = winding;
  trial.fits = true;
  return trial;
}

} // namespace fulmox
