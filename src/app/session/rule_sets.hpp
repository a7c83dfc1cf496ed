#pragma once
#include "core/form/section.hpp"
#include "core/support/expected.hpp"

#include <filesystem>
#include <optional>
#include <vector>

namespace fulmox::app {

/// The sets of house rules that are offered: the shipped ones and the user's own, one file each.
class RuleSets {
public:
  /// Reads the shipped sets and the user's; gives the problem of the shipped ones, if any. A damaged set of
  /// one's own keeps nobody from working.
  std::optional<Problem> load(const std::filesystem::path& shipped);
  [[nodiscard]] const std::vector<Section>& all() const { return sets_; }
  /// Keeps a set under its name; from then on it is offered like the shipped ones.
  std::optional<Problem> keep(Section rules);

  [[nodiscard]] static std::filesystem::path own_folder();

private:
  void offer(Section rules);
  std::vector<Section> sets_;
};

} // namespace fulmox::app
