#include "core/motor/six_step.hpp"

#include "core/motor/block_heat.hpp"
#include "core/motor/constants.hpp"
#include "core/motor/dc_formulas.hpp"
#include "core/motor/magnets.hpp"
#include "core/motor/motor_fields.hpp"
#include "core/motor/sheet_claims.hpp"
#include "core/motor/winding.hpp"
#include "core/mounting/mounting.hpp"

#include <cmath>

namespace fulmox {

const SectionSpec& six_step_motor_section() {
  static const SectionSpec spec{
      "six_step_motor", "Brushless motor, six-step",
      motor_fields(
          {continuous_curve_field(), peak_curve_field(),
           optional("kt", "Torque constant", "Kt", Kind::torque_constant, range::positive,
                    "Torque per ampere."),
           maybe_one_of(
               "kt_per", "Kt refers to",
               {{"dc", "DC ampere"}, {"rms", "rms ampere"}, {"peak", "peak ampere"}},
               "The ampere meant: direct current that is commutated (not that of the supply), or the "
               "line current of sine currents, rms or peak. Blank: DC is assumed."),
           optional("ke", "Back-EMF constant", "Ke", Kind::emf_constant, range::positive, "Volts per speed."),
           maybe_one_of("ke_as", "Ke refers to",
                        {{"line rms", "line-line rms"},
                         {"line peak", "line-line peak"},
                         {"phase rms", "phase rms (wye)"},
                         {"phase peak", "phase peak (wye)"}},
                        "The volts meant. Blank: line-line rms is assumed."),
           one_of("emf_shape", "Back-EMF", {{"sine", "sine"}, {"flat", "flat top"}},
                  "How the volts of the spun motor run; most are nearer to a sine."),
           resistance_field("At 20 °C."), inductance_field("Delays every commutation; blank counts as none."),
           winding_as_field(), pole_pairs_field(), rated_current_field("Direct current, continuous."),
           peak_current_field("Direct current, for short times."), magnet_field(), magnet_temperature_field(),
           encoder_field(), feedback_field()},
          direct_current_claims())};
  return spec;
}

const MotorKind& six_step_motor() {
  static const MotorKind kind{
      {.form = &six_step_motor_section(),
       .summary = &part_summary,
       .help = "Three leads and Hall sensors; a simple drive feeds two leads at a time.",
       .prominent = {"inertia", "kt", "kt_per"},
       .library = "six_step_motors.csv",
       .columns = {"frame", "inertia", "continuous_curve", "kt", "max_speed", "rated_current"}},
      [](const Section& sheet, const Drive&, Recorder& recorder) -> std::unique_ptr<const Motor> {
        return std::make_unique<const SixStepMotor>(SixStepMotor::from(sheet, recorder));
      },
      &six_step_traits()};
  return kind;
}

namespace {

/// Ke as line-line peak; the rms of a flat wave is not that of a sine.
Term block_emf(const Section& sheet, bool flat, Recorder& recorder) {
  const std::string& as = sheet.text("ke_as");
  if (sheet.blank("ke") || !flat || (as != "line rms" && !as.empty())) return read_line_emf(sheet, recorder);
  return recorder.apply(book::ke_flat_from_line_rms, "motor.ke_line", {sheet.term("ke")});
}

Term block_constant(const Section& sheet, const Term& ke, bool flat, Recorder& recorder) {
  if (sheet.blank("kt")) {
    if (std::isnan(ke)) return unknown_term;
    return recorder.apply(flat ? book::kt_flat : book::kt_blocks_on_sine, "motor.kt_dc", {ke});
  }
  const Term given = sheet.term("kt");
  const std::string& per = sheet.text("kt_per");
  if (per == "rms") return recorder.apply(book::kt_blocks_from_rms, "motor.kt_dc", {given});
  if (per == "peak")
    return recorder.apply(book::kt_blocks_from_rms, "motor.kt_dc",
                          {recorder.apply(book::kt_from_peak, "motor.kt_rms", {given})});
  return recorder.apply(book::kt_dc_as_given, "motor.kt_dc", {given});
}

} // namespace

SixStepMotor SixStepMotor::from(const Section& sheet, Recorder& recorder) {
  SixStepMotor out;
  out.read_dc(sheet);
  out.flat = sheet.text("emf_shape") == "flat";
  out.ke = block_emf(sheet, out.flat, recorder);
  out.take_constant(block_constant(sheet, out.ke, out.flat, recorder), sheet, recorder);
  if (std::isnan(out.ke) && out.electric())
    out.ke = {out.flat ? out.k.value : out.k / kt_blocks_on_sine(1.0), ""};
  const LineWinding winding = read_line_winding(sheet, recorder);
  out.resistance = winding.resistance;
  out.inductance = winding.inductance;
  if (std::isnan(out.inductance)) out.inductance = {0.0, ""};
  out.pole_pairs = sheet.term("pole_pairs");
  out.warm_resistance = at_winding_limit(out.resistance, out.winding_limit, recorder);
  return out;
}

std::string_view SixStepMotor::refuses(Feed feed) const {
  switch (feed) {
  case Feed::any:
  case Feed::blocks:
    return "";
  case Feed::sine:
    return "Sine currents need a fine encoder, and this form is for blocks. Take the servo kind of motor.";
  case Feed::direct:
    return "A drive for brushed motors has two leads; this motor has three.";
  default:
    return "A drive for steppers has no leads for a motor of three phases.";
  }
}

bool SixStepMotor::has_circuit() const {
  return DcFedMotor::has_circuit() && (inductance == 0.0 || !std::isnan(pole_pairs));
}

BlockMachine SixStepMotor::warm_machine() const {
  return {k, warm_resistance, inductance, std::isnan(pole_pairs) ? 1.0 : pole_pairs.value, flat};
}

double SixStepMotor::current_at(double air_gap_torque, double speed, double) const {
  const double amperes = current(air_gap_torque);
  return has_circuit() ? block_heat_current(warm_machine(), std::abs(speed), amperes) : amperes;
}
Term SixStepMotor::record_current_at(const Term& air_gap, const Term& speed, const Term&, StepName step,
                                     Recorder& recorder) const {
  if (!has_circuit() || !(speed > 0.0)) return record_current(air_gap, step, recorder);
  const Term made = record_current(air_gap, "torque_current", recorder);
  const BlockMachine m = warm_machine();
  return recorder.apply(
      book::block_heat_current, step,
      {k, warm_resistance, inductance, {m.pole_pairs, pole_pairs.ref}, speed, made, shape()});
}

double SixStepMotor::driven_current(double speed, double volts) const {
  return block_current(warm_machine(), speed, volts);
}
double SixStepMotor::volts_for(double speed, double current) const {
  return block_volts(warm_machine(), speed, current);
}
Term SixStepMotor::record_volts_for(const Term& speed, const Term& current, StepName step,
                                    Recorder& recorder) const {
  const BlockMachine m = warm_machine();
  return recorder.apply(
      book::block_volts, step,
      {k, warm_resistance, inductance, {m.pole_pairs, pole_pairs.ref}, speed, current, shape()});
}
Term SixStepMotor::record_driven_torque(const Term& speed, const Term& volts, Recorder& recorder) const {
  const BlockMachine m = warm_machine();
  return recorder.apply(
      book::block_torque_at, "by_voltage",
      {k, warm_resistance, inductance, {m.pole_pairs, pole_pairs.ref}, speed, volts, shape()});
}

} // namespace fulmox
