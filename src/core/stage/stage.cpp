#include "core/stage/stage.hpp"

#include "core/rotation/rotation.hpp"
#include "core/stage/stages.hpp"

#include <array>
#include <cmath>
#include <numbers>

namespace fulmox {

std::span<const StageSpec* const> stage_specs() {
  static const std::array specs{&gear_pair_stage(), &belt_stage(), &bevel_stage(),
                                &planetary_stage(), &worm_stage(), &coupling_stage()};
  return specs;
}

const StageSpec* find_stage_spec(std::string_view id) {
  for (const StageSpec* spec : stage_specs())
    if (spec->section.id == id) return spec;
  return nullptr;
}

Expected<std::vector<Stage>> build_stages(std::span<const Section> stages, Recorder& recorder) {
  if (stages.size() > stage_limit)
    return Problem{stages[stage_limit].path,
                   "there are more than " + std::to_string(stage_limit) + " stages in a row.",
                   "Put some of them together into one."};
  std::vector<Stage> out;
  for (std::size_t i = 0; i < stages.size(); ++i) {
    const Recorder::Scope scope(recorder, "stage." + std::to_string(i + 1) + ".");
    const StageSpec* spec = find_stage_spec(stages[i].spec().id);
    auto stage = spec->build(stages[i], recorder);
    if (!stage) return stage.problem();
    (*stage).title = spec->section.title;
    (*stage).path = stages[i].path;
    out.push_back(std::move(*stage));
  }
  return out;
}

ShaftState Stage::input(const ShaftState& output, TorquePart own_part, Recorder& recorder) const {
  ShaftState in;
  in.direction = output.direction;
  in.load_speed = output.load_speed;
  in.speed = recorder.apply<&fulmox::stage_speed>(book::stage_speed, {"motor_speed", "Motor speed"},
                                                  output.speed, ratio);
  in.acceleration = recorder.apply<&fulmox::stage_speed>(
      book::stage_acceleration, {"motor_acceleration", "Motor acceleration"}, output.acceleration, ratio);
  Term out = output.torque;
  double at_output = 0.0;
  if (output_inertia > 0.0) {
    const Term own = recorder.apply<&fulmox::inertia_torque>(
        book::inertia_torque, {"stage_output_inertia_torque", "Accelerates the stage's output side"},
        output_inertia, output.acceleration);
    out = recorder.apply(book::torque_sum, "stage_output_torque", {out, own});
    at_output = own;
  }
  in.crossing_power = out * output.direction;
  const Term through =
      in.crossing_power > 0.0
          ? recorder.apply<&fulmox::stage_driving>(book::stage_driving, "gear_torque", out, ratio, efficiency)
      : in.crossing_power < 0.0
          ? recorder.apply<&fulmox::stage_backdriven>(book::stage_backdriven, "gear_torque", out, ratio,
                                                      back_efficiency)
          : recorder.apply<&fulmox::stage_rest>(book::stage_rest, "gear_torque", out, ratio);
  const Term own = recorder.apply<&fulmox::inertia_torque>(
      book::inertia_torque, {"gear_inertia_torque", "Accelerates the stage"}, input_inertia, in.acceleration);
  Term drag = recorder.apply<&fulmox::opposing_torque>(book::opposing_torque,
                                                       {"gear_drag", "No-load torque of the stage"},
                                                       Term{output.direction, ""}, no_load);
  if (no_load_rise > 0.0)
    drag = recorder.apply(book::rising_drag, "gear_drag_at_speed", {drag, no_load_rise, in.speed});
  in.torque =
      recorder.apply(book::torque_sum, {"load_torque", "Load torque at the motor"}, {through, own, drag});

  in.parts = output.parts;
  in.parts[own_part] += at_output;
  in.parts.scale(1.0 / ratio);
  in.parts[own_part] += own;
  in.parts[TorquePart::drag] += drag;
  in.parts[TorquePart::losses] += through - out / ratio;
  return in;
}

std::vector<FieldSpec> stage_fields(std::vector<FieldSpec> fields, std::string_view efficiency_preset,
                                    std::string_view efficiency_help) {
  if (!efficiency_preset.empty()) {
    fields.push_back(needed("efficiency", "Efficiency", "η", Kind::share, range::efficiency,
                            efficiency_preset, efficiency_help));
    fields.push_back(optional("back_efficiency", "Back-driving efficiency", "η_b", Kind::share,
                              {-range::infinity, 1.0}, "When the load drives. Blank: the same."));
  }
  fields.push_back(optional("input_inertia", "Inertia on the motor side", "J_1", Kind::inertia,
                            range::not_negative,
                            "Of what turns with the shaft towards the motor. Blank: neglected."));
  fields.push_back(optional("output_inertia", "Inertia on the load side", "J_2", Kind::inertia,
                            range::not_negative,
                            "Of what turns with the shaft towards the load. Blank: neglected."));
  fields.push_back(optional("no_load", "Drag torque", "T_0", Kind::torque, range::not_negative,
                            "At the shaft towards the motor, without load; opposes rotation."));
  fields.push_back(optional("backlash", "Backlash", "", Kind::angle, range::not_negative,
                            "At the shaft towards the load."));
  fields.push_back(optional("stiffness", "Torsional stiffness", "k", Kind::torsional_stiffness,
                            range::positive, "At the shaft towards the load."));
  return fields;
}

Stage stage_from(const Section& section, Term ratio) {
  Stage stage;
  stage.ratio = ratio;
  if (section.spec().index_of("efficiency")) {
    stage.efficiency = section.term("efficiency");
    stage.back_efficiency =
        section.blank("back_efficiency") ? stage.efficiency : section.term("back_efficiency");
  }
  stage.input_inertia = section.term_or("input_inertia", 0.0);
  stage.output_inertia = section.term_or("output_inertia", 0.0);
  stage.no_load = section.term_or("no_load", 0.0);
  stage.backlash = section.term("backlash");
  stage.stiffness = section.term("stiffness");
  return stage;
}

double teeth_ratio(double driven, double driving) { return driven / driving; }
double planetary_ratio(double ring, double sun) { return 1.0 + ring / sun; }
double planetary_assembly(double sun, double ring, double planets) { return (sun + ring) / planets; }
double planetary_clearance(double sun, double planet, double planets) {
  return (sun + planet) * std::sin(std::numbers::pi / planets) - (planet + 2.0);
}
double worm_efficiency(double lead_angle, double friction) {
  const double slope = std::tan(lead_angle);
  return slope * (1.0 - friction * slope) / (slope + friction);
}
double worm_back_efficiency(double lead_angle, double friction) {
  const double slope = std::tan(lead_angle);
  return (slope - friction) / (slope * (1.0 + friction * slope));
}

namespace book {
namespace {
const Parameter sun{"z_s", "z_s", Kind::number, "teeth of the sun", range::positive};
const Parameter ring{"z_r", "z_r", Kind::number, "teeth of the ring", range::positive};
const Parameter planets{"n", "n", Kind::number, "planets", range::positive};
const Parameter gamma{"gamma", "γ", Kind::angle, "lead angle of the worm", {0.0, 1.5, true}};
const Parameter mu{"mu", "μ", Kind::number, "friction in the mesh", range::not_negative};
constexpr std::string_view kinematics = "gear kinematics";
constexpr std::string_view wedge = "inclined plane wound round a cylinder: machine-design textbooks";
} // namespace
const Formula teeth_ratio{"stage.teeth",
                          "Ratio from teeth",
                          "i",
                          "{z_2}/{z_1}",
                          Kind::number,
                          {{"z_2", "z_2", Kind::number, "teeth of the driven wheel", range::positive},
                           {"z_1", "z_1", Kind::number, "teeth of the driving wheel", range::positive}},
                          kinematics,
                          calling<&fulmox::teeth_ratio>};
const Formula planetary_ratio{"stage.planetary",
                              "Ratio of a planetary stage",
                              "i",
                              "1 + {z_r}/{z_s}",
                              Kind::number,
                              {ring, sun},
                              "Willis; ring held, carrier out",
                              calling<&fulmox::planetary_ratio>};
const Formula planetary_assembly{"stage.assembly",
                                 "Assembly number",
                                 "N",
                                 "({z_s} + {z_r})/{n}",
                                 Kind::number,
                                 {sun, ring, planets},
                                 "whole for equally spaced planets",
                                 calling<&fulmox::planetary_assembly>};
const Formula planetary_clearance{
    "stage.clearance",
    "Room between neighbouring planets",
    "c",
    "({z_s} + {z_p})·sin(π/{n}) − ({z_p} + 2)",
    Kind::number,
    {sun, {"z_p", "z_p", Kind::number, "teeth of a planet", range::positive}, planets},
    "tip circles of standard teeth, in modules",
    calling<&fulmox::planetary_clearance>};
const Formula worm_efficiency{"stage.worm", "Efficiency of a worm, worm drives",
                              "η",          "tan {gamma}·(1 − {mu}·tan {gamma})/(tan {gamma} + {mu})",
                              Kind::share,  {gamma, mu},
                              wedge,        calling<&fulmox::worm_efficiency>};
const Formula worm_back_efficiency{"stage.worm_back",
                                   "Efficiency of a worm, wheel drives",
                                   "η_b",
                                   "(tan {gamma} − {mu})/(tan {gamma}·(1 + {mu}·tan {gamma}))",
                                   Kind::share,
                                   {gamma, mu},
                                   wedge,
                                   calling<&fulmox::worm_back_efficiency>};
} // namespace book

std::span<const Formula* const> stage_formulas() {
  static const std::array list{&book::teeth_ratio,        &book::planetary_ratio,
                               &book::planetary_assembly, &book::planetary_clearance,
                               &book::worm_efficiency,    &book::worm_back_efficiency};
  return list;
}

} // namespace fulmox
