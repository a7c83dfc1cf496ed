#pragma once
#include "core/project/axis.hpp"
#include "core/support/expected.hpp"

#include <optional>
#include <string>

namespace fulmox {

/// What a study compares: the few numbers that decide about an axis, without working or limits.
struct QuickNumbers {
  double peak_torque = 0.0, rms_torque = 0.0; ///< N·m at the motor
  double max_speed = 0.0;                     ///< rad/s at the motor
  double inertia_ratio = 0.0;                 ///< NaN without a rotor
  double load_inertia = 0.0;                  ///< kg·m² at the motor, rotor excluded
  double load_speed = 0.0;                    ///< greatest at the load, m/s or rad/s
  double load_acceleration = 0.0;             ///< greatest at the load, m/s² or rad/s²
  double peak_jerk = 0.0;                     ///< m/s³ or rad/s³ at the load; ∞ where acceleration jumps
};

/// With a segment, peaks and jerk are those of that segment alone; the rms is always that of the cycle.
Expected<QuickNumbers> quick(const Axis& axis, std::optional<std::size_t> segment = {});

class AxisModel;
/// The same of a model that is there already.
QuickNumbers quick(const AxisModel& model, std::optional<std::size_t> segment = {});

/// The entry with another value in SI; its text stays what was typed.
Entry with_value(Entry entry, double value);

} // namespace fulmox
