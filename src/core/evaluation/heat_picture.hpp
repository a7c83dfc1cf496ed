#pragma once
#include "core/evaluation/evaluation.hpp"

#include <vector>

namespace fulmox {

/// Current that a share of each period allows, over the continuous one.
struct DutyPoint {
  double share = 0.0, factor = 0.0;
};

/// What is drawn of a motor's heat. What limits are judged by is exact; this is where spans meet.
struct HeatPicture {
  double limit = 0.0;               ///< K
  std::vector<HeatPoint> cycle;     ///< steady; empty where it runs away
  std::vector<HeatPoint> from_cold; ///< from the ambient over the first hours
  std::vector<HeatPoint> marks;     ///< after 1, 5, 15, 60 and 240 minutes of it, as a table
  std::vector<DutyPoint> duty;      ///< IEC 60034-1 S3: 15, 25, 40, 60 % of ten minutes
};

/// The axis's heat must be known.
HeatPicture heat_picture(const Evaluation& evaluation);

} // namespace fulmox
