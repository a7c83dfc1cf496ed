#pragma once
#include "core/match/search_task.hpp"

#include <algorithm>
#include <bit>
#include <cstdint>
#include <vector>

namespace fulmox {

/// A pair without any fitting drive.
struct Hopeless {
  float at_least = 0.0F;
  bool by_sums = false; ///< what sums tell is in the bound
  std::size_t pair = 0;
  /// In a heap the one that may come nearest is on top.
  bool operator<(const Hopeless& other) const {
    return at_least != other.at_least ? at_least > other.at_least : pair > other.pair;
  }
};

/// All pairs without any fitting drive, the one that may come nearest first. There may be millions, and few
/// are asked for: only those below some bound are put in order, and more when these are through.
class HopelessPairs {
public:
  explicit HopelessPairs(const PairBounds& bounds) : bounds_(bounds), counts_(drawers) {
    for (std::size_t pair = 0; pair < bounds_.size(); ++pair)
      if (bounds_.hopeless(pair)) ++counts_[drawer(bounds_.at_least(pair))];
  }

  /// Null where none is left.
  const Hopeless* nearest() {
    while (opened_ < drawers && (heap_.empty() || drawer(heap_.front().at_least) >= opened_)) open_more();
    return heap_.empty() ? nullptr : &heap_.front();
  }
  /// There must be one.
  Hopeless take() {
    std::pop_heap(heap_.begin(), heap_.end());
    const Hopeless one = heap_.back();
    heap_.pop_back();
    return one;
  }
  void put_back(const Hopeless& one) {
    heap_.push_back(one);
    std::push_heap(heap_.begin(), heap_.end());
  }

private:
  /// Shares rise with the bits of their floats, so the upper half of these sorts them coarsely.
  static constexpr std::size_t drawers = 1U << 16U;
  static std::size_t drawer(float share) { return std::bit_cast<std::uint32_t>(share) >> 16U; }

  void open_more() {
    const std::size_t before = opened_;
    for (std::size_t added = 0; opened_ < drawers && added < at_once_; ++opened_) added += counts_[opened_];
    at_once_ *= 4;
    for (std::size_t pair = 0; pair < bounds_.size(); ++pair) {
      if (!bounds_.hopeless(pair)) continue;
      const float share = bounds_.at_least(pair);
      if (const std::size_t its = drawer(share); its >= before && its < opened_)
        put_back({share, false, pair});
    }
  }

  const PairBounds& bounds_;
  std::vector<std::uint32_t> counts_; ///< by drawer
  std::size_t opened_ = 0;            ///< all drawers before this one are in the heap
  std::size_t at_once_ = 256;
  std::vector<Hopeless> heap_;
};

} // namespace fulmox
