#include "core/quantity/format.hpp"
#include "core/quantity/number_text.hpp"
#include "core/stage/stages.hpp"

#include <cmath>

namespace fulmox {
namespace {

bool whole(double value) { return std::abs(value - std::round(value)) < 1e-9; }

Expected<Stage> build(const Section& section, Recorder& recorder) {
  const Term sun = section.term("sun"), ring = section.term("ring"), planets = section.term("planets");
  if (ring <= sun)
    return Problem{section.path + ".ring", "the ring must be larger than the sun.",
                   "Check the tooth counts."};
  if (!whole(0.5 * (ring - sun)))
    return Problem{section.path + ".ring",
                   "no planet fits between: ring less sun must be even (uncorrected teeth).",
                   "Change the ring by one tooth."};
  const Term assembly = recorder.apply(book::planetary_assembly, "assembly", {sun, ring, planets});
  if (!whole(assembly)) {
    const double n = planets;
    const double below = std::floor(assembly) * n - sun, above = std::ceil(assembly) * n - sun;
    return Problem{section.path + ".planets",
                   "equally spaced planets cannot be put in: (sun + ring)/planets = " +
                       significant(assembly) + " is not whole.",
                   "A ring of " + number_text(below) + " or " + number_text(above) + " teeth would do."};
  }
  const Term clearance =
      recorder.apply(book::planetary_clearance, "clearance", {sun, {0.5 * (ring - sun), ring.ref}, planets});
  if (!(clearance > 0.0))
    return Problem{section.path + ".planets", "neighbouring planets touch each other.",
                   "Take fewer planets."};
  return stage_from(section, recorder.apply(book::planetary_ratio, "ratio", {ring, sun}));
}

} // namespace

const StageSpec& planetary_stage() {
  static const StageSpec spec{
      {"planetary", "Planetary stage",
       stage_fields(
           {needed("sun", "Teeth of the sun", "z_s", Kind::number, {5.0, 1000.0}, "18", "Towards the motor."),
            needed("ring", "Teeth of the ring", "z_r", Kind::number, {10.0, 10000.0}, "72", "Held still."),
            needed("planets", "Planets", "n", Kind::number, {1.0, 20.0}, "3",
                   "On the carrier, towards the load.")},
           "0.97", "A planetary stage 0.95–0.98 (common practice).")},
      &build};
  return spec;
}

} // namespace fulmox
