#pragma once
#include "core/motion/law.hpp"
#include "core/motion/segments.hpp"

#include <span>
#include <vector>

namespace fulmox {

/// A stretch of the cycle in closed form, moving in one direction or at rest; position counts from the start
/// of the cycle.
struct MotionPiece {
  double start = 0.0;    ///< s from the start of the cycle
  double duration = 0.0; ///< s, > 0
  Path path;
  double direction = 0.0;  ///< sign of the speed inside the piece; 0 at rest
  std::size_t segment = 0; ///< index in the cycle
  std::size_t index = 0;   ///< in the cycle's pieces
  std::size_t passage = 0; ///< index in the passages
  bool braked = false;     ///< the holding brake carries the load
  bool ramp = false;       ///< constant acceleration: the working writes v0 + a·τ
  Term v0{0.0, ""}, a{0.0, ""};
  std::vector<double> cuts; ///< s from the start of the piece: corners of a process curve

  [[nodiscard]] bool rest() const { return direction == 0.0; }
  [[nodiscard]] double position(double tau) const { return path.position(tau); }
  [[nodiscard]] double speed(double tau) const { return path.speed(tau); }
};

/// One run through a segment; inside a repeated group there are several.
struct Passage {
  std::size_t segment = 0;
  double start = 0.0, duration = 0.0; ///< s
  double from = 0.0, distance = 0.0;  ///< m or rad
};

/// What a segment adds to the load while it lasts, and what it turned out to be.
struct SegmentFacts {
  Term payload{0.0, ""};                            ///< kg
  Term effort_first{0.0, ""}, effort_last{0.0, ""}; ///< N or N·m
  std::vector<CurvePoint> effort_curve;             ///< over position
  std::string_view effort_ref;
  Term time, distance;                           ///< of the whole segment
  Term peak_speed, peak_acceleration, peak_jerk; ///< NaN where they do not apply
  double accel_share = 0.0, decel_share = 0.0;
};

struct Cycle {
  MotionKinds kinds;
  std::vector<MotionPiece> pieces;
  std::vector<Passage> passages;
  std::vector<SegmentFacts> facts; ///< one per segment
  double duration = 0.0;
  double net_travel = 0.0;            ///< where the cycle ends, from its start; 0 for a closed cycle
  double lowest = 0.0, highest = 0.0; ///< reach of the position

  /// Process force or torque of the piece's segment at a moment.
  [[nodiscard]] Term effort(const MotionPiece& piece, double tau, Recorder& recorder) const;
  [[nodiscard]] double greatest_payload() const;
};

/// Lays the segments out in time and records each move's peak speed and accelerations.
/// Refuses: no segments, no motion at all, moves that contradict themselves, speeds that jump between
/// segments, groups without end; names the nearest that is feasible.
Expected<Cycle> build_cycle(std::span<const Section> segments, const MotionKinds& kinds, Recorder& recorder);

} // namespace fulmox
