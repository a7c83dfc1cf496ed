#pragma once
#include "core/library/part_library.hpp"

#include <limits>
#include <string>
#include <string_view>
#include <vector>

namespace fulmox {

/// A part as it would stand in an axis: what may be tried in one of its slots.
struct PartChoice {
  Section section;
  std::string maker, number;
  std::string setting; ///< what is chosen of it, where it can be used in several ways: "bipolar parallel"
  double price = std::numeric_limits<double>::quiet_NaN();     ///< NaN: not known
  double mass = std::numeric_limits<double>::quiet_NaN();      ///< kg; NaN: not known
  double length = std::numeric_limits<double>::quiet_NaN();    ///< m; NaN: not known
  double lead_time = std::numeric_limits<double>::quiet_NaN(); ///< s; NaN: not known
  double stock = std::numeric_limits<double>::quiet_NaN();     ///< pieces; NaN: not known

  /// No part at all: a motor without gearhead, an axis without brake.
  [[nodiscard]] bool none() const { return number.empty(); }
  /// "HS11-32-07, bipolar parallel"; "" for none.
  [[nodiscard]] std::string name() const;
};

/// What may be tried in a slot of an axis, ordered by maker and number whatever files are read first: none
/// where the axis works without, then each part in every way in which it can be connected. Currents set on a
/// drive belong to the motor that is fitted now and are left open: the motor's rating counts then.
std::vector<PartChoice> choices_for(const Axis& axis, std::string_view slot, const Parts& parts,
                                    unsigned threads = 1);

/// The form with nothing in it but what the user sets and what a search keeps of that: as far as a search
/// looks at a slot that it fills itself.
Section kept_settings(const Section& section);

/// What stands in the slot now, as the only choice.
PartChoice choice_now(const Axis& axis, std::string_view slot);

} // namespace fulmox
