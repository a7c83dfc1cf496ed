#pragma once
#include "core/match/ranking.hpp"

#include <nlohmann/json.hpp>

namespace fulmox::cli {

/// What a search found, in the order of the weights.
struct MatchAnswer {
  MatchSpace space;
  MatchResult result;
  Weights weights;
  std::vector<std::size_t> order;
  std::vector<std::vector<FacetCount>> counts;
};

/// The answer with so many of those that fit.
nlohmann::ordered_json answer_json(const MatchAnswer& answer, std::size_t top);

} // namespace fulmox::cli
