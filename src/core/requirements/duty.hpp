#pragma once
#include "core/form/section.hpp"

#include <array>
#include <string_view>

namespace fulmox {

/// The form for how much the machine works and where it stands: what energy costs in a year and which kinds
/// of motor may be there follow from it. Nothing on the ladder does.
const SectionSpec& duty_section();

/// Surroundings that not every kind of motor bears, as the form's fields name them.
enum class Place : std::uint8_t { explosive, clean, vacuum, washing, vibration, sparks, count_ };
inline constexpr std::size_t place_count = static_cast<std::size_t>(Place::count_);
std::string_view id_of(Place place);
std::string_view word_of(Place place);

/// The duty as numbers; NaN where it is left open.
struct Duty {
  double hours = 0.0; ///< a year, of work
  double years = 0.0;
  double energy_price = 0.0;                ///< of a kWh
  std::array<bool, place_count> is_there{}; ///< by Place
  static Duty from(const Section& section);
};

} // namespace fulmox
