#pragma once
#include "core/demand/compliance.hpp"

#include <string_view>
#include <vector>

namespace fulmox {

/// A share in how far the load may lie off, m or rad at the load, to either side.
struct ErrorShare {
  std::string_view id, label;
  Term size;
};

/// All that is known to keep the load from where it is meant to be.
struct AccuracyBudget {
  std::vector<ErrorShare> shares;
  Term worst;      ///< all the same way at once
  Term root;       ///< root of the sum of squares: independent errors
  Term resolution; ///< a count of the encoder, or a microstep, at the load; NaN where not known
};

/// Encoder or step, load angle of a stepper, the drive's own error, backlash, wind-up under the greatest
/// torque, warming. What a scale at the load sees, the loop takes out. What has no figure counts as nothing,
/// and is missing from the list.
AccuracyBudget accuracy_budget(const AxisModel& model, const Axis& axis, const Term& peak_torque,
                               Recorder& recorder);

namespace book {
extern const Formula count_at_load, count_at_load_turning, error_at_load, error_at_load_turning, step_error,
    thermal_growth, worst_sum, root_sum, worst_sum_turning, root_sum_turning;
}
std::span<const Formula* const> accuracy_formulas();

} // namespace fulmox
