#pragma once
#include "core/evaluation/machine.hpp"
#include "core/machine/bus_data.hpp"
#include "core/power/axis_power.hpp"
#include "core/power/stop_power.hpp"
#include "core/schedule/schedule.hpp"

#include <memory>
#include <optional>
#include <string>
#include <vector>

namespace fulmox {

/// What one axis takes within the machine's cycle.
struct AxisPower {
  std::string name;
  std::optional<std::size_t> bus, brake_bus; ///< numbers of buses
  Problem problem;                           ///< why it counts as idle; empty `what`: it does not
  PowerCurve own;                            ///< W over its own cycle
  double least_volts = std::numeric_limits<double>::quiet_NaN(); ///< V, the lowest bus its drive works on
  double waiting = 0.0;                                          ///< W
  double holding = 0.0;                   ///< W while its motor holds the worst load of its cycle
  std::shared_ptr<const AxisModel> model; ///< nothing where it counts as idle
  PowerCurve placed;                      ///< W over the machine's cycle
  PowerCurve brake;                       ///< W of its brake's coil over the machine's cycle; empty without
  double coil = 0.0;                      ///< W of the coil
  std::vector<double> segment_ends;       ///< s, in its own cycle
  std::shared_ptr<const StopPower> stops; ///< once a controlled stop was worked out
  std::vector<std::size_t> blocks;        ///< its blocks in the schedule
};

/// What a bus carries, before its voltage is known.
struct BusPower {
  std::string name;
  BusData data;
  std::vector<std::size_t> axes;                           ///< whose drives hang on it
  std::vector<std::size_t> brakes;                         ///< whose coils do
  PowerCurve steady;                                       ///< W of all other loads
  double steady_watts = 0.0;                               ///< W of all of them, greatest sum
  PowerCurve total;                                        ///< W
  double drives = 0.0;                                     ///< F in the drives
  double under = std::numeric_limits<double>::quiet_NaN(); ///< V, the highest at which a drive needs more
  double over = std::numeric_limits<double>::quiet_NaN();  ///< V, the lowest at which a drive trips
  std::string under_of, over_of;                           ///< whose these are
  std::vector<std::string> untold; ///< axes whose drive does not tell its capacitance: counted as none
  std::vector<std::string> no_under, no_over; ///< whose does not tell its lowest bus, its trip
  std::string problem;                        ///< why its voltage cannot be worked out; empty: it can

  // of the sum, exact
  double mean = 0.0, rms = 0.0, drawn = 0.0, returned = 0.0; ///< W, W, J, J a cycle
  PowerAt peak, least;
  double half = 0.0, often = 0.0, nearly = 0.0; ///< W, not exceeded for 50, 95, 99 % of the time
  PowerAt window_10ms, window_100ms, window_1s;
  Reflected reflected;
  // whatever the offsets
  double worst_peak = 0.0;    ///< W
  double each_returned = 0.0; ///< J, if every axis had a bus of its own
};

/// The machine's cycle and the power of all its axes: exact, and quick enough for every edit.
struct MachinePower {
  Problem problem;              ///< why there is no schedule; empty `what` = there is one
  std::vector<Problem> remarks; ///< what is left out or counts as idle, and how to mend it
  std::vector<Block> blocks;
  std::vector<bool> implied;         ///< by block: it stands for an axis without any block of its own
  std::vector<std::size_t> sections; ///< by block: its place in the document's list, where it has one
  Schedule schedule;
  double rate = 0.0; ///< parts a second
  std::vector<AxisPower> axes;
  std::vector<BusPower> buses;
  PowerCurve all; ///< W of all buses together
};

/// From the document and the results of its axes as they are. An axis whose model is still the one of
/// `before` keeps what it needs alone.
MachinePower machine_power(const Document& document, const MachineResult& results,
                           const MachinePower* before = nullptr);

/// The first axis whose block or power the machine's cycle shows at a time: where a cursor of the machine's
/// cycle stands in the axis's own. s; nothing while it waits.
std::optional<double> own_time(const MachinePower& machine, std::size_t axis, double time);

} // namespace fulmox
