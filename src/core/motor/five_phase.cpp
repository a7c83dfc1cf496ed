#include "core/motor/motor_fields.hpp"
#include "core/motor/sheet_claims.hpp"
#include "core/motor/stepper.hpp"
#include "core/motor/winding.hpp"

#include <cmath>
#include <numbers>

namespace fulmox {
namespace {

/// How the five phases are joined.
struct Winding {
  std::string_view name;
  double volts, leads; ///< of a phase's sine over the bus; of a lead over a phase
};
// Half the bus on a leg's sine; between two legs 2·sin of half their angle. Power is the same on both sides,
// so currents go the other way.
const std::array windings{
    Winding{"star", 0.5, 1.0},
    Winding{"pentagon 144", std::sin(0.4 * std::numbers::pi), 2.0 * std::sin(0.4 * std::numbers::pi)},
    Winding{"pentagon 72", std::sin(0.2 * std::numbers::pi), 2.0 * std::sin(0.2 * std::numbers::pi)}};

std::vector<FieldSpec> five_phase_fields() {
  std::vector<FieldSpec> all{
      usually("teeth", "Rotor teeth", "N_r", Kind::number, range::whole(1.0, 1000.0), "50",
              "A full step is 360°/(10·N_r): 50 teeth make 0.72°, 100 make 0.36°."),
      optional("holding_torque", "Holding torque", "T_hold", Kind::torque, range::positive,
               "With the phases on that the sheet names, at the rated current."),
      one_of("phases_on", "Rated with", {{"4", "four phases on"}, {"5", "five phases on"}},
             "How many carry the rated current at the holding torque: four is usual in a star."),
      rated_current_field("Of one phase."),
      one_of("winding", "Joined as",
             {{"star", "star"},
              {"pentagon 144", "pentagon, legs 144° apart"},
              {"pentagon 72", "pentagon, legs 72° apart"}},
             "Decides which share of the supply a phase sees. Both pentagons occur: ask the maker."),
      resistance_field("Of one phase at 20 °C."),
      inductance_field("Of one phase."),
      optional("ke", "Back-EMF constant", "K_E", Kind::emf_constant, range::positive,
               "Crest of one phase of the spun motor. Blank: as torque per ampere.")};
  for (FieldSpec& field : stepper_curve_fields()) all.push_back(std::move(field));
  return all;
}

} // namespace

StepperMotor StepperMotor::five_phase(const Section& sheet, const Drive& drive, Recorder& recorder) {
  StepperMotor out;
  out.read_common(sheet);
  out.hysteresis = sheet.term_or("hysteresis", 0.0);
  out.eddy = sheet.term_or("eddy", 0.0);
  out.teeth = sheet.term("teeth");
  const bool all_on = sheet.text("phases_on") == "5";
  out.system = {.phases = 5.0, .steps_per_tooth = 10.0, .on_at_rating = all_on ? 1.0 : 0.8, .by_sines = true};
  for (const Winding& winding : windings)
    if (winding.name == sheet.text("winding")) {
      out.system.volts = winding.volts;
      out.system.leads = winding.leads;
    }
  out.rated_current = sheet.term("rated_current");
  out.holding_rated = sheet.term("holding_torque");
  out.resistance = sheet.term("resistance");
  out.inductance = sheet.term("inductance");
  out.warm_resistance = at_winding_limit(out.resistance, out.winding_limit, recorder);
  out.detent = sheet.term_or("detent", 0.0);
  if (!std::isnan(out.holding_rated) && !std::isnan(out.rated_current)) {
    // sums of the vectors of four and five phases, 72° apart with those beyond 90° turned round
    const double worth =
        all_on ? 1.0 / std::sin(0.1 * std::numbers::pi) : 1.0 / std::tan(0.1 * std::numbers::pi);
    out.k_torque = recorder.apply(book::five_phase_constant, "motor.stepper_constant",
                                  {out.holding_rated, out.rated_current, {worth, ""}});
  }
  out.k_emf = sheet.blank("ke") ? Term{out.k_torque / 2.5, out.k_torque.ref} : sheet.term("ke");
  out.take_settings(drive, recorder);
  out.read_tables(sheet);
  return out;
}

const SectionSpec& five_phase_section() {
  static const SectionSpec spec{"five_phase", "Stepper motor, five phases",
                                motor_fields(five_phase_fields(), stepper_claims())};
  return spec;
}

const MotorKind& five_phase_motor() {
  static const MotorKind kind{
      {.form = &five_phase_section(),
       .summary = &part_summary,
       .help = "Five-phase stepper, open loop: steps of 0.72°, less swing; needs a drive of five legs.",
       .prominent = {"inertia", "holding_torque", "winding"},
       .library = "five_phase_motors.csv",
       .columns = {"frame", "inertia", "holding_torque", "rated_current", "resistance", "inductance"},
       .name = "Stepper, five phases",
       .check = &check_stepper_tables},
      [](const Section& sheet, const Drive& drive, Recorder& recorder) -> std::unique_ptr<const Motor> {
        return std::make_unique<const StepperMotor>(StepperMotor::five_phase(sheet, drive, recorder));
      },
      &five_phase_traits()};
  return kind;
}

} // namespace fulmox
