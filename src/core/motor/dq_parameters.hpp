#pragma once
#include "core/working/formula.hpp"

/// Symbols of the machine in rotor coordinates, as its formulas of all rotors name them.
namespace fulmox::book::dq {

inline constexpr Parameter speed{"omega", "ω", Kind::angular_speed, "mechanical speed", range::not_negative};
inline constexpr Parameter pole_pairs{"p", "p", Kind::number, "pole pairs", {1.0, 100.0}};
inline constexpr Parameter voltage{"V", "V", Kind::voltage, "phase peak voltage available", range::positive};
inline constexpr Parameter resistance_line{"R", "R_ll", Kind::resistance, "line-line resistance",
                                           range::positive};
inline constexpr Parameter current_limit{"I", "I", Kind::current, "current limit, peak", range::not_negative};
inline constexpr std::string_view source =
    "voltage equations of the permanent-magnet machine in rotor coordinates";

} // namespace fulmox::book::dq
