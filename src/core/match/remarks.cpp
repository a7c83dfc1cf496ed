#include "core/match/remarks.hpp"

#include <algorithm>
#include <array>
#include <cmath>

namespace fulmox {
namespace {

/// What tells the size of a motor: the most torque on its sheet, N·m; NaN where there is none.
double torque_of(const Section& motor) {
  if (motor.has("peak_curve") && !motor.entry("peak_curve").curve.empty()) {
    double most = 0.0;
    for (const CurvePoint& point : motor.entry("peak_curve").curve) most = std::max(most, point[1]);
    return most;
  }
  for (const std::string_view field : {"holding_torque", "stall_torque", "rated_torque"})
    if (const Term torque = motor.term_if(field); !std::isnan(torque)) return torque;
  return motor.term_if("mass"); // the heavier of one kind and make is the larger one
}

/// Limits that a heavier rotor makes worse by the torque it takes.
bool by_torque(std::string_view label) {
  constexpr std::array<std::string_view, 9> ids{"motor.peak", "motor.peak_low",      "motor.rms",
                                                "motor.heat", "motor.winding",       "stepper.pullout",
                                                "drive.rms",  "stepper.pullout_low", "drive.peak"};
  return std::any_of(ids.begin(), ids.end(),
                     [&](std::string_view id) { return label_of_limit(id) == label; });
}

} // namespace

std::optional<SmallerBetter> smaller_does_better(const MatchSpace& space, const MatchResult& result,
                                                 const Trial& trial, Settler* settle) {
  if (!by_torque(trial.worst)) return std::nullopt;
  const PartChoice& own = space.motors[trial.parts.motor];
  const double torque = torque_of(own.section), inertia = own.section.term_if("inertia");
  std::optional<SmallerBetter> best;
  const auto look = [&](const Trial& other) {
    constexpr double clearly = 0.95;
    const Combination &a = other.parts, &b = trial.parts;
    if (a.head != b.head || a.brake != b.brake || a.coupling != b.coupling || a.motor == b.motor) return;
    if (!(other.used < clearly * trial.used) || (best && other.used >= best->used)) return;
    const PartChoice& one = space.motors[a.motor];
    if (one.maker != own.maker || one.setting != own.setting || &one.section.spec() != &own.section.spec())
      return;
    const double its = one.section.term_if("inertia");
    if (!(torque_of(one.section) < torque) || !(its < inertia)) return;
    Trial known = other; // a bound may promise too much
    if (settle != nullptr) (*settle)(known);
    if (!known.settled || !(known.used < clearly * trial.used) || (best && known.used >= best->used)) return;
    best = SmallerBetter{a.motor, known.used, inertia / its};
  };
  const auto may_do = [&](const FitBlock& block) { // the head tells most of them apart
    return block.parts.head == trial.parts.head && block.floor.worst.least < trial.used;
  };
  result.fits.each(
      0, result.fits.size(), [&](std::size_t, const Trial& other) { look(other); },
      [&](const Fits::Part& part) {
        if (!may_do(part.block())) return;
        for (std::uint32_t drive = part.from(); drive < part.to(); ++drive) look(part.trial(drive));
      });
  for (const Miss& other : result.misses) look(other.trial);
  return best;
}

std::vector<Killer> ruled_out(const MatchResult& result) {
  std::vector<Killer> all = result.killers;
  if (!(result.feedless > 0.0)) return all;
  const auto rarer = [&](const Killer& killer) { return killer.combinations < result.feedless; };
  all.insert(std::find_if(all.begin(), all.end(), rarer), {label_of_limit("drive.match"), result.feedless});
  return all;
}

} // namespace fulmox
