#include "core/motion/laws/fixed_law.hpp"
#include "core/motion/laws/laws.hpp"
#include "core/quantity/constants.hpp"

namespace fulmox {
namespace {

using constants::pi;

const FixedShape& shape() {
  static const FixedShape unit{2.0, 2.0 * pi, 4.0 * pi * pi,
                               ShapeBuilder()
                                   .sine(0.25, 2.0 * pi, 2.0 * pi, 0.0)
                                   .sine(0.25, 2.0 * pi, 2.0 * pi, 0.5 * pi)
                                   .sine(0.25, 2.0 * pi, 2.0 * pi, pi)
                                   .sine(0.25, 2.0 * pi, 2.0 * pi, 1.5 * pi)
                                   .take()};
  return unit;
}

} // namespace

const LawSpec& cycloidal_law() {
  static const LawSpec spec{
      "cycloidal", "Cycloidal", "Acceleration is one full sine: no jumps, easy on the mechanism.",
      fixed_law_fields(),
      [](const MoveGiven& given, Recorder& recorder) { return plan_fixed(given, shape(), recorder); }};
  return spec;
}

} // namespace fulmox
