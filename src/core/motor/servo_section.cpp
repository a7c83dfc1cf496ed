#include "core/motor/interior.hpp"
#include "core/motor/magnets.hpp"
#include "core/motor/motor_fields.hpp"
#include "core/motor/servo.hpp"
#include "core/motor/sheet_claims.hpp"
#include "core/mounting/mounting.hpp"

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
           resistance_field("At 20 °C."),
           inductance_field(
               "Of a rotor with magnets inside: the least reading, pulled into line with the leads."),
           optional("inductance_q", "Inductance across", "L_q", Kind::inductance, range::positive,
                    "Only where the reading turns with the rotor (magnets inside it): the greatest one. "
                    "Blank: the same at every angle."),
           winding_as_field(), pole_pairs_field(), rated_current_field("Rms, continuous."),
           peak_current_field("Rms, at peak torque."), magnet_field(), magnet_temperature_field(),
           optional("demag_current", "Demagnetising current", "I_dm", Kind::current, range::positive,
                    "Peak ampere along the magnets that harms them when they are hot (ferrite: cold)."),
           encoder_field(), feedback_field()},
          sheet_claims())};
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
        std::unique_ptr<ServoMotor> motor = servo_of(sheet, recorder);
        motor->weakened = drive.weakening;
        return motor;
      },
      &servo_traits()};
  return kind;
}

} // namespace fulmox
