#include "core/motion/laws/fixed_law.hpp"
#include "core/motion/laws/laws.hpp"

#include <limits>

namespace fulmox {
namespace {

constexpr double unbounded = std::numeric_limits<double>::infinity();

const FixedShape& shape() {
  static const FixedShape unit{2.0, 4.0, unbounded,
                               ShapeBuilder().constant(0.5, 4.0).constant(0.5, -4.0).take()};
  return unit;
}

} // namespace

const LawSpec& triangle_law() {
  static const LawSpec spec{
      "triangle", "Triangle",
      "Half the time speeding up, half slowing down: least peak acceleration for a time, highest peak speed.",
      fixed_law_fields(),
      [](const MoveGiven& given, Recorder& recorder) { return plan_fixed(given, shape(), recorder); }};
  return spec;
}

} // namespace fulmox
