#include "core/stage/stages.hpp"

namespace fulmox {

std::vector<FieldSpec> teeth_fields(std::string_view driving, std::string_view driven) {
  return {needed("driving", "Teeth, motor side", "z_1", Kind::number, {1.0, 10000.0}, driving, ""),
          needed("driven", "Teeth, load side", "z_2", Kind::number, {1.0, 10000.0}, driven, "")};
}

Expected<Stage> stage_by_teeth(const Section& section, Recorder& recorder) {
  return stage_from(
      section, recorder.apply(book::teeth_ratio, "ratio", {section.term("driven"), section.term("driving")}));
}

const StageSpec& gear_pair_stage() {
  static const StageSpec spec{
      {"gear_pair", "Gear pair",
       stage_fields(teeth_fields("20", "60"), "0.98", "Spur and helical pairs 0.97–0.99 (common practice).")},
      &stage_by_teeth};
  return spec;
}

const StageSpec& belt_stage() {
  static const StageSpec spec{
      {"belt_stage", "Belt stage",
       stage_fields(teeth_fields("20", "40"), "0.96", "Timing belts 0.94–0.98 (common practice).")},
      &stage_by_teeth};
  return spec;
}

const StageSpec& bevel_stage() {
  static const StageSpec spec{
      {"bevel", "Bevel pair",
       stage_fields(teeth_fields("20", "20"), "0.97", "Bevel pairs 0.95–0.98 (common practice).")},
      &stage_by_teeth};
  return spec;
}

const StageSpec& coupling_stage() {
  static const StageSpec spec{{"shaft_coupling", "Coupling", stage_fields({}, "", "")},
                              [](const Section& section, Recorder&) -> Expected<Stage> {
                                return stage_from(section, {1.0, ""});
                              }};
  return spec;
}

} // namespace fulmox
