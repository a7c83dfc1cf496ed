#include "core/motion/laws/fixed_law.hpp"
#include "core/motion/laws/laws.hpp"

#include <cmath>

namespace fulmox {
namespace {

const FixedShape& shape() {
  static const FixedShape unit{35.0 / 16.0, 84.0 * std::sqrt(5.0) / 25.0, 52.5,
                               ShapeBuilder::polynomial({0.0, 0.0, 0.0, 0.0, 35.0, -84.0, 70.0, -20.0})};
  return unit;
}

} // namespace

const LawSpec& polynomial_4567_law() {
  static const LawSpec spec{
      "4567", "4-5-6-7 polynomial",
      "Jerk starts and ends at zero: gentlest on a springy load, highest peak acceleration.",
      fixed_law_fields(),
      [](const MoveGiven& given, Recorder& recorder) { return plan_fixed(given, shape(), recorder); }};
  return spec;
}

} // namespace fulmox
