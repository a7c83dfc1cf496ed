#include "core/motion/laws/fixed_law.hpp"
#include "core/motion/laws/laws.hpp"
#include "core/quantity/constants.hpp"

namespace fulmox {
namespace {

using constants::pi;

/// Constant accelerations joined by quarter sines; VDI 2143.
const FixedShape& shape() {
  constexpr double peak = 8.0 * pi / (2.0 + pi);
  static const FixedShape unit{2.0, peak, 4.0 * pi * peak,
                               ShapeBuilder()
                                   .sine(0.125, peak, 4.0 * pi, 0.0)
                                   .constant(0.25, peak)
                                   .sine(0.125, peak, 4.0 * pi, 0.5 * pi)
                                   .sine(0.125, peak, 4.0 * pi, pi)
                                   .constant(0.25, -peak)
                                   .sine(0.125, peak, 4.0 * pi, 1.5 * pi)
                                   .take()};
  return unit;
}

} // namespace

const LawSpec& modified_trapezoid_law() {
  static const LawSpec spec{
      "modified_trapezoid", "Modified trapezoid", "Lowest peak acceleration among the laws without jumps.",
      fixed_law_fields(),
      [](const MoveGiven& given, Recorder& recorder) { return plan_fixed(given, shape(), recorder); }};
  return spec;
}

} // namespace fulmox
