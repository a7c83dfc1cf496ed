#pragma once
#include "core/quantity/kind.hpp"

#include <string>

namespace fulmox {

/// A value ready to be shown: number and unit apart, so that the unit can be set in lighter ink.
struct Shown {
  std::string number;
  std::string unit;
  [[nodiscard]] std::string text() const {
    if (unit.empty()) return number;
    return unit == "°" || unit == "%" ? number + (unit == "%" ? " %" : unit) : number + " " + unit;
  }
};

/// Formats an SI value with a sensible prefix and the given number of significant figures (1 to 15).
/// NaN gives "–", infinity "∞".
Shown format(double si, Kind kind, UnitSet set = UnitSet::si, int digits = 3);

/// The same as one text, with three figures: "12.5 mm".
std::string shown(double si, Kind kind);

/// A share of one in whole percent: 0.254 → "25 %".
std::string whole_percent(double share);

/// A bound with three figures that keeps it when typed back: rounded up for "at least", down for "at most".
std::string at_least(double si, Kind kind);
std::string at_most(double si, Kind kind);

/// The unit the formatter would choose for this value: for axes of plots.
const DisplayUnit& display_unit(double si, Kind kind, UnitSet set = UnitSet::si);

/// A plain number with the given count of significant figures, never in exponent form between 1e-4 and 1e9.
std::string significant(double value, int digits = 3);

} // namespace fulmox
