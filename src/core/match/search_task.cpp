#include "core/match/search_task.hpp"

#include <algorithm>

namespace fulmox {

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

std::vector<SearchTask::ClassAlone> SearchTask::look_at_classes() const {
  std::vector<ClassAlone> all;
  for (const DriveClass& one : bench.classes()) {
    ClassAlone& its = all.emplace_back();
    std::vector<std::uint32_t> clear;
    for (const std::uint32_t drive : one.drives) {
      const double used = alone[drive].worst.used;
      if (used > 1.0)
        its.excluded = std::min(its.excluded, used);
      else
        clear.push_back(drive);
    }
    if (!clear.empty()) its.strongest = bench.strongest_of(clear);
  }
  return all;
}

} // namespace fulmox
