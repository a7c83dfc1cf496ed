#include "core/evaluation/catalogue_gap.hpp"

#include <algorithm>
#include <cmath>

namespace fulmox {

std::optional<CatalogueGap> catalogue_gap(const AxisModel& model) {
  const MotorSupply supply = model.supply_at(model.surroundings.bus);
  std::optional<CatalogueGap> most;
  constexpr int steps = 80;
  const double top = model.motor->fastest_known();
  for (int i = 0; i <= steps; ++i) {
    const double speed = top * i / steps;
    const PeakLimits limits = model.motor->peak_limits(speed, supply, false);
    const double modelled = std::max(0.0, std::min(limits.current, limits.voltage));
    if (!std::isfinite(limits.catalogue) || !(limits.catalogue > 0.0) || !std::isfinite(modelled)) continue;
    if (!(modelled > 0.0)) break; // where the bus leaves nothing there is no curve to compare
    const CatalogueGap gap{speed, limits.catalogue, modelled};
    if (!most || std::abs(gap.share()) > std::abs(most->share())) most = gap;
  }
  return most;
}

} // namespace fulmox
