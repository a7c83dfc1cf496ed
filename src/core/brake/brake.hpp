#pragma once
#include "core/form/section.hpp"
#include "core/form/slot.hpp"

#include <limits>

namespace fulmox {

/// The form of a holding brake on the motor shaft.
const SectionSpec& brake_section();
const SlotSpec& brake_slot();

/// A fitted brake; blank fields fall back on the motor maker's own option.
struct Brake {
  bool fitted = false;
  Term inertia{0.0, ""};
  Term torque{0.0, ""};                                           ///< NaN when nobody gave it
  Term power{0.0, ""};                                            ///< W, of the coil that keeps it open
  Term delay{0.0, ""}, in_motion{1.0, ""};                        ///< s; torque in motion over holding torque
  Term stop_energy{std::numeric_limits<double>::quiet_NaN(), ""}; ///< J in one stop; NaN when nobody gave it
  Term stops{std::numeric_limits<double>::quiet_NaN(), ""};       ///< allowed in its life; NaN likewise
  Term max_speed{std::numeric_limits<double>::quiet_NaN(), ""};   ///< rad/s at which it may close
  Term coil_volts{std::numeric_limits<double>::quiet_NaN(), ""};  ///< V; NaN likewise

  static Brake from(const Section& brake, const Section& motor);
};

/// What the maker's own brake adds to a motor's price: 0 where none is fitted, or one that is a part of its
/// own; NaN where the motor's sheet does not tell it.
double own_brake_price(const Section& brake, const Section& motor);

} // namespace fulmox
