#pragma once
#include "core/form/section.hpp"
#include "core/form/slot.hpp"
#include "core/mounting/mounting.hpp"
#include "core/stage/stage.hpp"

#include <span>

namespace fulmox {

/// The form of a gearhead; also the columns of a gearhead library. A blank part with ratio 1 means none is
/// fitted.
const SectionSpec& gearhead_section();
const SlotSpec& gearhead_slot();

/// T_eq = (ΣQ/Σq)^(1/k) with Q = ∫|T|^k·|n|dt and q = ∫|n|dt over the cycle; k > 0. 0 when nothing turns.
double equivalent_torque(double weighted, double turns, double exponent);

/// Factor on the acceleration peak for many starts per hour: 1 to 1000/h, then 1.2 to 2000, 1.6 to 3000, 2
/// above (from memory).
double shock_factor(double starts_per_hour);

/// Whether a head runs rather than starts and stops: it turns for more than 60 % of the time, or for more
/// than 20 min without a pause (common practice). Then its continuous torque counts. Time in s.
bool runs_on(double share_turning, double longest_run);

namespace book {
extern const Formula equivalent_torque, shock_factor, shocked_torque, starts_per_hour, inertia_behind;
}
std::span<const Formula* const> gearhead_formulas();

/// The gearhead on the motor.
struct Gearhead : Stage {
  bool chosen = false; ///< a part, whatever its ratio
  bool fitted = false;

  static Gearhead from(const Section& section);
  /// The same head with another ratio; none where nothing is chosen and the ratio is 1.
  void set_ratio(double value);
  // What it is made for; NaN where not told.
  Term nominal_torque, continuous_torque, peak_torque, emergency_torque; ///< N·m at the output
  Term emergency_stops;                                                  ///< in its life
  Term mean_speed, max_speed;                                            ///< rad/s at the input
  Term shaft;                                                            ///< m
  Flange takes;                                                          ///< of the motor
  Term bore_min, bore_max, depth;                                        ///< m, for the motor's shaft

  [[nodiscard]] ShaftState input(const ShaftState& output, Recorder& recorder) const {
    return fitted ? Stage::input(output, TorquePart::gearhead, recorder) : output;
  }
};

} // namespace fulmox
