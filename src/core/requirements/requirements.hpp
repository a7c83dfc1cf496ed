#pragma once
#include "core/form/section.hpp"
#include "core/form/slot.hpp"

namespace fulmox {

/// The form for what is asked of an axis beyond its moves: how exact, how stiff, how much room to stop.
const SectionSpec& requirements_section();
const SlotSpec& requirements_slot();

/// What is asked of an axis whose load turns, or goes along a line; NaN where nothing is.
struct Requirements {
  Term tolerance;      ///< m or rad, to either side
  Term bandwidth;      ///< Hz, of the speed loop
  Term settling;       ///< s
  Term stops;          ///< emergency stops in the life of the machine
  Term room;           ///< m or rad, to stop in
  Term end_speed;      ///< m/s or rad/s, against the end stop
  Term stop_stiffness; ///< N/m, of the end stop

  static Requirements from(const Section& section, bool turning);
};

} // namespace fulmox
