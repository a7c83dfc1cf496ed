#pragma once
#include "core/quantity/kind.hpp"

namespace fulmox {

/// In which kinds a motion is told: along a line or about an axis, worked against by a force or a torque.
struct MotionKinds {
  Kind distance = Kind::length;
  Kind speed = Kind::speed;
  Kind acceleration = Kind::acceleration;
  Kind jerk = Kind::jerk;
  Kind effort = Kind::force;

  [[nodiscard]] bool rotary() const { return distance == Kind::angle; }
  bool operator==(const MotionKinds&) const = default;
};

inline constexpr MotionKinds along_a_line{};
inline constexpr MotionKinds about_an_axis{Kind::angle, Kind::angular_speed, Kind::angular_acceleration,
                                           Kind::angular_jerk, Kind::torque};
/// A turning input that moves a load along a line: the crank.
inline constexpr MotionKinds turning_against_force{
    Kind::angle, Kind::angular_speed, Kind::angular_acceleration, Kind::angular_jerk, Kind::force};

} // namespace fulmox
