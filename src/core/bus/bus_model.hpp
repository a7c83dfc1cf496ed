#pragma once
#include <cstdint>
#include <limits>
#include <optional>

namespace fulmox {

/// What feeds a DC bus, as current at a voltage and a time. SI.
struct BusSupply {
  enum class Kind : std::uint8_t {
    regulated, ///< holds `volts` behind `resistance`, up to a current limit
    rectifier  ///< pulses of the mains through diodes, never back
  };
  Kind kind = Kind::regulated;
  double resistance = 0.0; ///< Ω > 0: droop and cable, or winding (three-phase: two in series), mains, choke

  // regulated
  double volts = 0.0;                                     ///< V set
  double limit = std::numeric_limits<double>::infinity(); ///< A
  /// A it gives into a short; NaN: as much as its limit. Smaller: the heavier the overload, the less it
  /// gives.
  double short_current = std::numeric_limits<double>::quiet_NaN();
  double sink = 0.0; ///< A it takes back; 0 behind a diode
  /// s in the limit after which it switches off, for off_time; ∞: it never does.
  double trip_time = std::numeric_limits<double>::infinity();
  double off_time = 0.0;

  // rectifier
  double crest = 0.0;     ///< V, no-load peak (three-phase: line to line)
  double drop = 0.0;      ///< V, all diodes in the path
  double frequency = 0.0; ///< Hz, of the mains
  int phases = 1;         ///< 1 or 3
  double phase = 0.0;     ///< rad, of the mains at t = 0

  /// V at most, without load.
  [[nodiscard]] double highest() const { return kind == Kind::regulated ? volts : crest - drop; }
  /// A it gives at most at a voltage; regulated ones only.
  [[nodiscard]] double most_current(double v) const;
  /// V the mains drives at a time; rectifiers only.
  [[nodiscard]] double mains(double time) const;
  /// V it makes without load at a time.
  [[nodiscard]] double open(double time) const {
    return kind == Kind::regulated ? volts : mains(time) - drop;
  }
  /// s from pulse to pulse; rectifiers only.
  [[nodiscard]] double pulse() const { return 1.0 / (2.0 * phases * frequency); }
};

/// A resistor switched onto the bus above `on` and off it below `off` < `on`. V, V, Ω.
struct Chopper {
  double on = 0.0, off = 0.0, resistance = 0.0;
};

/// A DC bus. The capacitance is what stands on the drives' side of the supply's diode.
struct BusModel {
  BusSupply supply;
  double capacitance = 0.0;                                 ///< F > 0
  double bleeder = std::numeric_limits<double>::infinity(); ///< Ω, always on
  std::optional<Chopper> chopper;
};

} // namespace fulmox
