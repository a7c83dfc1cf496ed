#pragma once
#include <array>
#include <cstdint>
#include <numeric>
#include <string_view>

namespace fulmox {

/// Causes of torque, kept apart all the way to the motor shaft.
enum class TorquePart : std::uint8_t {
  rotor,
  gearhead,
  transmission,
  moved_mass,
  gravity,
  friction,
  process,
  drag,
  losses,
  count_
};

inline constexpr std::size_t torque_part_count = static_cast<std::size_t>(TorquePart::count_);

struct TorquePartInfo {
  std::string_view id;
  std::string_view label;
  std::string_view help;
};

inline constexpr std::array<TorquePartInfo, torque_part_count> torque_part_info{{
    {"rotor", "Rotor", "accelerates the motor's own rotor and the brake disc"},
    {"gearhead", "Gearhead", "accelerates the gearhead's inertia"},
    {"transmission", "Transmission", "accelerates turning parts between gearhead and load"},
    {"moved_mass", "Load", "accelerates the moved mass or turning load"},
    {"gravity", "Gravity", "carries weight less counterweight and spring"},
    {"friction", "Friction", "guides, seals, viscous friction"},
    {"process", "Process", "external force on the load"},
    {"drag", "Drag", "preload, bearings, gearhead without load, motor friction"},
    {"losses", "Losses", "what efficiency adds when driving and takes off when the load drives"},
}};

/// Torque in N·m at one shaft, by cause.
struct TorqueParts {
  std::array<double, torque_part_count> values{};
  double& operator[](TorquePart part) { return values[static_cast<std::size_t>(part)]; }
  double operator[](TorquePart part) const { return values[static_cast<std::size_t>(part)]; }
  [[nodiscard]] double sum() const { return std::accumulate(values.begin(), values.end(), 0.0); }
  void scale(double factor) {
    for (double& value : values) value *= factor;
  }
};

} // namespace fulmox
