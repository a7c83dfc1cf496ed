#pragma once
#include "core/bus/bus_model.hpp"
#include "core/power/power_curve.hpp"

#include <span>
#include <vector>

namespace fulmox {

/// The bus at a moment.
struct BusSample {
  double time = 0.0;  ///< s
  double volts = 0.0; ///< V
  double amps = 0.0;  ///< A from the supply
  bool chopper = false;
};

/// What one period of a bus comes to, in its periodic state where there is one.
struct BusRun {
  std::vector<BusSample> samples;         ///< every step; what a plot draws, never judged
  double lowest = 0.0, lowest_at = 0.0;   ///< V, s
  double highest = 0.0, highest_at = 0.0; ///< V, s
  bool collapsed = false; ///< the supply could not hold the load: nothing after collapsed_at is true
  double collapsed_at = 0.0;
  bool gave_up = false;    ///< more steps than can be kept: nothing of it is known
  bool settled = false;    ///< the last period ended as it began; else energies are means of the last ones
  double supplied = 0.0;   ///< J a period
  double burnt = 0.0;      ///< J, in the chopper's resistor
  double bled = 0.0;       ///< J, in the bleeder
  double taken_back = 0.0; ///< J, by a supply that can; contained in `supplied` with its sign
  /// J, supplied − drawn − burnt − bled − ½C·(V1² − V0²): each integrated for itself; 0 but for rounding.
  double balance = 0.0;
  double rms_current = 0.0; ///< A, of the supply
  double most_current = 0.0, most_current_at = 0.0;
  double limit_time = 0.0;    ///< s a period in which the supply is in its limit, or has tripped
  double longest_limit = 0.0; ///< s without a break
  double limit_at = 0.0;      ///< when the longest began
  int trips = 0;              ///< of a hiccup supply
  int switched = 0;           ///< times the chopper went on
  PowerCurve supply_power;    ///< W out of a regulated supply, the mean over each step; else nothing
  PowerCurve resistor_power;  ///< W into the chopper's resistor, the mean over each step
  /// The voltage at a time of the period, between samples in a straight line: for pictures.
  [[nodiscard]] double volts_at(double time) const;
  /// The least sampled voltage, ends included, within a stretch of the period that may wrap around its end.
  [[nodiscard]] double lowest_within(double from, double length) const;
};

/// Accuracy of one step, as a share of the bus voltage.
inline constexpr double usual_tolerance = 1e-6;

/// The bus under a power that repeats, in its periodic state. Starts where nothing of any earlier return is
/// left on it; three-stage L-stable SDIRK, stages in closed form (R. Alexander, SIAM J. Numer. Anal. 14
/// (1977) 1006–1021), stretches in which nothing flows in exactly. Rectifiers: at the mains phase they have.
BusRun run_bus(const BusModel& bus, const PowerCurve& power, double tolerance = usual_tolerance);

/// The worst of a rectifier over several phases of the mains against the machine's cycle; others: run_bus().
BusRun run_worst_phase(const BusModel& bus, const PowerCurve& power, double tolerance = usual_tolerance,
                       int phases = 8);

/// A load of constant power that switches on above a voltage and off below another.
struct ThresholdLoad {
  double on = 0.0, off = 0.0; ///< V, off < on
  double power = 0.0;         ///< W
};

/// Switching on: from an empty bus.
struct BusStart {
  std::vector<BusSample> samples;
  bool up = false;       ///< it reached the voltage at which it rests, with all loads on
  double up_at = 0.0;    ///< s
  int load_switches = 0; ///< how often loads went on: more than their number is hovering
  int trips = 0;
  double greatest_current = 0.0; ///< A
};
/// `wait` s at most.
BusStart start_bus(const BusModel& bus, std::span<const ThresholdLoad> loads, double wait = 10.0);

/// s, the shortest time from a loss of the mains at any moment until the bus is at `least` V, the power
/// going on as it does; ∞ when it never gets there within two periods. `at` gets the worst moment.
double ride_through(const BusRun& run, const PowerCurve& power, double capacitance, double least,
                    double* at = nullptr);

} // namespace fulmox
