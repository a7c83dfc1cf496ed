#pragma once
#include <array>
#include <cstdint>
#include <span>
#include <string_view>

namespace fulmox {

/// What is measured. A kind says more than a dimension: torque and energy share one, but 5 J is no torque.
enum class Kind : std::uint8_t {
  number,
  share,
  length,
  area,
  lead,
  angle,
  mass,
  time,
  speed,
  acceleration,
  jerk,
  angular_speed,
  angular_acceleration,
  angular_jerk,
  force,
  viscous_friction,
  torque,
  torque_squared_time,
  inertia,
  density,
  energy,
  power,
  frequency,
  current,
  current_squared_time,
  voltage,
  resistance,
  inductance,
  capacitance,
  torque_constant,
  emf_constant,
  speed_constant,
  flux_linkage,
  motor_constant,
  temperature,
  temperature_rise,
  thermal_resistance,
  heat_capacity,
  iron_viscous,
  torsional_stiffness,
  stiffness,
  count_ // number of kinds; not a kind
};

/// Exponents of metre, kilogram, second, ampere, kelvin, radian.
/// The radian counts as a dimension so that rpm and Hz, or mm and mm/rev, are told apart.
using Dimension = std::array<std::int8_t, 6>;

enum class UnitSet : std::uint8_t { si, inch };

/// One unit in which a kind may be shown: shown = SI / factor - offset.
struct DisplayUnit {
  std::string_view symbol;
  double factor;
  double offset = 0.0;
};

struct KindInfo {
  Kind kind;
  std::string_view id;   ///< stable name used in JSON output
  std::string_view name; ///< as said to the user: "a torque"
  std::string_view si;   ///< coherent SI unit
  Dimension dimension;
  std::span<const DisplayUnit>
      metric; ///< ascending; the formatter takes the one that keeps 1 <= |shown| < 1000
  std::span<const DisplayUnit> inch;
  /// No machine has more, or less other than nothing, in SI: beyond lie slips of unit and exponent.
  double least, most;

  [[nodiscard]] bool plausible(double value) const {
    const double magnitude = value < 0.0 ? -value : value;
    return value == 0.0 || (magnitude >= least && magnitude <= most);
  }
};

/// Description of a kind. Valid for every kind but count_.
const KindInfo& info(Kind kind);

} // namespace fulmox
