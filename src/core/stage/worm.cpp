#include "core/stage/stages.hpp"

namespace fulmox {
namespace {

Expected<Stage> build(const Section& section, Recorder& recorder) {
  Stage stage = stage_from(
      section, recorder.apply(book::teeth_ratio, "ratio", {section.term("wheel"), section.term("starts")}));
  const Term gamma = section.term("lead_angle"), mu = section.term("friction");
  stage.efficiency = recorder.apply(book::worm_efficiency, "efficiency", {gamma, mu});
  stage.back_efficiency = recorder.apply(book::worm_back_efficiency, "back_efficiency", {gamma, mu});
  if (!(stage.efficiency > 0.0))
    return Problem{section.path + ".friction", "with this friction the worm cannot drive at all.",
                   "Check friction and lead angle."};
  return stage;
}

} // namespace

const StageSpec& worm_stage() {
  static const StageSpec spec{
      {"worm", "Worm stage",
       stage_fields({needed("starts", "Starts of the worm", "z_1", Kind::number, {1.0, 12.0}, "2", ""),
                     needed("wheel", "Teeth of the wheel", "z_2", Kind::number, {5.0, 1000.0}, "40", ""),
                     needed("lead_angle", "Lead angle", "γ", Kind::angle, {0.0, 1.2, true}, "12 deg",
                            "Of the worm at its mean diameter."),
                     needed("friction", "Friction in the mesh", "μ", Kind::number, {0.0, 0.5}, "0.05",
                            "Running 0.03–0.08, starting up to 0.12 (common practice).")},
                    "", "")},
      &build};
  return spec;
}

} // namespace fulmox
