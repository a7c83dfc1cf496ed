#include "core/borders.hpp"

#include "core/motor/brushed.hpp"
#include "core/motor/servo.hpp"
#include "core/motor/stepper.hpp"
#include "support/axes.hpp"

#include <cmath>
#include <string>

namespace fulmox::testing {
namespace {

using Change = std::function<void(Axis&)>;

/// The picker's motor, changed by what its model tells.
Change servo_with(const std::function<void(Section&, const ServoMotor&)>& change) {
  return [=](Axis& axis) {
    const Evaluation e = evaluated(axis);
    change(axis["motor"], dynamic_cast<const ServoMotor&>(*e.model->motor));
  };
}

/// Continuous torque in the air gap over Kt times rated current.
Change rated(double ratio) {
  return servo_with([=](Section& sheet, const ServoMotor& motor) {
    const double torque = ratio * motor.kt * motor.rated_current - motor.drag(0.0);
    sheet.type("continuous_curve",
               "0 rpm: " + text(torque, "N.m") + "; 6000 rpm: " + text(0.9 * torque, "N.m"));
  });
}

Change brushed_rated(double ratio) {
  return [=](Axis& axis) {
    choose_part(axis, "motor", parts_of_form("motor", brushed_motor_section()).back());
    const Evaluation e = evaluated(axis);
    const auto& motor = dynamic_cast<const DcFedMotor&>(*e.model->motor);
    axis["motor"].type("rated_current",
                       text((motor.continuous.front()[1] + motor.drag(0.0)) / motor.kt / ratio, "A"));
  };
}

/// Peak over continuous torque in units of peak over rated current.
Change peak(double ratio) {
  return servo_with([=](Section& sheet, const ServoMotor& motor) {
    const double torques = motor.peak_air_gap() / (motor.continuous.front()[1] + motor.drag(0.0));
    sheet.type("peak_current", text(torques / ratio * motor.rated_current, "A"));
  });
}

Change heated(double ratio) {
  return servo_with([=](Section& sheet, const ServoMotor& motor) {
    const double rise = motor.winding_limit - motor.catalogue_ambient;
    const double copper = 1.5 * motor.warm_resistance * motor.rated_current * motor.rated_current;
    sheet.type("r_case_ambient", text(ratio * rise / copper - motor.winding_to_case, "K/W"));
  });
}

Change watts(double power) {
  return [=](Axis& axis) {
    axis["surroundings"].type("bus", "48 V");
    choose_part(axis, "motor", *library().find("motor", "HS23-56-28"));
    axis["motor"].type("resistance", text(power / 2.0 / 2.8 / 2.8, "Ohm"));
  };
}

/// A servo's frame in mm and inertia in 1e-6 kg·m²; usual for 40 mm are 3 to 7.
Change rotor(double frame, double inertia) {
  return [=](Axis& axis) {
    axis["motor"].type("frame", text(frame, "mm"));
    axis["motor"].type("inertia", text(inertia * 1e-2, "kg.cm2"));
  };
}

} // namespace

std::vector<Border> sheet_borders() {
  return {{"sheet_rated", rated(0.849), rated(0.851)},
          {"sheet_rated", rated(1.151), rated(1.149)},
          {"sheet_rated", brushed_rated(1.16), brushed_rated(1.14)},
          {"sheet_peak", peak(1.101), peak(1.099)},
          {"sheet_heat", heated(1.251), heated(1.249)},
          {"sheet_heat", heated(0.749), heated(0.751)},
          {"sheet_stepper_heat", watts(60.1), watts(59.9)},
          {"sheet_stepper_heat", watts(1.99), watts(2.01)},
          {"sheet_inertia", rotor(40.0, 28.1), rotor(40.0, 27.9)},
          {"sheet_inertia", rotor(40.0, 0.749), rotor(40.0, 0.751)},
          {"sheet_inertia", rotor(41.0, 40.0), rotor(47.0, 40.0)}};
}

} // namespace fulmox::testing
