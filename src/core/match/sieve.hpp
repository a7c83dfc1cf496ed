#pragma once
#include "core/match/ranking.hpp"

#include <limits>
#include <string>
#include <vector>

namespace fulmox {

/// What a filter says of each part, read once: a combination is looked at without a word being compared.
class Sieve {
public:
  /// Both must live as long.
  Sieve(const MatchSpace& space, const Filter& filter);

  /// The facets that are set and that a combination does not have, at most two are told apart.
  struct Failed {
    int number = 0;
    std::size_t facet = 0; ///< the only one
    bool price_or_stock = false;
    [[nodiscard]] bool nothing() const { return number == 0 && !price_or_stock; }
  };
  [[nodiscard]] Failed failed(const Trial& trial) const;

  /// The number of the value that a combination has of a facet, and all values by their numbers.
  [[nodiscard]] std::uint32_t value(std::size_t facet, const Trial& trial) const {
    return columns_[facet].value_of[trial.parts.*columns_[facet].place];
  }
  [[nodiscard]] const std::vector<std::string>& values(std::size_t facet) const {
    return columns_[facet].values;
  }

private:
  struct Column {
    std::uint32_t Combination::*place;
    std::vector<std::string> values;
    std::vector<std::uint32_t> value_of; ///< by part
    std::vector<bool> passes;            ///< by part
  };
  const MatchSpace& space_;
  const Filter& filter_;
  std::vector<Column> columns_;
  std::vector<std::size_t> filtering_; ///< the columns that let not all parts pass
};

} // namespace fulmox
