#include "core/machine/laid_out.hpp"

#include <algorithm>
#include <array>

namespace fulmox {

PowerCurve coil_power(const Cycle& cycle, double watts) {
  PowerCurve out;
  for (const MotionPiece& piece : cycle.pieces) {
    const std::array value{piece.braked ? 0.0 : watts};
    out.pieces.push_back({piece.start, piece.start + piece.duration, Series::through(value)});
  }
  return out;
}

PowerCurve laid_out(const PowerCurve& own, double waiting, double period, const std::vector<Block>& blocks,
                    const Schedule& schedule, const std::vector<std::size_t>& mine) {
  PowerCurve out;
  const auto flat = [](double from, double to, double watts) {
    const std::array value{watts};
    return PowerPiece{from, to, Series::through(value)};
  };
  if (mine.empty() || own.pieces.empty()) return constant_power(waiting, period);
  std::vector<std::size_t> order = mine;
  std::sort(order.begin(), order.end(), [&](std::size_t a, std::size_t b) {
    return schedule.blocks[a].start < schedule.blocks[b].start;
  });
  const double first = schedule.blocks[order.front()].start;
  double at = 0.0; // from the first block's start: what passes the cycle's end is turned back below
  for (const std::size_t b : order) {
    const double start = schedule.blocks[b].start - first;
    if (start > at + 1e-12) out.pieces.push_back(flat(at, start, waiting));
    at = start;
    for (std::size_t r = 0; r < blocks[b].repeats; ++r) {
      for (const PowerPiece& piece : own.pieces)
        out.pieces.push_back({at + piece.from, at + piece.to, piece.watts});
      at += own.period();
    }
  }
  if (period > at + 1e-12) out.pieces.push_back(flat(at, period, waiting));
  out.pieces.back().to = period;
  return delayed(out, first);
}

} // namespace fulmox
