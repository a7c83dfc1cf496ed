#pragma once
#include "core/demand/load_side.hpp"
#include "core/match/search.hpp"
#include "core/rules/rules.hpp"

#include <optional>

namespace fulmox {

/// Works out the figures of combinations that a search left as bounds, as evaluate() does: from the sheets of
/// their parts.
class Settler {
public:
  Settler(Axis axis, const Section& house_rules, MatchSpace space);
  /// Does nothing to what is settled.
  void operator()(Trial& trial);

private:
  [[nodiscard]] std::shared_ptr<const LoadSide> load(std::uint32_t coupling);

  Axis axis_;
  std::optional<Rules> rules_;
  MatchSpace space_;
  std::vector<std::shared_ptr<const LoadSide>> loads_; ///< by coupling, once it is wanted
};

} // namespace fulmox
