#include "core/limits/sheet_warnings.hpp"

#include "core/limits/usual_factor.hpp"
#include "core/motor/constants.hpp"
#include "core/motor/dc_fed.hpp"
#include "core/motor/servo.hpp"
#include "core/motor/six_step.hpp"
#include "core/motor/stepper.hpp"
#include "core/quantity/format.hpp"

#include <array>
#include <cmath>
#include <initializer_list>

namespace fulmox {
namespace {

using Found = std::optional<Warning>;

/// What the sheet of a motor with one current says, whatever its kind.
struct Ratings {
  double kt = std::nan(""), rated_current = std::nan(""), peak_current = std::nan("");
  double rated_torque = std::nan(""), peak_torque = std::nan(""); ///< in the air gap, near standstill
  double warm_resistance = std::nan(""), loss_share = 1.0;        ///< copper = share·R·I²
  double r_thermal = std::nan("");
  double torque_gain = std::nan(""); ///< peak over rated torque where nothing saturates
};

Ratings ratings_of(const LimitContext& c) {
  Ratings out;
  const Section& sheet = c.axis["motor"];
  if (const auto* servo = dynamic_cast<const ServoMotor*>(c.model.motor.get())) {
    const double rated = servo->straight_torque(servo->rated_current);
    out = {rated / servo->rated_current / servo->magnet, servo->rated_current, servo->peak_current};
    out.torque_gain = servo->straight_torque(servo->peak_current) / rated;
    if (!servo->continuous.empty()) out.rated_torque = servo->continuous.front()[1] + servo->drag(0.0);
    if (!servo->peak.empty()) out.peak_torque = servo->peak_air_gap();
    out.warm_resistance = servo->warm_resistance;
    out.loss_share = 1.5;
    out.r_thermal = servo->winding_to_case + servo->case_to_ambient;
  } else if (const auto* dc = dynamic_cast<const DcFedMotor*>(c.model.motor.get())) {
    out = {dc->k, sheet.term_if("rated_current"), dc->peak_current};
    out.torque_gain = out.peak_current / out.rated_current;
    if (!dc->continuous.empty()) out.rated_torque = dc->continuous.front()[1] + dc->drag(0.0);
    if (!dc->peak.empty()) out.peak_torque = dc->peak.front()[1] + dc->drag(0.0);
    out.warm_resistance = dc->warm_resistance;
    out.r_thermal = dc->winding_to_case + dc->case_to_ambient;
  }
  return out;
}

/// T_rated/(Kt·I_rated); quoted at stall or at speed they lie some percent apart.
Found rated_contradicts(const LimitContext& c) {
  const Ratings r = ratings_of(c);
  const double ratio = r.rated_torque / (r.kt * r.rated_current);
  if (!std::isfinite(ratio) || (ratio >= 0.85 && ratio <= 1.15)) return std::nullopt;
  return warning(
      "Rated torque and current disagree",
      "The continuous torque is " + significant(ratio) + " of Kt times rated current." +
          usual_factor(ratio, {{0.7071, "Kt per peak ampere with a current in rms would look like that."},
                               {1.4142, "Kt per rms ampere with a current in peak would look like that."},
                               {1.5, "A factor 1.5 between axis conventions would look like that."},
                               {0.6667, "A factor 1.5 between axis conventions would look like that."}}),
      "motor.rated_current");
}

/// Iron saturates: torque rises less than current.
Found peak_contradicts(const LimitContext& c) {
  const Ratings r = ratings_of(c);
  const double torques = r.peak_torque / r.rated_torque, currents = r.peak_current / r.rated_current;
  if (!(torques > 1.1 * r.torque_gain)) return std::nullopt;
  return warning("Peak torque rises more than peak current",
                 "Peak over continuous is " + significant(torques) + " in torque but " +
                     significant(currents) +
                     " in current; iron makes it less, never more. One of the currents is meant otherwise "
                     "(peak for rms), or limited by a drive.",
                 "motor.peak_current");
}

/// R_th·P_cu over the rise it may have.
Found heat_contradicts(const LimitContext& c) {
  const Ratings r = ratings_of(c);
  const Motor& motor = *c.model.motor;
  const double copper = r.loss_share * r.warm_resistance * r.rated_current * r.rated_current;
  const double ratio = r.r_thermal * copper / (motor.winding_limit - motor.catalogue_ambient);
  if (!std::isfinite(ratio) || (ratio >= 0.75 && ratio <= 1.25)) return std::nullopt;
  return warning(
      "Heat path and rated current disagree",
      "At rated current the winding would rise " + significant(ratio) + " times what it may." +
          usual_factor(
              ratio,
              {{2.0, "A resistance of two leads taken for one phase, or amperes in peak, look like that."},
               {1.5, "A resistance of a delta's winding taken for two leads looks like that."},
               {0.6667, "A resistance of two leads of a delta taken for its winding looks like that."},
               {0.5, "A resistance of one phase taken for two leads looks like that."}}),
      "motor.resistance");
}

/// 2·R·I² at rest: from memory 4 to 25 W for the middle frames, 2 to 60 W over all.
Found stepper_heat(const LimitContext& c) {
  const auto* stepper = dynamic_cast<const StepperMotor*>(c.model.motor.get());
  if (stepper == nullptr) return std::nullopt;
  const double on = stepper->system.phases * stepper->system.on_at_rating;
  const double watts = on * stepper->resistance * stepper->rated_current * stepper->rated_current;
  if (!std::isfinite(watts) || (watts >= 2.0 && watts <= 60.0)) return std::nullopt;
  return warning(
      "Winding heat of the stepper is not usual",
      "The phases that the rating has on make " + format(watts, Kind::power, c.units).text() +
          "; usual are 2 to 60 W (from memory). Series and parallel, or unipolar and bipolar ratings, may "
          "be mixed.",
      "motor.resistance");
}

/// Rotor inertias by kind and frame, from memory.
struct UsualInertia {
  double frame, low, high; ///< m, kg·m²
};
constexpr std::array servo_rotors{UsualInertia{0.040, 3e-6, 7e-6}, UsualInertia{0.060, 20e-6, 60e-6},
                                  UsualInertia{0.080, 60e-6, 180e-6}, UsualInertia{0.130, 300e-6, 2500e-6}};
constexpr std::array six_step_rotors{UsualInertia{0.042, 2e-6, 10e-6}, UsualInertia{0.057, 10e-6, 35e-6},
                                     UsualInertia{0.080, 50e-6, 150e-6}};
constexpr std::array stepper_rotors{UsualInertia{0.042, 3e-6, 8e-6}, UsualInertia{0.057, 12e-6, 48e-6},
                                    UsualInertia{0.086, 100e-6, 270e-6}};

/// Off by a unit: 10 (g·cm² for kg·cm²) or 9.81 (kgf). High-inertia rotors of three times the usual pass.
Found inertia_unlike_frame(const LimitContext& c) {
  const Motor& motor = *c.model.motor;
  const double frame = c.axis["motor"].term_if("frame");
  if (!motor.chosen || std::isnan(frame)) return std::nullopt;
  std::span<const UsualInertia> known;
  if (dynamic_cast<const ServoMotor*>(&motor) != nullptr)
    known = servo_rotors;
  else if (dynamic_cast<const StepperMotor*>(&motor) != nullptr)
    known = stepper_rotors;
  else if (dynamic_cast<const SixStepMotor*>(&motor) != nullptr)
    known = six_step_rotors;
  constexpr double same_frame = 0.06, far = 4.0;
  for (const UsualInertia& usual_rotor : known) {
    if (std::abs(frame / usual_rotor.frame - 1.0) > same_frame) continue;
    if (motor.inertia >= usual_rotor.low / far && motor.inertia <= far * usual_rotor.high)
      return std::nullopt;
    return warning("Rotor inertia unlike its frame",
                   format(motor.inertia, Kind::inertia, c.units).text() + " in a frame of " +
                       format(frame, Kind::length, c.units).text() + "; usual are " +
                       format(usual_rotor.low, Kind::inertia, c.units).text() + " to " +
                       format(usual_rotor.high, Kind::inertia, c.units).text() +
                       " (from memory). A factor of 10 lies between g·cm² and kg·cm² in some sheets, 9.81 "
                       "where kgf is meant.",
                   "motor.inertia");
  }
  return std::nullopt;
}

} // namespace

std::span<const WarningSpec> sheet_warnings() {
  static constexpr std::array list{
      WarningSpec{"sheet_rated", &rated_contradicts}, WarningSpec{"sheet_peak", &peak_contradicts},
      WarningSpec{"sheet_heat", &heat_contradicts}, WarningSpec{"sheet_stepper_heat", &stepper_heat},
      WarningSpec{"sheet_inertia", &inertia_unlike_frame}};
  return list;
}

} // namespace fulmox
