#include "core/match/found.hpp"

#include <boost/range/iterator_range.hpp>

#include <algorithm>
#include <utility>

namespace fulmox {

Fits in_order(const std::vector<Found>& found, std::size_t motors, Fits::Groups groups) {
  struct Of {
    std::size_t motor;
    Found::Piece piece;
    const Found* found;
  };
  std::vector<Of> pieces;
  std::size_t trials = 0, blocks = 0;
  for (const Found& one : found) {
    for (const Found::Piece& piece : one.pieces) pieces.push_back({piece.pair % motors, piece, &one});
    trials += one.fits.size();
    blocks += one.blocks.size();
  }
  std::sort(pieces.begin(), pieces.end(), [](const Of& a, const Of& b) {
    return a.motor != b.motor ? a.motor < b.motor : a.piece.pair < b.piece.pair;
  });
  Fits fits(std::move(groups));
  fits.reserve(pieces.size(), trials, blocks);
  for (const auto& [motor, piece, of] : pieces) {
    const auto begin = of->fits.begin();
    fits.add(boost::make_iterator_range(begin + static_cast<std::ptrdiff_t>(piece.from),
                                        begin + static_cast<std::ptrdiff_t>(piece.to)),
             std::span(of->blocks).subspan(piece.from_block, piece.to_block - piece.from_block));
  }
  return fits;
}

} // namespace fulmox
