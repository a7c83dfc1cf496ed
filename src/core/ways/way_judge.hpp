#pragma once
#include "core/demand/load_keeper.hpp"
#include "core/limits/limit.hpp"
#include "core/rules/rules.hpp"
#include "core/support/expected.hpp"

#include <optional>
#include <vector>

namespace fulmox {

/// Judges changed axes by numbers alone, one after another; the load's side is kept while nothing of it
/// changes.
class WayJudge {
public:
  explicit WayJudge(const Section& house_rules) : rules_(house_rules) {}

  /// All limits, by their numbers; nothing where the axis cannot be worked out.
  std::optional<std::vector<Limit>> operator()(const Axis& axis);
  /// The share of one limit; NaN where the axis cannot be worked out or the limit is not judged.
  double used(const Axis& axis, std::string_view limit);
  /// The worst share of all and that limit's label, what fits exactly left aside; NaN where the axis cannot
  /// be worked out.
  std::pair<double, std::string_view> worst(const Axis& axis);
  [[nodiscard]] double attention() const { return rules_.term("attention"); }

private:
  Rules rules_;
  LoadKeeper load_;
};

} // namespace fulmox
