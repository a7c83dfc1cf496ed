#pragma once
#include "core/demand/course.hpp"

namespace fulmox {

/// How the drive train gives: gearhead and stages between motor and mechanism, as far as figures are typed;
/// what has none counts as without play and rigid.
struct TrainCompliance {
  Term backlash;  ///< m or rad at the load; NaN when no figure is known
  Term stiffness; ///< N·m/rad at the mechanism's shaft, couplings included; NaN when no figure is known
  Term wind_up;   ///< m or rad at the load under the greatest torque; NaN when no figure is known
};

/// A place in the train: its figures and the ratio from there to the mechanism's shaft.
struct TrainPlace {
  enum class What : std::uint8_t { mechanism, stage, coupling, gearhead };
  What what;
  std::string name;
  Term backlash, stiffness; ///< at its own output; NaN where no figure is known
  Term ratio;
};
/// From the mechanism to the motor.
std::vector<TrainPlace> train_places(const AxisModel& model, const Axis& axis, Recorder& recorder);

/// Backlash adds up in the worst case, each over the ratio of the stages after it; stiffnesses are springs in
/// a row, each seen through the square of that ratio (statics).
TrainCompliance record_compliance(const AxisModel& model, const Axis& axis, Recorder& recorder);

namespace book {
extern const Formula backlash_through, backlash_sum, travel_of, stiffness_through, springs_in_a_row, wind_up;
}
std::span<const Formula* const> train_formulas();

} // namespace fulmox
