#pragma once
#include "core/machine/machine_power.hpp"
#include "core/support/wanted.hpp"

namespace fulmox {

/// What an axis's motor needs to come to rest so fast.
struct StopEffort {
  std::size_t axis = 0;
  double share = 0.0; ///< of its peak torque at that speed; NaN where it does not tell it
  double at = 0.0;    ///< s of the machine's cycle from which
};

/// What a controlled stop of everything on a bus asks of it once the mains is gone, begun at the worst moment
/// of the cycle: it is noticed, all axes slow down, brakes close.
struct ControlledStop {
  double notice = 0.0, ramp = 0.0, brake = 0.0; ///< s
  double going_on = 0.0;                        ///< W drawn at most, as a mean, until it is noticed
  double slowing = 0.0, slowing_at = 0.0;       ///< J at most, and the s at which slowing down begins
  double steady = 0.0;                          ///< W of loads and brake coils until all is over
  double holding = 0.0;                         ///< W that hold the axes until the brakes have closed
  double returned = 0.0, returned_at = 0.0;     ///< J at most, s
  std::vector<StopEffort> efforts;              ///< of the axes on the bus
  double pushed = 0.0, pushed_at = 0.0;         ///< W at most, s
};

/// J out of the bus until all is over, at most.
double energy_of_stop(const ControlledStop& stop);

/// Works out the stops of every axis that `machine` does not hold for that ramp yet, and keeps them there.
/// Given up between axes.
void keep_stops(MachinePower& machine, const Section& pace, const Wanted& wanted);

/// Nothing where nobody told how long slowing down takes, or nothing hangs on the bus.
std::optional<ControlledStop> controlled_stop(const MachinePower& machine, std::size_t bus,
                                              const Section& pace);

} // namespace fulmox
