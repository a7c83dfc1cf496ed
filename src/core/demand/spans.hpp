#pragma once
#include "core/demand/trace.hpp"

#include <vector>

namespace fulmox {

/// A stretch within a piece over which no power changes sign and no curve has a corner.
struct Span {
  std::size_t piece = 0;
  double from = 0.0, to = 0.0; ///< s from the start of the piece
};

/// The pieces cut where some power, torque or current changes its law, found between the samples of the
/// trace.
std::vector<Span> spans_of(const AxisModel& model, const Trace& trace);

/// How many steps of even time over a piece keep each within the travel over which its forces stay smooth.
int looks_over_travel(const Piece& piece, double smooth);

} // namespace fulmox
