#include "core/match/rejected_parts.hpp"

#include <algorithm>
#include <cmath>
#include <utility>

namespace fulmox {
namespace {

constexpr std::size_t many_without_end = 64;

/// Why there is neither a fit nor a miss.
std::string why_none(const MatchResult& found, const PartChoice& part, std::string_view slot) {
  for (const Unusable& one : found.unusable)
    if (one.name == part.name()) return one.problem.text();
  if (found.tried == 0.0) return "Nothing could be tried with it.";
  if (found.feedless == found.tried)
    return slot == "drive" ? "It can feed none of the motors." : "None of the drives can feed its motors.";
  return "Nothing is known of it: values are missing on the sheets.";
}

/// Of those that are out without end, as one that does not fit by its flange, the one that breaks the fewest
/// limits tells most.
Miss nearest_of(std::vector<Miss> misses) {
  const auto fewer = [](const Miss& a, const Miss& b) {
    return a.trial.used != b.trial.used ? a.trial.used < b.trial.used : a.over.size() < b.over.size();
  };
  return std::move(*std::min_element(misses.begin(), misses.end(), fewer));
}

} // namespace

std::vector<PartPlace> rejected_parts(const MatchSpace& space, const Fits& fits, std::string_view slot) {
  std::vector<bool> fitting(choices_of(space, slot).size());
  const auto place = place_in(slot);
  fits.each(
      0, fits.size(), [&](std::size_t, const Trial& trial) { fitting[trial.parts.*place] = true; },
      [&](const Fits::Part& part) {
        if (slot != "drive") {
          fitting[part.block().parts.*place] = true;
          return;
        }
        for (std::uint32_t drive = part.from(); drive < part.to(); ++drive)
          fitting[part.parts(drive).drive] = true;
      });
  std::vector<PartPlace> all;
  for (std::uint32_t i = 0; i < fitting.size(); ++i)
    if (!fitting[i]) all.push_back({slot, i});
  return all;
}

PartOutlook outlook_of(const Axis& axis, const Section& house_rules, const MatchSpace& space, PartPlace part,
                       MatchRun run) {
  const auto& [slot, place] = part;
  MatchSpace with_it = space;
  const PartChoice choice = choices_of(space, slot)[place];
  choices_of(with_it, slot) = {choice};
  run.misses = 1;
  run.first_of_ties = false;
  run.settle = 0;
  MatchResult found = search(axis, house_rules, with_it, run);
  if (!found.misses.empty() && std::isinf(found.misses.front().trial.used)) {
    run.misses = many_without_end;
    found = search(axis, house_rules, with_it, run);
  }
  PartOutlook outlook{found.fits.size(), std::nullopt, found.problem.text()};
  if (!found.misses.empty()) {
    outlook.nearest = nearest_of(std::move(found.misses));
    outlook.nearest->trial.parts.*place_in(slot) = place;
  } else if (found.fits.empty() && outlook.why.empty()) {
    outlook.why = why_none(found, choice, slot);
  }
  return outlook;
}

} // namespace fulmox
