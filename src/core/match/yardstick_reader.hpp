#pragma once
#include "core/match/ranking.hpp"
#include "core/match/sums_of_parts.hpp"

#include <optional>

namespace fulmox {

/// A yardstick for many combinations: what adds up over parts stands in rows.
class YardstickReader {
public:
  YardstickReader(const MatchSpace& space, const Yardstick& yardstick)
      : space_(space), yardstick_(yardstick) {
    if (yardstick.adds != nullptr) sums_.emplace(space, yardstick.adds);
  }

  double operator()(const Trial& trial) const {
    if (yardstick_.reads != nullptr) return trial.*yardstick_.reads;
    return sums_ ? (*sums_)(trial.parts) : yardstick_.value(space_, trial);
  }

private:
  const MatchSpace& space_;
  const Yardstick& yardstick_;
  std::optional<SumsOfParts> sums_;
};

} // namespace fulmox
