#pragma once
#include "core/motion/motion_kinds.hpp"
#include "core/working/formula.hpp"

namespace fulmox {

/// A formula of motion in both its forms: along a line (id "motion.…") and about an axis (id "turn.…"). The
/// mathematics is the same, the units are not.
struct MotionFormula {
  explicit MotionFormula(Formula along);
  Formula line, turn;
  [[nodiscard]] const Formula& in(const MotionKinds& kinds) const { return kinds.rotary() ? turn : line; }
};

} // namespace fulmox
