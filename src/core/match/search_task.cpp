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
  if (bench.drive(drive)->leaves_open) return {};
  return sweep(bench.drive(drive), alone[drive].clear, beyond);
}

std::vector<DriveAlone> SearchTask::look_at_drives() const {
  std::vector<DriveAlone> all(space.drives.size());
  if (!bench.problem().what.empty()) return all;
  Judge judge(axis, space, bench, rules);
  for (std::size_t k = 0; k < bench.classes().size(); ++k) {
    std::uint32_t motor = 0;
    while (motor < space.motors.size() && !bench.runs(motor, k)) ++motor;
    if (motor == space.motors.size()) continue;
    for (const std::uint32_t drive : bench.classes()[k].drives)
      all[drive] = judge.drive_alone({motor, 0, drive, 0, 0});
  }
  return all;
}

} // namespace fulmox
