#pragma once
#include "core/match/ranking.hpp"
#include "core/match/sums_of_parts.hpp"

#include <optional>
#include <string>
#include <vector>

namespace fulmox {

/// Fewer combinations are looked at sooner than a thread is begun.
inline constexpr std::size_t many_trials = 20'000;

/// What a filter says of each part, read once: a combination is looked at without a word being compared.
class Sieve {
public:
  /// What parts have of facets that filter nothing takes longer to read than many lists to go through.
  enum class Values { of_what_filters, of_all };
  /// Values are told of what was read.
  Sieve(const MatchSpace& space, const Filter& filter, Values wanted = Values::of_what_filters);

  /// The facets that are set and that a combination does not have, at most two are told apart.
  struct Failed {
    int number = 0;
    std::size_t facet = 0; ///< the only one
    bool price_or_stock = false;
  };
  [[nodiscard]] Failed failed(const Combination& parts) const;
  /// Whether nothing fails: of a million combinations nothing more is asked.
  [[nodiscard]] bool passes(const Combination& parts) const {
    for (const std::size_t f : filtering_)
      if (!columns_[f].passes[parts.*columns_[f].place]) return false;
    return price_and_stock_pass(parts);
  }
  /// How many drives of a part of a block pass; `each(drive)` is called with them.
  template <class Each> std::size_t passing(const Fits::Part& part, const Each& each) const {
    std::size_t number = 0;
    for (std::uint32_t drive = part.from(); drive < part.to(); ++drive) {
      if (!passes(part.parts(drive))) continue;
      ++number;
      each(drive);
    }
    return number;
  }
  /// The number alone.
  [[nodiscard]] std::size_t passing(const Fits::Part& part) const {
    if (filtering_.empty() && !prices_ && !lacking_) return part.to() - part.from();
    return passing(part, [](std::uint32_t) {});
  }

  /// The number of the value that a combination has of a facet, and all values by their numbers.
  [[nodiscard]] std::uint32_t value(std::size_t facet, const Combination& parts) const {
    return columns_[facet].value_of[parts.*columns_[facet].place];
  }
  [[nodiscard]] const std::vector<std::string>& values(std::size_t facet) const {
    return columns_[facet].values;
  }

private:
  [[nodiscard]] bool price_and_stock_pass(const Combination& parts) const {
    return (!prices_ || !((*prices_)(parts) > most_price_)) && (!lacking_ || !((*lacking_)(parts) > 0.0));
  }

  struct Column {
    std::uint32_t Combination::*place;
    std::vector<std::string> values;
    std::vector<std::uint32_t> value_of; ///< by part
    std::vector<bool> passes;            ///< by part
  };
  std::vector<Column> columns_;
  std::vector<std::size_t> filtering_; ///< the columns that let not all parts pass
  double most_price_;
  std::optional<SumsOfParts> prices_;  ///< where one is set
  std::optional<SumsOfParts> lacking_; ///< parts not at hand, where all must be
};

} // namespace fulmox
