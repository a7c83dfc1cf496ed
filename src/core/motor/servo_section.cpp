#include "core/motor/motor_fields.hpp"
#include "core/motor/servo.hpp"

namespace fulmox {

const SectionSpec& servo_motor_section() {
  static const SectionSpec spec{
      "motor", "Motor",
      motor_fields(
          {continuous_curve_field(), peak_curve_field(),
           optional("kt", "Torque constant", "Kt", Kind::torque_constant, range::positive,
                    "Torque per ampere."),
           maybe_one_of("kt_per", "Kt refers to",
                        {{"rms", "rms ampere"}, {"peak", "peak ampere"}, {"dc", "DC ampere"}},
                        "The ampere meant: rms of the line current, its peak, or DC into a six-step drive."),
           optional("ke", "Back-EMF constant", "Ke", Kind::emf_constant, range::positive, "Volts per speed."),
           maybe_one_of("ke_as", "Ke refers to",
                        {{"line rms", "line-line rms"},
                         {"line peak", "line-line peak"},
                         {"phase rms", "phase rms (wye)"},
                         {"phase peak", "phase peak (wye)"}},
                        "The volts meant."),
           resistance_field("At 20 °C."), inductance_field(""), winding_as_field(), pole_pairs_field(),
           rated_current_field("Rms, continuous."), peak_current_field("Rms, at peak torque."),
           maybe_one_of(
               "magnet", "Magnets", {{"NdFeB", "NdFeB"}, {"SmCo", "SmCo"}, {"ferrite", "ferrite"}},
               "Hot they give less torque per ampere, cold more back-EMF: Kt and Ke are then taken as "
               "at 20 °C, torque with hot magnets, volts with cold ones. Blank: both as they stand."),
           optional("magnet_temperature", "Magnets at most", "T_m", Kind::temperature, {253.15, 523.15},
                    "What they reach in duty. Blank: 60 % of the winding's rise above the ambient of the "
                    "catalogue."),
           encoder_field()})};
  return spec;
}

const MotorKind& servo_motor() {
  static const MotorKind kind{
      {.form = &servo_motor_section(),
       .summary = &part_summary,
       .prominent = {"inertia", "kt", "kt_per"},
       .library = "motors.csv",
       .columns = {"frame", "inertia", "continuous_curve", "peak_curve", "max_speed", "rated_current"},
       .name = "Servo motor, sine currents"},
      [](const Section& sheet, const Drive& drive, Recorder& recorder) -> std::unique_ptr<const Motor> {
        ServoMotor motor = ServoMotor::from(sheet, recorder);
        motor.weakened = drive.weakening;
        return std::make_unique<const ServoMotor>(std::move(motor));
      }};
  return kind;
}

} // namespace fulmox
