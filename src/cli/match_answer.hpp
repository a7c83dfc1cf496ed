#pragma once
#include "core/match/ranking.hpp"
#include "core/match/rejected_parts.hpp"

#include <nlohmann/json.hpp>

#include <memory>

namespace fulmox::cli {

/// What a search found, in the order of the weights.
struct MatchAnswer {
  MatchSpace space;
  MatchResult result;
  std::shared_ptr<Settler> settle;
  Weights weights;
  std::vector<std::size_t> order;
  std::size_t listed = 0; ///< that pass the filter
  std::vector<std::vector<FacetCount>> counts;
};

/// The answer with so many of those that fit.
nlohmann::ordered_json answer_json(const MatchAnswer& answer, std::size_t top);

/// How near a part comes.
nlohmann::ordered_json outlook_json(const MatchSpace& space, std::string_view slot, const PartChoice& part,
                                    const PartOutlook& outlook);

} // namespace fulmox::cli
