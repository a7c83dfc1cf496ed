#include "core/mechanism/mechanisms.hpp"
#include "core/mechanism/screw_drive.hpp"
#include "core/mechanism/screw_formulas.hpp"

namespace fulmox {
namespace {

Expected<std::unique_ptr<Mechanism>> build(const MechanismInput& input, Recorder& recorder) {
  const Section& screw = input.mechanism;
  auto load = LinearLoad::from(input, recorder);
  if (!load) return load.problem();
  LinearDrive::Parts parts = screw_parts(*load, screw, recorder);
  const std::initializer_list<Term> thread{screw.term("thread_friction"), parts.lever,
                                           screw.term("mean_diameter"), screw.term("flank")};
  parts.efficiency = recorder.apply(book::power_screw_efficiency, "screw.efficiency", thread);
  if (!(parts.efficiency > 0.0))
    return Problem{"mechanism.thread_friction", "with this friction the thread cannot be driven at all.",
                   "Check friction, lead and mean diameter."};
  parts.back_efficiency = recorder.apply(book::power_screw_back_efficiency, "screw.back_efficiency", thread);
  parts.drag = screw.term_or("drag", 0.0);
  parts.collar_friction = screw.term_or("collar_friction", 0.0);
  parts.collar_diameter = screw.term_or("collar_diameter", 0.0);
  if (parts.collar_friction > 0.0 && screw.blank("collar_diameter"))
    return Problem{"mechanism.collar_diameter", "the collar's friction needs its mean diameter.", "Give it."};
  return made<ScrewDrive>(std::move(parts), screw, recorder);
}

std::vector<FieldSpec> fields() {
  std::vector<FieldSpec> all = screw_fields("4 mm", "20 mm");
  all.push_back(needed("mean_diameter", "Mean diameter", "d_m", Kind::length, range::positive, "18 mm",
                       "Of the thread: nominal less half the pitch for trapezoidal threads."));
  all.push_back(needed(
      "flank", "Flank half-angle", "α", Kind::angle, {0.0, 1.0}, "15 deg",
      "15° for metric trapezoidal threads (ISO 2901), 14.5° for inch ones, 0 for square threads, 3° for "
      "the loaded flank of buttress threads (DIN 513)."));
  all.push_back(needed("thread_friction", "Thread friction", "μ", Kind::number, {0.0, 1.0, true}, "0.12",
                       "Steel on bronze 0.1–0.15, on plastic 0.05–0.2, greased (common practice)."));
  all.push_back(optional("collar_friction", "Collar friction", "μ_c", Kind::number, {0.0, 1.0},
                         "Of a plain thrust collar. Blank: rolling thrust bearing."));
  all.push_back(optional("collar_diameter", "Collar mean diameter", "d_c", Kind::length, range::positive,
                         "Where the collar's friction acts."));
  all.push_back(drag_field("Bearings: torque that always opposes rotation."));
  all.push_back(journal_field());
  return all;
}

} // namespace

const MechanismSpec& power_screw_mechanism() {
  static const MechanismSpec spec{
      {"power_screw", "Power screw", fields()},
      &linear_load_section,
      along_a_line,
      false,
      &build,
      "Trapezoidal, square and buttress threads: efficiency and self-locking follow from thread and "
      "friction."};
  return spec;
}

} // namespace fulmox
