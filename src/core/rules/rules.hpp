#pragma once
#include "core/form/section.hpp"

#include <string>
#include <string_view>
#include <utility>
#include <vector>

namespace fulmox {

/// A set of house rules, read once: what judges ask some ten times for each of a thousand parts.
class Rules {
public:
  /// The rules must be free of faults.
  explicit Rules(const Section& house_rules);

  /// By the rule's id; std::out_of_range for one that does not exist.
  [[nodiscard]] const Term& term(std::string_view id) const;
  /// The choice made, or the text typed ("name").
  [[nodiscard]] const std::string& text(std::string_view id) const;
  /// The share from which a limit is called tight: every limit asks for it.
  [[nodiscard]] double attention() const { return attention_; }

private:
  double attention_ = 1.0;
  std::vector<std::pair<std::string_view, Term>> terms_;
  std::vector<std::pair<std::string_view, std::string>> texts_;
};

} // namespace fulmox
