#pragma once
#include "core/demand/course.hpp"
#include "core/demand/demand.hpp"

#include <optional>

namespace fulmox {

/// Speeds without sign, rad/s.
struct SpeedBand {
  double low = 0.0, high = 0.0;
};
/// A quarter to either side.
inline SpeedBand resonance_band(double centre) { return {0.75 * centre, 1.25 * centre}; }

/// Where rotor and load swing in step with full steps; nothing for other motors.
std::optional<SpeedBand> resonance_of(const AxisModel& model, const Demand& demand);

struct BandStay {
  double longest = 0.0; ///< s without leaving it
  double at = 0.0;      ///< s of the cycle, where that stay ends
  double total = 0.0;   ///< s
};
/// The stays of the motor's speed in a band, cut exactly where it enters and leaves. A stay that runs over
/// the end of the cycle goes on at its start.
BandStay longest_in_band(const AxisModel& model, const Course& course, const SpeedBand& band);

} // namespace fulmox
