#pragma once
#include "core/form/section.hpp"

namespace fulmox {

/// The form of a set of house rules: thresholds with a name and a reason.
const SectionSpec& house_rules_section();

struct HouseRules {
  Term attention, inertia_max, inertia_min, brake_factor, coupling_service, gear_exponent;
  bool rms_speed = false; ///< read the continuous curve at rms instead of mean speed
  std::string name;

  static HouseRules from(const Section& rules);
};

} // namespace fulmox
