#pragma once
#include "core/match/fits.hpp"

#include <boost/container/deque.hpp>

#include <map>
#include <string_view>
#include <vector>

namespace fulmox {

/// What one thread found.
struct Found {
  /// There may be a million: never copied to grow.
  boost::container::deque<Trial, void,
                          boost::container::deque_options_t<boost::container::block_bytes<(1U << 16U)>>>
      fits;
  std::vector<FitBlock> blocks;
  /// What fits of a pair lies in one piece of either.
  struct Piece {
    std::size_t pair, from, to, from_block, to_block;
  };
  std::vector<Piece> pieces;
  std::map<std::string_view, double> killers;

  void kill(std::string_view limit, double combinations) { killers[limit] += combinations; }
};

/// What fits by rising motor and train, whichever thread found it. A pair is its train's place times the
/// number of motors, and its motor's place.
Fits in_order(const std::vector<Found>& found, std::size_t motors, Fits::Groups groups);

} // namespace fulmox
