#include "core/mechanism/mechanisms.hpp"
#include "core/mechanism/screw_drive.hpp"
#include "core/mechanism/screw_formulas.hpp"
#include "core/rotation/rotation.hpp"

namespace fulmox {
namespace {

Expected<std::unique_ptr<Mechanism>> build(const MechanismInput& input, Recorder& recorder) {
  const Section& screw = input.mechanism;
  auto load = LinearLoad::from(input, recorder);
  if (!load) return load.problem();
  LinearDrive::Parts parts = screw_parts(*load, screw, recorder);
  parts.efficiency = screw.term("efficiency");
  parts.back_efficiency =
      screw.blank("back_efficiency")
          ? recorder.apply(book::screw_back_efficiency, "screw.back_efficiency", {parts.efficiency})
          : screw.term("back_efficiency");
  parts.drag = screw.term_or("drag", 0.0);
  if (!screw.blank("preload")) {
    const Term preload = recorder.apply(book::screw_preload_drag, "screw.preload_drag",
                                        {screw.term("preload"), parts.lever, screw.term("diameter")});
    parts.drag = recorder.apply(book::torque_sum, "screw.drag", {parts.drag, preload});
  }
  return made<ScrewDrive>(std::move(parts), screw, recorder);
}

std::vector<FieldSpec> fields() {
  std::vector<FieldSpec> all = screw_fields("10 mm", "16 mm");
  all.push_back(
      needed("efficiency", "Efficiency", "η", Kind::share, range::efficiency, "0.9",
             "Driving the load, without preload drag. Ball screws 0.85–0.95, lead screws 0.2–0.7 (common "
             "practice)."));
  all.push_back(
      optional("back_efficiency", "Back-driving efficiency", "η_b", Kind::share, {-range::infinity, 1.0},
               "When the load drives the screw. Blank means 2 − 1/η; below 0 the screw locks itself."));
  all.push_back(optional("drag", "Preload, bearings", "T_drag", Kind::torque, range::not_negative,
                         "Torque that always opposes rotation: preloaded nut, thrust bearing."));
  all.push_back(
      optional("preload", "Preload of the nut", "F_pl", Kind::force, range::not_negative,
               "Force between preloaded nuts; its drag is worked out. Leave blank when the drag is known."));
  all.push_back(optional("journal", "End journal diameter", "d_j", Kind::length, range::positive,
                         "Where the coupling sits; checked against its bores."));
  return all;
}

} // namespace

const MechanismSpec& screw_mechanism() {
  static const MechanismSpec spec{{"screw", "Ball or lead screw", fields()},
                                  &linear_load_section,
                                  along_a_line,
                                  false,
                                  &build,
                                  "A screw of known efficiency moves the load along a line."};
  return spec;
}

} // namespace fulmox
