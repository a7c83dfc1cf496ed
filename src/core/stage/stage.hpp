#pragma once
#include "core/form/section.hpp"
#include "core/rotation/shaft_state.hpp"
#include "core/support/expected.hpp"

#include <optional>
#include <span>

namespace fulmox {

/// One reduction between two shafts: gearhead, gear pair, belt stage, coupling.
struct Stage {
  Term ratio{1.0, ""}; ///< turns in per turn out, > 0
  Term efficiency{1.0, ""}, back_efficiency{1.0, ""};
  Term input_inertia{0.0, ""}, output_inertia{0.0, ""}; ///< kg·m² each at its own shaft
  Term no_load{0.0, ""};                                ///< N·m at the input, opposes rotation
  Term no_load_rise{0.0, ""};                           ///< N·m·s/rad, what it grows by with speed
  Term backlash;                                        ///< rad at the output; NaN unknown
  Term stiffness;                                       ///< N·m/rad at the output; NaN unknown
  std::string_view title = "Stage";
  std::string path;

  /// State at the input shaft from that at the output. Own inertia and drag included; parts stay apart.
  [[nodiscard]] ShaftState input(const ShaftState& output, TorquePart own_part, Recorder& recorder) const;
};

/// One kind of stage: its form and how its ratio follows from it. Registered in stage.cpp.
struct StageSpec {
  SectionSpec section;
  Expected<Stage> (*build)(const Section& stage, Recorder& recorder);
};

std::span<const StageSpec* const> stage_specs();
const StageSpec* find_stage_spec(std::string_view id);

/// More stages in a row than anybody builds; keeps an instant of the cycle small.
inline constexpr std::size_t stage_limit = 8;

/// Builds all stages, the one next to the motor first; ids of their steps start with "stage.N.".
Expected<std::vector<Stage>> build_stages(std::span<const Section> stages, Recorder& recorder);

/// Fields every stage has after those of its ratio.
std::vector<FieldSpec> stage_fields(std::vector<FieldSpec> ratio, std::string_view efficiency_preset,
                                    std::string_view efficiency_help);
/// Fills everything but the ratio from those fields.
Stage stage_from(const Section& section, Term ratio);

/// i = z_2/z_1.
double teeth_ratio(double driven, double driving);
/// i = 1 + z_ring/z_sun: sun driven, ring held, carrier out.
double planetary_ratio(double ring, double sun);
/// (z_sun + z_ring)/n: n equally spaced planets go in when it is whole.
double planetary_assembly(double sun, double ring, double planets);
/// Tips of neighbouring planets: (z_sun + z_planet)·sin(π/n) − (z_planet + 2), in modules; must be positive.
double planetary_clearance(double sun, double planet, double planets);
/// η of a worm, worm drives: tanγ·(1 − μ·tanγ)/(tanγ + μ) in its simple form; γ lead angle in rad.
double worm_efficiency(double lead_angle, double friction);
/// η_b of a worm, wheel drives: (tanγ − μ)/(tanγ·(1 + μ·tanγ)); <= 0 means it locks itself.
double worm_back_efficiency(double lead_angle, double friction);

namespace book {
extern const Formula teeth_ratio, planetary_ratio, planetary_assembly, planetary_clearance, worm_efficiency,
    worm_back_efficiency;
}
std::span<const Formula* const> stage_formulas();

} // namespace fulmox
