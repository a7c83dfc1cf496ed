#include "core/match/search_task.hpp"

#include <cmath>

namespace fulmox {

float PairBounds::lowered(double share) {
  const auto near = static_cast<float>(share);
  return static_cast<double>(near) > share ? std::nextafter(near, 0.0F) : near;
}

void PairBounds::lower(std::size_t pair, double share) {
  if (!std::isnan(share) && !(at_least_[pair] <= lowered(share))) at_least_[pair] = lowered(share);
}

Combination SearchTask::parts_of(std::size_t pair) const {
  const std::size_t train = train_of(pair), heads = space.heads.size(), brakes = space.brakes.size();
  return {static_cast<std::uint32_t>(pair % space.motors.size()), static_cast<std::uint32_t>(train % heads),
          0, static_cast<std::uint32_t>(train / heads % brakes),
          static_cast<std::uint32_t>(train / heads / brakes)};
}

DriveSweep::Outlook SearchTask::look_at(DriveSweep& sweep, std::uint32_t drive, double beyond) const {
  if (bench.drive_leaves_open(drive)) return {};
  return sweep(bench.drive(drive), space.drives[drive].section, beyond);
}

} // namespace fulmox
