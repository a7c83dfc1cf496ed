#pragma once
#include "core/demand/course.hpp"

namespace fulmox {

/// What happens between two moments of the cycle.
struct SpanStatistics {
  double from = 0.0, to = 0.0;                                       ///< s
  double travel = 0.0;                                               ///< m or rad, end less start
  double peak_speed = 0.0, peak_acceleration = 0.0, peak_jerk = 0.0; ///< load, magnitudes
  double peak_torque = 0.0, rms_torque = 0.0;                        ///< N·m, motor shaft
  double shaft_energy = 0.0;                                         ///< J, driven less returned
};

/// Integrals and peaks as exact as those of the whole cycle.
SpanStatistics statistics(const AxisModel& model, const Course& course, double from, double to);

} // namespace fulmox
