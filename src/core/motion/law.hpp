#pragma once
#include "core/motion/motion_kinds.hpp"
#include "core/motion/path.hpp"
#include "core/support/expected.hpp"
#include "core/working/recorder.hpp"

#include <span>
#include <string>
#include <string_view>
#include <vector>

namespace fulmox {

class Section;

/// What the user said about a move; NaN where blank. Speeds, accelerations and jerk are magnitudes.
struct MoveGiven {
  std::string path; ///< of the segment, for messages
  MotionKinds kinds;
  Term distance, time, speed, acceleration, deceleration, jerk;
  Term accel_share, decel_share, rounding;
  Term start_speed{0.0, ""}, end_speed{0.0, ""}; ///< along the direction of the move, >= 0

  static MoveGiven from(const Section& move, const MotionKinds& kinds);
  [[nodiscard]] double direction() const { return distance < 0.0 ? -1.0 : distance > 0.0 ? 1.0 : 0.0; }
  [[nodiscard]] bool through() const { return start_speed != 0.0 || end_speed != 0.0; }
  [[nodiscard]] Problem problem(std::string_view field, std::string what, std::string remedy) const;
};

/// A stretch of a planned move; position counts from the start of the move, in the unit of its distance.
struct PlanPiece {
  double duration = 0.0;
  Path path;
  bool ramp = false; ///< constant acceleration: the working writes v0 + a·τ
  Term v0{0.0, ""}, a{0.0, ""};
};

struct MovePlan {
  std::vector<PlanPiece> pieces;
  Term time, peak_speed, peak_acceleration, peak_jerk; ///< the last NaN where it is without bound
  double accel_share = 0.0, decel_share = 0.0;         ///< 0 where the shape is fixed
};

/// One law of motion. Registered in law.cpp.
struct LawSpec {
  std::string_view id;
  std::string_view label;
  std::string_view help;
  /// Which fields besides the distance the law can use; the form hides the others.
  std::vector<std::string_view> fields;
  Expected<MovePlan> (*plan)(const MoveGiven& given, Recorder& recorder);
};

std::span<const LawSpec* const> law_specs();
const LawSpec* find_law(std::string_view id);
/// Adds a law to the registry: for programs that bring their own, before any form is made.
void register_law(const LawSpec& spec);

} // namespace fulmox
