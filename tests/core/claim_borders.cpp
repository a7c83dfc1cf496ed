#include "core/borders.hpp"

#include "core/motor/brushed.hpp"
#include "core/motor/servo.hpp"
#include "core/motor/six_step.hpp"
#include "core/motor/stepper.hpp"
#include "support/axes.hpp"

#include <array>
#include <cmath>
#include <string>

namespace fulmox::testing {
namespace {

using Change = std::function<void(Axis&)>;

/// A number in SI as it is typed, with the SI unit of its kind.
std::string typed(double value, const char* unit) {
  std::array<char, 64> text{};
  std::snprintf(text.data(), text.size(), "%.9g %s", value, unit);
  return text.data();
}

/// A servo's claim as a multiple of what the rest of its sheet gives.
Change servo(const char* field, const char* unit, double (*follows)(const ServoMotor&), double times) {
  return [=](Axis& axis) {
    const Evaluation e = evaluated(axis);
    axis["motor"].type(field, typed(times * follows(dynamic_cast<const ServoMotor&>(*e.model->motor)), unit));
  };
}

double km(const ServoMotor& m) { return m.kt / std::sqrt(1.5 * m.resistance); }
double winding_time(const ServoMotor& m) { return m.inductance / m.resistance; }
double rotor_time(const ServoMotor& m) { return m.inertia * 1.5 * m.resistance / (m.kt * m.kt); }

/// Rated power at 2000 rpm.
Change power(double times) {
  return [=](Axis& axis) {
    const Evaluation e = evaluated(axis);
    const double speed = 2000.0 * 3.14159265358979 / 30.0;
    axis["motor"].type("rated_speed", "2000 rpm");
    axis["motor"].type("rated_power", typed(times * speed * e.model->motor->continuous_torque(speed), "W"));
  };
}

/// Speed without load of a brushed or six-step motor on 30 V, 0.4 A.
Change without_load(const SectionSpec& form, double times) {
  return [&form, times](Axis& axis) {
    axis["surroundings"].type("bus", "48 V");
    choose_part(axis, "motor", parts_of_form("motor", form).back());
    const auto built = evaluated(axis).model->motor;
    const auto& motor = dynamic_cast<const DcFedMotor&>(*built);
    axis["motor"].type("nominal_voltage", "30 V");
    axis["motor"].type("no_load_current", "0.4 A");
    axis["motor"].type("no_load_speed",
                       typed(times * (30.0 - motor.brush_drop - 0.4 * motor.resistance) / motor.k, "rad/s"));
  };
}

Change stalled(double times) {
  return [times](Axis& axis) {
    axis["surroundings"].type("bus", "48 V");
    choose_part(axis, "motor", parts_of_form("motor", brushed_motor_section()).back());
    const auto built = evaluated(axis).model->motor;
    const auto& motor = dynamic_cast<const DcFedMotor&>(*built);
    axis["motor"].type("nominal_voltage", "30 V");
    axis["motor"].type(
        "stall_torque",
        typed(times * (motor.k * (30.0 - motor.brush_drop) / motor.resistance - motor.drag(0.0)), "N.m"));
  };
}

Change phase_volts(double times) {
  return [times](Axis& axis) {
    axis["surroundings"].type("bus", "48 V");
    choose_part(axis, "motor", *library().find("motor", "HS23-56-28"));
    const Section& sheet = axis["motor"];
    axis["motor"].type("rated_voltage",
                       typed(times * sheet.term("resistance") * sheet.term("rated_current"), "V"));
  };
}

/// Back-EMF such that torque per ampere is so many times it.
Change torque_over_emf(double ratio) {
  return [ratio](Axis& axis) {
    axis["surroundings"].type("bus", "48 V");
    choose_part(axis, "motor", *library().find("motor", "HS23-56-28"));
    const auto built = evaluated(axis).model->motor;
    axis["motor"].type("ke", typed(dynamic_cast<const StepperMotor&>(*built).k_torque / ratio, "V.s/rad"));
  };
}

} // namespace

std::vector<Border> claim_borders() {
  return {{"sheet_km", servo("motor_constant", "N·m/√W", &km, 0.899),
           servo("motor_constant", "N·m/√W", &km, 0.901)},
          {"sheet_km", servo("motor_constant", "N·m/√W", &km, 1.101),
           servo("motor_constant", "N·m/√W", &km, 1.099)},
          {"sheet_electrical_time", servo("electrical_time", "s", &winding_time, 1.101),
           servo("electrical_time", "s", &winding_time, 1.099)},
          {"sheet_electrical_time", servo("electrical_time", "s", &winding_time, 0.908),
           servo("electrical_time", "s", &winding_time, 0.910)},
          {"sheet_mechanical_time", servo("mechanical_time", "s", &rotor_time, 1.101),
           servo("mechanical_time", "s", &rotor_time, 1.099)},
          {"sheet_mechanical_time", servo("mechanical_time", "s", &rotor_time, 0.908),
           servo("mechanical_time", "s", &rotor_time, 0.910)},
          {"sheet_power", power(1.051), power(1.049)},
          {"sheet_power", power(0.949), power(0.951)},
          {"sheet_no_load", without_load(brushed_motor_section(), 1.051),
           without_load(brushed_motor_section(), 1.049)},
          {"sheet_no_load", without_load(six_step_motor_section(), 0.929),
           without_load(six_step_motor_section(), 0.931)},
          {"sheet_stall", stalled(1.101), stalled(1.099)},
          {"sheet_stall", stalled(0.849), stalled(0.851)},
          {"sheet_rated_voltage", phase_volts(1.051), phase_volts(1.049)},
          {"sheet_rated_voltage", phase_volts(0.949), phase_volts(0.951)},
          {"sheet_stepper_constants", torque_over_emf(1.051), torque_over_emf(1.049)},
          {"sheet_stepper_constants", torque_over_emf(0.669), torque_over_emf(0.671)}};
}

} // namespace fulmox::testing
