#include "core/quantity/format.hpp"

#include <array>
#include <charconv>
#include <cmath>

namespace fulmox {

std::string significant(double value, int digits) {
  if (std::isnan(value)) return "–";
  if (std::isinf(value)) return value > 0 ? "∞" : "−∞";
  if (value == 0.0) return "0";
  const double magnitude = std::abs(value);
  std::array<char, 64> buffer{};
  const auto print = [&](std::chars_format style, int precision) {
    const auto end =
        std::to_chars(buffer.data(), buffer.data() + buffer.size(), magnitude, style, precision).ptr;
    return std::string(buffer.data(), end);
  };
  std::string text;
  if (magnitude < 1e-4 || magnitude >= 1e9) {
    text = print(std::chars_format::scientific, digits - 1);
  } else {
    // rounding may carry into the next decade (9.996 -> 10.0): take the exponent after rounding
    const std::string rounded = print(std::chars_format::scientific, digits - 1);
    const int exponent = std::stoi(rounded.substr(rounded.find('e') + 1));
    const double scale = std::pow(10.0, exponent - digits + 1);
    if (exponent >= digits - 1) {
      const auto whole = static_cast<long long>(std::llround(std::round(magnitude / scale) * scale));
      text = std::to_string(whole);
    } else {
      text = print(std::chars_format::fixed, digits - 1 - exponent);
    }
  }
  return value < 0 ? "−" + text : text;
}

const DisplayUnit& display_unit(double si, Kind kind, UnitSet set) {
  const auto units = set == UnitSet::si ? info(kind).metric : info(kind).inch;
  const DisplayUnit* best = &units.front();
  if (!(std::abs(si) > 0.0) ||
      !std::isfinite(si)) { // zero has no size: take the usual unit, the middle one of three
    const std::size_t middle = units.size() / 2;
    return units[middle].factor > 1.0 ? units.front() : units[middle];
  }
  for (const DisplayUnit& unit : units)
    // 0.9995 shows as 1.00 with three figures, so it already belongs to the larger unit
    if (std::abs(si) / unit.factor >= 0.9995) best = &unit;
  return *best;
}

Shown format(double si, Kind kind, UnitSet set, int digits) {
  const DisplayUnit& unit = display_unit(si, kind, set);
  return {significant(si / unit.factor - unit.offset, digits), std::string(unit.symbol)};
}

namespace {
std::string bound(double si, Kind kind, double (*round)(double)) {
  if (!(std::abs(si) > 0.0) || !std::isfinite(si)) return format(si, kind).text();
  constexpr double slack = 1e-6; // of the last figure: a bound that is round already stays
  const double factor = display_unit(si, kind).factor;
  const double step = factor * std::pow(10.0, std::floor(std::log10(std::abs(si) / factor)) - 2.0);
  return format(step * round(si / step + (round(0.5) > 0.0 ? -slack : slack)), kind).text();
}
} // namespace

std::string shown(double si, Kind kind) { return format(si, kind).text(); }

std::string whole_percent(double share) { return std::to_string(std::lround(100.0 * share)) + " %"; }

std::string at_least(double si, Kind kind) { return bound(si, kind, std::ceil); }

std::string at_most(double si, Kind kind) { return bound(si, kind, std::floor); }

} // namespace fulmox
