#pragma once
#include "core/form/section.hpp"
#include "core/form/slot.hpp"

namespace fulmox {

/// The form of a coupling between motor (or gearhead) and mechanism; also the columns of a coupling library.
const SectionSpec& coupling_section();
const SlotSpec& coupling_slot();

struct Coupling {
  bool fitted = false;
  Term rated_torque, max_speed, bore_min, bore_max, stiffness; ///< NaN where not told
  Term inertia;                                                ///< 0 where not told

  static Coupling from(const Section& section);
};

} // namespace fulmox
