#pragma once
#include "core/limits/limit.hpp"
#include "core/project/document.hpp"

#include <string>
#include <vector>

namespace fulmox {

/// A limit of an axis that other house rules would judge otherwise.
struct RuleChange {
  std::string axis;
  std::string_view limit; ///< its label
  LimitState now = LimitState::not_judged, then = LimitState::not_judged;
  double used_now = 0.0, used_then = 0.0;
};

/// Which limits of which axes change their state under other house rules. Axes that cannot be worked out are
/// left out. Both sets must be free of faults.
std::vector<RuleChange> rule_changes(const Document& document, const Section& other_rules);

/// The fields in which two sets differ, their name and reason left out.
std::vector<std::size_t> differing_rules(const Section& a, const Section& b);

} // namespace fulmox
