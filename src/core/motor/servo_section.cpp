#include "core/motor/servo.hpp"

namespace fulmox {

const SectionSpec& servo_motor_section() {
  static const SectionSpec spec{
      "motor",
      "Motor",
      {part_number_field(),
       maker_field(),
       optional("frame", "Frame size", "", Kind::length, range::positive, "Side of the flange."),
       optional("inertia", "Rotor inertia", "J_m", Kind::inertia, range::positive, "Without brake."),
       optional("max_speed", "Maximum speed", "n_max", Kind::angular_speed, range::positive,
                "Mechanical limit."),
       points("continuous_curve", "Continuous torque", "T_c(n)", Kind::angular_speed, Kind::torque,
              range::not_negative, "Catalogue curve, like 0 rpm: 1.3 N.m; 3000 rpm: 1.27 N.m"),
       points("peak_curve", "Peak torque", "T_pk(n)", Kind::angular_speed, Kind::torque, range::not_negative,
              "Catalogue curve for short times."),
       optional("kt", "Torque constant", "Kt", Kind::torque_constant, range::positive, "Torque per ampere."),
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
       optional("resistance", "Resistance", "R", Kind::resistance, range::positive, "At 20 °C."),
       optional("inductance", "Inductance", "L", Kind::inductance, range::positive, ""),
       maybe_one_of(
           "winding_as", "R and L refer to",
           {{"terminal", "two leads"}, {"phase wye", "one phase, wye"}, {"phase delta", "one phase, delta"}},
           "Between two leads, or one phase: then wye or delta must be known."),
       optional("pole_pairs", "Pole pairs", "p", Kind::number, {1.0, 100.0}, "Half the number of poles."),
       optional("rated_current", "Rated current", "I_r", Kind::current, range::positive, "Rms, continuous."),
       optional("peak_current", "Peak current", "I_pk", Kind::current, range::positive,
                "Rms, at peak torque."),
       optional("hysteresis", "Friction and hysteresis", "k_h", Kind::torque, range::not_negative,
                "Drag that does not depend on speed."),
       optional("eddy", "Eddy-current drag", "k_e", Kind::iron_viscous, range::not_negative,
                "Drag that grows with speed, like 5 mN.m/krpm."),
       optional("r_winding_case", "Winding to case", "R_wc", Kind::thermal_resistance, range::positive, ""),
       optional("r_case_ambient", "Case to ambient", "R_ca", Kind::thermal_resistance, range::positive,
                "On the mounting plate of the catalogue."),
       optional("winding_limit", "Winding limit", "T_lim", Kind::temperature, {273.15, 573.15},
                "Insulation class, IEC 60085: B 130, F 155, H 180 °C."),
       optional("catalogue_ambient", "Catalogue ambient", "T_cat", Kind::temperature, {223.15, 373.15},
                "Usually 40 °C."),
       optional("winding_time", "Winding time constant", "τ_w", Kind::time, range::positive, ""),
       optional("case_time", "Case time constant", "τ_c", Kind::time, range::positive, ""),
       optional("shaft", "Shaft diameter", "d", Kind::length, range::positive, ""),
       mass_field(),
       optional("brake_torque", "Brake option", "T_b", Kind::torque, range::positive,
                "Holding torque of the maker's own brake."),
       optional("brake_inertia", "Brake inertia", "J_b", Kind::inertia, range::not_negative,
                "Added by the maker's own brake.")}};
  return spec;
}

const MotorKind& servo_motor() {
  static const MotorKind kind{
      {.form = &servo_motor_section(),
       .summary = &part_summary,
       .prominent = {"inertia", "kt", "kt_per"},
       .library = "motors.csv",
       .columns = {"frame", "inertia", "continuous_curve", "peak_curve", "max_speed", "rated_current"}},
      [](const Section& sheet, Recorder& recorder) -> std::unique_ptr<const Motor> {
        return std::make_unique<const ServoMotor>(ServoMotor::from(sheet, recorder));
      }};
  return kind;
}

} // namespace fulmox
