#include "core/motion/laws/fixed_law.hpp"
#include "core/motion/laws/laws.hpp"

#include <limits>

namespace fulmox {
namespace {

constexpr double unbounded = std::numeric_limits<double>::infinity();

const FixedShape& shape() {
  static const FixedShape unit{1.5, 6.0, unbounded, ShapeBuilder::polynomial({0.0, 0.0, 3.0, -2.0})};
  return unit;
}

} // namespace

const LawSpec& parabolic_law() {
  static const LawSpec spec{
      "parabolic", "Parabolic speed",
      "Least rms torque of all laws for an inertia; acceleration jumps at both ends.", fixed_law_fields(),
      [](const MoveGiven& given, Recorder& recorder) { return plan_fixed(given, shape(), recorder); }};
  return spec;
}

} // namespace fulmox
