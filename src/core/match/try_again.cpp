#include "core/match/try_again.hpp"

#include "core/match/settler.hpp"

#include <algorithm>
#include <thread>

namespace fulmox {

MatchResult try_again(const Axis& axis, const Section& house_rules, const MatchSpace& space,
                      std::span<const Combination> combinations, const MatchRun& run) {
  MatchResult result;
  if (const auto wrong = faults(house_rules); !wrong.empty()) {
    result.problem = wrong.front();
    return result;
  }
  std::vector<Trial> trials(combinations.size());
  const std::size_t threads = std::max(1U, run.threads);
  const auto every = [&](std::size_t first) {
    if (run.begins) run.begins();
    Settler settle(axis, house_rules, space);
    for (std::size_t i = first; i < trials.size() && (!run.wanted || run.wanted()); i += threads) {
      trials[i].parts = combinations[i];
      settle(trials[i]);
    }
  };
  std::vector<std::thread> others;
  for (std::size_t k = 0; k < threads; ++k) others.emplace_back(every, k);
  for (std::thread& one : others) one.join();
  result.tried = static_cast<double>(trials.size());
  std::erase_if(trials, [](const Trial& trial) { return !trial.settled || !trial.fits; });
  std::sort(trials.begin(), trials.end(), [](const Trial& a, const Trial& b) { return a.parts < b.parts; });
  result.fits = std::move(trials);
  return result;
}

bool same_parts(const MatchSpace& a, const MatchSpace& b, std::span<const Combination> combinations) {
  const auto same = [](const std::vector<PartChoice>& of_a, const std::vector<PartChoice>& of_b,
                       std::uint32_t place) {
    if (place >= of_a.size() || place >= of_b.size()) return false;
    const PartChoice &one = of_a[place], &other = of_b[place];
    return one.maker == other.maker && one.number == other.number && one.setting == other.setting;
  };
  return std::all_of(combinations.begin(), combinations.end(), [&](const Combination& parts) {
    return same(a.motors, b.motors, parts.motor) && same(a.heads, b.heads, parts.head) &&
           same(a.drives, b.drives, parts.drive) && same(a.brakes, b.brakes, parts.brake) &&
           same(a.couplings, b.couplings, parts.coupling);
  });
}

} // namespace fulmox
