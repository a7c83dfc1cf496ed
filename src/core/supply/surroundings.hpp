#pragma once
#include "core/form/section.hpp"
#include "core/form/slot.hpp"

namespace fulmox {

/// The form for where the axis works: air, altitude, bus supply.
const SectionSpec& surroundings_section();
const SlotSpec& surroundings_slot();

struct Surroundings {
  Term ambient, altitude;      ///< K, m
  Term mounting{1.0, ""};      ///< resistance from case to air over that of the catalogue's plate
  Term bus, bus_low, bus_high; ///< V; NaN when no bus voltage is given
  Term supply_current, supply_peak;
  bool shared = false; ///< its bus belongs to the machine: the supply is judged there

  static Surroundings from(const Section& section);
};

} // namespace fulmox
