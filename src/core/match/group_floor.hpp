#pragma once
#include "core/drive/drive.hpp"
#include "core/match/trial.hpp"

#include <boost/container/small_vector.hpp>

#include <vector>

namespace fulmox {

/// The greatest of some shares, and the place of its limit in the order of all; of equal shares the first
/// limit counts.
struct WorstShare {
  double least = 0.0;
  std::size_t order = 0;

  void at_least(double used, std::size_t its) {
    if (used < least || (used == least && its >= order)) return;
    least = used;
    order = its;
  }
};

/// What is known of the drives of a group that fit on a motor and train, whichever is put on: it tells what
/// is known of each without the axis being looked at again.
struct GroupFloor {
  WorstShare worst; ///< no drive is used less
  SmallName unjudged, wanted;
  /// Of a limit whose capacity is a figure of the drive.
  struct ByFigure {
    Term Drive::*capacity;
    double demand; ///< rounded down
    std::size_t order;
  };
  boost::container::small_vector<ByFigure, 2> by_figures;
  /// What limits that follow from the torque are worth at a drive's peak current.
  struct ByCurrent {
    double current; ///< A; NaN: not told
    WorstShare share;
  };
  std::vector<ByCurrent> by_torque; ///< empty where none may be the worst

  double drawn = 0.0;   ///< J in a cycle from the bus with the drive that was judged; NaN: not known
  double cycle = 0.0;   ///< s
  double current = 0.0; ///< A, greatest
  double lost_at_rest = 0.0, lost_at_current = 0.0; ///< W, by the drive that was judged
  double least_energy = 0.0;                        ///< J, of any of them; NaN: not known
  double ratio = 0.0, winding = 0.0;                ///< of inertia; K, not hotter

  /// J, not less is drawn in a cycle with a drive; NaN where not known.
  [[nodiscard]] double energy(const Drive& drive) const;
  /// What is known of one of them.
  [[nodiscard]] Trial trial(const Combination& parts, const Drive& drive) const;
};

} // namespace fulmox
