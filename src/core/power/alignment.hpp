#pragma once
#include "core/power/power_curve.hpp"
#include "core/schedule/schedule.hpp"

#include <functional>
#include <span>
#include <vector>

namespace fulmox {

/// W at most, whatever the offsets between curves that run independently: the sum of their greatest powers.
/// No search: every peak can be laid on the same moment.
double worst_peak(std::span<const PowerCurve* const> curves);
/// The same for the mean over a stretch of time of that length.
double worst_window(std::span<const PowerCurve* const> curves, double length);
/// J at most that come back to a bus whatever the offsets: greatest over a stretch of time of what each
/// returns within one of that length. Sampled in the length at the curves' own times; ∞ where one of them
/// returns more than it draws. `wanted` is asked often; what is told after it said no is of no use. `wanted`
/// is asked often: what comes once it says no is of no use.
double worst_return(
    std::span<const PowerCurve* const> curves, const std::function<bool()>& wanted = [] { return true; });

/// The search for starts under which the sum has its least peak.
struct StaggerAsked {
  std::vector<Block> blocks;
  std::vector<PowerCurve> powers; ///< W of every block over its length, one repeat
  std::vector<double> waiting;    ///< W of every block's axis while it waits
  std::vector<bool> moves;        ///< which blocks may be moved; empty: all
  double base = 0.0;              ///< W of everything else, waiting axes included
  Pace pace;
  bool count_on_returns = false; ///< else power that comes back counts as nothing
  double longer = 0.0;           ///< s by which the machine's cycle may grow
  double jitter = 0.02;          ///< s, by which every start may be off, both ways
  std::function<bool()> wanted = [] { return true; };
};

struct Staggered {
  std::vector<double> offsets; ///< s, of every block
  double cycle = 0.0;          ///< s
  double before = 0.0;         ///< W, with the offsets as they were
  double peak = 0.0;           ///< W, not above: greatest values of every tick summed
  double with_jitter = 0.0;    ///< W, if every start is off by the jitter in the worst way
  double before_with_jitter = 0.0;
  double bound = 0.0; ///< W, no offsets can bring the peak below this
};

/// One offset after the other to its best, from the offsets as they are, until nothing moves. Refused where
/// the blocks cannot be placed.
Expected<Staggered> stagger(const StaggerAsked& asked);

} // namespace fulmox
