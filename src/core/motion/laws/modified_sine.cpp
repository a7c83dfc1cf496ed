#include "core/motion/laws/fixed_law.hpp"
#include "core/motion/laws/laws.hpp"
#include "core/quantity/constants.hpp"

namespace fulmox {
namespace {

using constants::pi;

/// Quarter sines at both ends, a slower half sine between them; VDI 2143.
const FixedShape& shape() {
  constexpr double peak = 4.0 * pi * pi / (4.0 + pi);
  static const FixedShape unit{4.0 * pi / (4.0 + pi), peak, 16.0 * pi * pi * pi / (4.0 + pi),
                               ShapeBuilder()
                                   .sine(0.125, peak, 4.0 * pi, 0.0)
                                   .sine(0.375, peak, 4.0 / 3.0 * pi, 0.5 * pi)
                                   .sine(0.375, peak, 4.0 / 3.0 * pi, pi)
                                   .sine(0.125, peak, 4.0 * pi, 1.5 * pi)
                                   .take()};
  return unit;
}

} // namespace

const LawSpec& modified_sine_law() {
  static const LawSpec spec{
      "modified_sine", "Modified sine", "Low peak speed and no jumps: forgiving with heavy index tables.",
      fixed_law_fields(),
      [](const MoveGiven& given, Recorder& recorder) { return plan_fixed(given, shape(), recorder); }};
  return spec;
}

} // namespace fulmox
