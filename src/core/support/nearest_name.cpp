#include "core/support/nearest_name.hpp"

#include <algorithm>
#include <cstddef>
#include <limits>
#include <numeric>
#include <vector>

namespace fulmox {
namespace {

/// Letters to change, add or leave out to make one of the other.
std::size_t distance(std::string_view from, std::string_view to) {
  std::vector<std::size_t> row(to.size() + 1);
  std::iota(row.begin(), row.end(), std::size_t{0});
  for (std::size_t i = 0; i < from.size(); ++i) {
    std::size_t diagonal = row[0];
    row[0] = i + 1;
    for (std::size_t j = 0; j < to.size(); ++j) {
      const std::size_t changed = diagonal + (from[i] == to[j] ? 0U : 1U);
      diagonal = row[j + 1];
      row[j + 1] = std::min({changed, row[j] + 1, row[j + 1] + 1});
    }
  }
  return row.back();
}

std::size_t alike_at_the_start(std::string_view a, std::string_view b) {
  const auto [end, other] = std::mismatch(a.begin(), a.end(), b.begin(), b.end());
  return static_cast<std::size_t>(end - a.begin());
}

} // namespace

std::string_view nearest_name(std::string_view written, std::span<const std::string_view> known) {
  constexpr std::size_t telling = 4; // shorter pieces are in too many names
  std::string_view best;
  std::size_t least = std::numeric_limits<std::size_t>::max();
  for (const std::string_view name : known) {
    const std::size_t longer = std::max(name.size(), written.size());
    const std::size_t shorter = std::min(name.size(), written.size());
    const std::size_t apart = distance(written, name);
    const bool holds = shorter >= telling && (name.find(written) != std::string_view::npos ||
                                              written.find(name) != std::string_view::npos);
    const bool near =
        3 * apart <= longer || holds || alike_at_the_start(written, name) >= std::max(telling, longer / 2);
    const std::size_t rank =
        holds ? apart / 2 : apart; // "process_force" is rather "process" than "process_curve"
    if (!near || rank >= least) continue;
    best = name;
    least = rank;
  }
  return best;
}

} // namespace fulmox
