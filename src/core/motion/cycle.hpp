#pragma once
#include "core/project/section.hpp"
#include "core/support/expected.hpp"
#include "core/working/recorder.hpp"

#include <span>
#include <vector>

namespace fulmox {

/// A stretch of the cycle with constant acceleration; position is x0 + v0·τ + a·τ²/2 for 0 <= τ <= duration.
struct Piece {
  double start = 0.0;    ///< s from the start of the cycle
  double duration = 0.0; ///< s, > 0
  double x0 = 0.0;       ///< m or rad
  Term v0{0.0, ""};
  Term a{0.0, ""};
  double direction = 0.0;  ///< sign of the speed inside the piece; 0 at rest
  std::size_t segment = 0; ///< index in the cycle
  bool braked = false;     ///< the holding brake carries the load

  [[nodiscard]] bool rest() const { return direction == 0.0; }
  [[nodiscard]] double position(double tau) const { return x0 + (v0 + 0.5 * a * tau) * tau; }
  [[nodiscard]] double speed(double tau) const { return v0 + a * tau; }
};

struct Cycle {
  std::vector<Piece> pieces;
  double duration = 0.0;
  double net_travel = 0.0;            ///< where the cycle ends, from its start; 0 for a closed cycle
  std::vector<double> segment_start;  ///< s, one per segment
  double lowest = 0.0, highest = 0.0; ///< reach of the position
};

/// Kinds of segment: "move" and "dwell".
std::span<const SectionSpec* const> segment_specs();
const SectionSpec* find_segment_spec(std::string_view id);

/// Lays the segments out in time and records each move's peak speed and accelerations.
/// Refuses: no segments, no move at all, ramp shares that do not fit into the move (naming the largest that
/// does).
Expected<Cycle> build_cycle(std::span<const Section> segments, Recorder& recorder);

} // namespace fulmox
