#pragma once
#include "core/evaluation/forgotten.hpp"
#include "support/axes.hpp"

#include <algorithm>
#include <string_view>

namespace fulmox::testing {

/// Whether the ladder has such a rung, judged or not.
inline bool has_limit(const Evaluation& e, std::string_view id) {
  return std::any_of(e.limits.begin(), e.limits.end(), [&](const Limit& l) { return l.id == id; });
}

/// Whether this stands among what is often forgotten and still open.
inline bool open(const Axis& axis, std::string_view id) {
  const auto all = often_forgotten(axis, evaluated(axis));
  return std::any_of(all.begin(), all.end(), [&](const Forgotten& f) { return f.id == id; });
}

} // namespace fulmox::testing
