#pragma once
#include "core/match/search_task.hpp"

namespace fulmox {

/// Of the pairs without any fitting drive those that come nearest, the nearest first, as many as the run asks
/// for: those that may be nearest are worked out first, until no other can come nearer. Demands by train.
std::vector<Miss> nearest_misses(const SearchTask& task,
                                 const std::vector<std::optional<TrainDemand>>& demands,
                                 const PairBounds& bounds);

} // namespace fulmox
