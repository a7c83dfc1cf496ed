#pragma once
#include "core/form/section.hpp"
#include "core/form/slot.hpp"

namespace fulmox {

/// The form of a holding brake on the motor shaft.
const SectionSpec& brake_section();
const SlotSpec& brake_slot();

/// A fitted brake; blank fields fall back on the motor maker's own option.
struct Brake {
  bool fitted = false;
  Term inertia{0.0, ""};
  Term torque{0.0, ""}; ///< NaN when nobody gave it

  static Brake from(const Section& brake, const Section& motor);
};

} // namespace fulmox
