#pragma once
#include "core/bus/bus_run.hpp"
#include "core/limits/limit.hpp"
#include "core/machine/controlled_stop.hpp"
#include "core/machine/machine_power.hpp"

#include <functional>
#include <limits>
#include <memory>

namespace fulmox {

/// What an axis gets from its bus while it moves.
struct FedVolts {
  double low = std::numeric_limits<double>::quiet_NaN();  ///< V, the least in its blocks, mains low
  double high = std::numeric_limits<double>::quiet_NaN(); ///< V, the greatest in the cycle, mains high
  double set = std::numeric_limits<double>::quiet_NaN();  ///< V, at rest with nominal mains
};

/// A bus of three phases of which one is lost: the two left make the pulses of one phase at the same crest.
struct LostPhase {
  bool collapsed = false;
  double collapsed_at = 0.0;            ///< s
  double lowest = 0.0, lowest_at = 0.0; ///< V, s
  double rms_current = 0.0;             ///< A of the pulses
};

/// Of a bus that was not run. Never null, so that whoever shows a bus need not ask.
std::shared_ptr<const BusRun> no_run();

/// A bus under the machine's power: voltage, currents, start, limits.
struct BusState {
  // at the mains' low, as told and high; the same one behind a regulated supply
  std::shared_ptr<const BusRun> low = no_run(), nominal = low, high = low;
  std::optional<BusStart> start;
  double start_charge = 0.0; ///< W most is drawn at a threshold over what the supply gives there
  double start_given = 0.0, start_at = 0.0; ///< W, V of the threshold
  double ride = 0.0, ride_at = 0.0; ///< s until the drives trip after a loss of the mains at the worst moment
  double hottest = 0.0, hottest_at = 0.0; ///< W, the resistor's power through its own time constant
  double worst_returned = 0.0;            ///< J, whatever the offsets
  double ripple = 0.0;                    ///< V, at most; 0 behind a regulated supply
  double capacitance = 0.0;               ///< F on the bus, drives included
  double trip = 0.0;                      ///< V at which the drives trip; half of the bus where none tells it
  std::optional<ControlledStop> stop;     ///< nothing where slowing down is not told
  std::vector<Limit> limits;              ///< worst first
  std::vector<Step> steps;                ///< behind the limits
  std::optional<LostPhase> lost_phase;    ///< nothing where there are no three
  /// W, mean out of the supply at nominal mains; NaN where the bus collapses
  double supplied_watts = std::numeric_limits<double>::quiet_NaN();
};

/// F on the bus in all with which a controlled stop is paid from the lowest voltage; NaN where no capacitance
/// would do, or no stop is told.
double capacitance_for_stop(const BusState& state);

/// The loads of a bus as they come on while it rises.
std::vector<ThresholdLoad> starting_loads(const MachinePower& machine, std::size_t bus);

/// The bus without its limits.
BusState run_of(const MachinePower& machine, std::size_t bus);

/// J that come back to a bus at most, whatever the offsets.
double worst_return_to(const MachinePower& machine, std::size_t bus, const std::function<bool()>& wanted);

/// What each axis gets, NaN where it is on no bus.
std::vector<FedVolts> fed_volts(const MachinePower& machine, std::span<const BusState> buses);

} // namespace fulmox
