#pragma once
#include "core/support/expected.hpp"

#include <cstddef>
#include <limits>
#include <optional>
#include <span>
#include <string>
#include <vector>

namespace fulmox {

/// One axis's cycle as a part of the machine's: how long it is, how often it runs, what it waits for.
struct Block {
  /// Waits until segment `segment` (from 0) of another block has ended, in that one's last repeat.
  struct After {
    std::size_t block = 0;
    std::size_t segment = 0;
    double delay = 0.0; ///< s, >= 0
    bool operator==(const After&) const = default;
  };
  std::string name;
  std::size_t axis = 0;
  std::vector<double> ends; ///< s from its start, of every segment; the last is its length, > 0
  double offset = 0.0;      ///< s, >= 0, after what it waits for, else after the start of the machine's cycle
  std::size_t repeats = 1;
  std::vector<After> after;

  [[nodiscard]] double length() const { return ends.empty() ? 0.0 : ends.back(); }
  /// With its repeats. s.
  [[nodiscard]] double duration() const { return static_cast<double>(repeats) * length(); }
  bool operator==(const Block&) const = default;
};

/// How the machine's cycle is to be.
struct Pace {
  double cycle = std::numeric_limits<double>::quiet_NaN(); ///< s; NaN: as short as the blocks allow
  bool overlapping = false; ///< a cycle may begin before the last one has ended: blocks wrap around its end
};

struct PlacedBlock {
  double start = 0.0; ///< s from the start of the machine's cycle; below its length
  double end = 0.0;   ///< s, beyond the cycle's length where the block wraps around
  /// s by which it may start later with the cycle as long as it is; slacks of one chain are shared.
  double slack = 0.0;
  bool operator==(const PlacedBlock&) const = default;
};

struct Schedule {
  double cycle = 0.0;    ///< s
  double shortest = 0.0; ///< s, the least cycle these blocks allow
  std::vector<PlacedBlock> blocks;
  bool operator==(const Schedule&) const = default;
};

/// Places every block as early as its conditions allow. Refused, by name: a circle of conditions, a block
/// after itself or after a segment that does not exist, blocks of one axis at the same time, a cycle shorter
/// than the blocks take, times that are negative or not finite, repeats outside 1 … 100 000.
Expected<Schedule> place(std::span<const Block> blocks, const Pace& pace = {});

/// s, the least time after which axes that run on their own with these periods are all where they were: the
/// least common multiple of the periods in whole microseconds. Nothing where a period is no whole number of
/// them or the multiple exceeds `most`.
std::optional<double> hyperperiod(std::span<const double> periods, double most = 100.0);

} // namespace fulmox
