#include "core/quantity/units.hpp"

#include "core/quantity/constants.hpp"

#include <array>

namespace fulmox {
namespace {

using namespace constants;

constexpr Dimension none{0, 0, 0, 0, 0, 0};
constexpr Dimension length{1, 0, 0, 0, 0, 0};
constexpr Dimension mass{0, 1, 0, 0, 0, 0};
constexpr Dimension time_{0, 0, 1, 0, 0, 0};
constexpr Dimension current{0, 0, 0, 1, 0, 0};
constexpr Dimension kelvin{0, 0, 0, 0, 1, 0};
constexpr Dimension angle{0, 0, 0, 0, 0, 1};
constexpr Dimension rate{0, 0, -1, 0, 0, 1};
constexpr Dimension frequency{0, 0, -1, 0, 0, 0};
constexpr Dimension force{1, 1, -2, 0, 0, 0};
constexpr Dimension torque{2, 1, -2, 0, 0, 0};
constexpr Dimension inertia{2, 1, 0, 0, 0, 0};
constexpr Dimension power{2, 1, -3, 0, 0, 0};
constexpr Dimension voltage{2, 1, -3, -1, 0, 0};
constexpr Dimension resistance{2, 1, -3, -2, 0, 0};
constexpr Dimension inductance{2, 1, -2, -2, 0, 0};
constexpr Dimension capacitance{-2, -1, 4, 2, 0, 0};
constexpr Dimension acceleration{1, 0, -2, 0, 0, 0};

constexpr double kgf = standard_gravity;

// Units that take SI prefixes.
constexpr Unit prefixed[] = {
    {"m", 1.0, length},
    {"g", 1e-3, mass},
    {"s", 1.0, time_},
    {"A", 1.0, current},
    {"N", 1.0, force},
    {"J", 1.0, torque, Kind::energy},
    {"W", 1.0, power},
    {"V", 1.0, voltage},
    {"Ω", 1.0, resistance},
    {"Ohm", 1.0, resistance},
    {"ohm", 1.0, resistance},
    {"H", 1.0, inductance},
    {"Wb", 1.0, {2, 1, -2, -1, 0, 0}},
    {"F", 1.0, capacitance},
    {"Hz", 1.0, frequency, Kind::frequency},
    {"rpm", rpm, rate},
    {"rad", 1.0, angle},
    {"Nm", 1.0, torque, Kind::torque},
    {"Wh", 3600.0, torque, Kind::energy},
};

constexpr Unit fixed[] = {
    {"%", 0.01, none},
    {"K", 1.0, kelvin},
    {"°C", 1.0, kelvin, Kind::temperature, zero_celsius},
    {"degC", 1.0, kelvin, Kind::temperature, zero_celsius},
    {"°F", 5.0 / 9.0, kelvin, Kind::temperature, 459.67},
    {"degF", 5.0 / 9.0, kelvin, Kind::temperature, 459.67},
    {"°", degree, angle},
    {"deg", degree, angle},
    {"arcmin", degree / 60.0, angle},
    {"arcsec", degree / 3600.0, angle},
    {"rev", tau, angle},
    {"turn", tau, angle},
    {"r/min", rpm, rate},
    {"min", 60.0, time_},
    {"h", 3600.0, time_},
    {"d", 86400.0, time_},
    {"day", 86400.0, time_},
    {"days", 86400.0, time_},
    {"wk", 604800.0, time_},
    {"week", 604800.0, time_},
    {"weeks", 604800.0, time_},
    {"in", inch, length},
    {"inch", inch, length},
    {"tpi", 1.0 / inch, {-1, 0, 0, 0, 0, 0}},
    {"ft", 12.0 * inch, length},
    {"yd", 36.0 * inch, length},
    {"mil", 1e-3 * inch, length},
    {"thou", 1e-3 * inch, length},
    {"uin", 1e-6 * inch, length},
    {"µin", 1e-6 * inch, length},
    {"lb", pound, mass},
    {"lbm", pound, mass},
    {"lbs", pound, mass},
    {"oz", ounce, mass},
    {"t", 1000.0, mass},
    {"slug", pound_force / (12.0 * inch), mass},
    {"lbf", pound_force, force},
    {"ozf", ounce_force, force},
    {"kgf", kgf, force},
    {"kp", kgf, force},
    {"gf", 1e-3 * kgf, force},
    {"gn", standard_gravity, acceleration},
    {"Ncm", 1e-2, torque, Kind::torque},
    {"kgfcm", 1e-2 * kgf, torque, Kind::torque},
    {"ozfin", ounce_force* inch, torque, Kind::torque},
    {"lbfin", pound_force* inch, torque, Kind::torque},
    {"lbfft", pound_force * 12.0 * inch, torque, Kind::torque},
    {"kgm2", 1.0, inertia},
    {"kgcm2", 1e-4, inertia},
    {"gcm2", 1e-7, inertia},
    {"kgmm2", 1e-6, inertia},
    {"hp", 550.0 * pound_force * 12.0 * inch, power},
    {"PS", 75.0 * kgf, power},
};

struct Prefix {
  std::string_view symbol;
  double factor;
};
constexpr Prefix prefixes[] = {
    {"n", 1e-9}, {"µ", 1e-6}, {"μ", 1e-6}, {"u", 1e-6}, {"m", 1e-3},
    {"c", 1e-2}, {"d", 1e-1}, {"k", 1e3},  {"M", 1e6},
};

constexpr auto all = [] {
  std::array<Unit, std::size(prefixed) + std::size(fixed)> table{};
  std::size_t next = 0;
  for (const Unit& unit : prefixed) table[next++] = unit;
  for (const Unit& unit : fixed) table[next++] = unit;
  return table;
}();

} // namespace

std::span<const Unit> unit_table() { return all; }

std::optional<Unit> find_unit(std::string_view symbol) {
  for (const Unit& unit : all)
    if (unit.symbol == symbol) return unit;
  for (const Prefix& prefix : prefixes) {
    if (!symbol.starts_with(prefix.symbol)) continue;
    const std::string_view rest = symbol.substr(prefix.symbol.size());
    for (Unit unit : prefixed)
      if (unit.symbol == rest) {
        unit.factor *= prefix.factor;
        return unit;
      }
  }
  return std::nullopt;
}

} // namespace fulmox
