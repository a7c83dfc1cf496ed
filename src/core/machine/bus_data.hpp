#pragma once
#include "core/bus/bus_model.hpp"
#include "core/form/section.hpp"
#include "core/support/expected.hpp"

#include <limits>
#include <optional>

namespace fulmox {

/// A bus's form as numbers. What is blank stays NaN.
struct BusData {
  enum class Feed : std::uint8_t { regulated, transformer, mains } feed = Feed::regulated;
  std::string name;
  BusModel nominal;   ///< with its own capacitors alone; drives add theirs
  double swing = 0.0; ///< share by which the mains varies; 0 behind a regulated supply
  double rated_volts = 0.0, rated_amps = 0.0;           ///< of a transformer's secondary, rms
  double continuous = 0.0, peak = 0.0, peak_time = 0.0; ///< W, W, s
  double derating = 1.0, efficiency = 1.0;
  double backfed_trip = 0.0;                                                                     ///< V
  double capacitor_volts = 0.0, capacitor_ripple = 0.0;                                          ///< V, A rms
  double chopper_current = 0.0, resistor_power = 0.0, resistor_peak = 0.0, resistor_pulse = 0.0; ///< A W W J
  double cable = 0.0;           ///< Ω there and back; 0 where not told
  double inductance = 0.0;      ///< H; NaN where not told
  double precharge = 0.0;       ///< Ω
  double own_capacitance = 0.0; ///< F

  /// The bus with drives of so much capacitance, at the mains times 1 + `share`.
  [[nodiscard]] BusModel at(double share, double drives) const;
  /// V without load at the highest mains.
  [[nodiscard]] double highest_supply() const { return at(swing, 0.0).supply.highest(); }
  /// What is wrong between the fields, each right alone; the path of a field and what mends it.
  static Expected<BusData> from(const Section& section);
};

} // namespace fulmox
