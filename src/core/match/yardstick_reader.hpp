#pragma once
#include "core/match/ranking.hpp"
#include "core/match/sums_of_parts.hpp"

#include <cmath>
#include <limits>
#include <optional>
#include <vector>

namespace fulmox {

/// A yardstick for many combinations: what adds up over parts stands in rows.
class YardstickReader {
public:
  YardstickReader(const MatchSpace& space, const Yardstick& yardstick, const Fits& fits)
      : space_(space), yardstick_(yardstick) {
    if (yardstick.adds == nullptr) return;
    sums_.emplace(space, yardstick.adds);
    for (const GroupDrives& group : fits.groups()) least_.push_back(least_of(group));
  }

  double operator()(const Trial& trial) const {
    if (yardstick_.reads != nullptr) return trial.*yardstick_.reads;
    return sums_ ? (*sums_)(trial.parts) : yardstick_.value(space_, trial);
  }

  /// What no drive of a block is below; NaN where that is not told.
  double least(const FitBlock& block) const {
    constexpr double not_told = std::numeric_limits<double>::quiet_NaN();
    if (yardstick_.reads == &Trial::used) return block.floor.worst.least;
    if (yardstick_.reads == &Trial::energy) return block.floor.least_energy;
    if (yardstick_.reads == &Trial::ratio) return block.floor.ratio;
    if (yardstick_.reads == &Trial::winding) return block.floor.winding;
    if (!sums_ || !least_[block.group]) return not_told;
    Combination parts = block.parts;
    parts.drive = *least_[block.group];
    return (*sums_)(parts); // sums round the same way: none with more of it comes out below
  }
  /// The same of one of its drives, told for less than all of its figures.
  double least(const FitBlock& block, const Combination& with_drive) const {
    return sums_ ? (*sums_)(with_drive) : least(block);
  }

private:
  /// The drive of a group that has least of it; nothing where one does not tell.
  [[nodiscard]] std::optional<std::uint32_t> least_of(const GroupDrives& group) const {
    const auto figure = [&](std::uint32_t drive) { return space_.drives[drive].*yardstick_.adds; };
    std::optional<std::uint32_t> least;
    for (const std::uint32_t drive : group.places) {
      if (std::isnan(figure(drive))) return std::nullopt;
      if (!least || figure(drive) < figure(*least)) least = drive;
    }
    return least;
  }

  const MatchSpace& space_;
  const Yardstick& yardstick_;
  std::optional<SumsOfParts> sums_;
  std::vector<std::optional<std::uint32_t>> least_; ///< by group: the drive with the least figure
};

} // namespace fulmox
