#include "core/motor/brushed.hpp"

#include "core/motor/dc_formulas.hpp"
#include "core/motor/magnets.hpp"
#include "core/motor/motor_fields.hpp"
#include "core/motor/sheet_claims.hpp"
#include "core/motor/winding.hpp"
#include "core/mounting/mounting.hpp"

namespace fulmox {

const SectionSpec& brushed_motor_section() {
  static const SectionSpec spec{
      "brushed_motor", "Brushed DC motor",
      motor_fields(
          {continuous_curve_field(), peak_curve_field(),
           optional("kt", "Torque constant", "Kt", Kind::torque_constant, range::positive,
                    "Torque per ampere; equals the back-EMF constant in V·s/rad."),
           optional("ke", "Back-EMF constant", "Ke", Kind::emf_constant, range::positive,
                    "Volts per speed, like 5 V/krpm; its inverse is the speed constant. Give this or Kt."),
           resistance_field("Between the leads, brushes left out, at 20 °C."),
           inductance_field("Between the leads."),
           optional("brush_drop", "Brush drop", "V_b", Kind::voltage, range::not_negative,
                    "Both brushes: metal 0.1–0.3 V, carbon 1–2 V (from memory). Blank: none."),
           rated_current_field("Direct current, continuous."),
           peak_current_field("What commutator and magnets stand for short times."), magnet_field(),
           magnet_temperature_field(), encoder_field(), feedback_field()},
          brushed_claims())};
  return spec;
}

const MotorKind& brushed_motor() {
  static const MotorKind kind{
      {.form = &brushed_motor_section(),
       .summary = &part_summary,
       .help = "Two leads, carbon or metal brushes; wears, but runs from any direct voltage.",
       .prominent = {"inertia", "kt", "resistance"},
       .library = "brushed_motors.csv",
       .columns = {"frame", "inertia", "continuous_curve", "kt", "max_speed", "rated_current"}},
      [](const Section& sheet, const Drive&, Recorder& recorder) -> std::unique_ptr<const Motor> {
        return std::make_unique<const BrushedMotor>(BrushedMotor::from(sheet, recorder));
      },
      &brushed_traits()};
  return kind;
}

BrushedMotor BrushedMotor::from(const Section& sheet, Recorder& recorder) {
  BrushedMotor out;
  out.read_dc(sheet);
  Term constant = unknown_term;
  if (!sheet.blank("kt"))
    constant = recorder.apply(book::kt_dc_as_given, "motor.kt_dc", {sheet.term("kt")});
  else if (!sheet.blank("ke"))
    constant = recorder.apply(book::kt_flat, "motor.kt_dc", {sheet.term("ke")});
  out.take_constant(constant, sheet, recorder);
  out.resistance = sheet.term("resistance");
  out.warm_resistance = at_winding_limit(out.resistance, out.winding_limit, recorder);
  out.brush_drop = sheet.term_or("brush_drop", 0.0);
  return out;
}

std::string_view BrushedMotor::refuses(Feed feed) const {
  if (feed == Feed::any || feed == Feed::direct) return "";
  return "A brushed motor has two leads and commutates itself: it needs a drive for direct current.";
}

double BrushedMotor::driven_current(double speed, double volts) const {
  return dc_torque_at(k, warm_resistance, brush_drop, speed, volts) / k;
}
double BrushedMotor::volts_for(double speed, double current) const {
  return dc_volts(k, warm_resistance, brush_drop, speed, current);
}
Term BrushedMotor::record_volts_for(const Term& speed, const Term& current, StepName step,
                                    Recorder& recorder) const {
  return recorder.apply(book::dc_volts, step, {k, warm_resistance, brush_drop, speed, current});
}
Term BrushedMotor::record_driven_torque(const Term& speed, const Term& volts, Recorder& recorder) const {
  return recorder.apply(book::dc_torque_at, "by_voltage", {k, warm_resistance, brush_drop, speed, volts});
}

} // namespace fulmox
