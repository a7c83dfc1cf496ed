#include "core/match/kind_turns.hpp"

#include "core/match/judge.hpp"
#include "core/quantity/format.hpp"
#include "core/study/sensitivity.hpp"

#include <algorithm>
#include <cmath>

namespace fulmox {
namespace {

/// An input at an end of what it may be.
struct End {
  std::string path, what; ///< "load.friction", "Load, friction"
  double value;
  Kind kind;
  bool guess; ///< its spread is nobody's word
  bool cut;   ///< more is not to be had of such an input
};

/// What a guess may be off by, in its own unit.
double off(const FieldSpec& field, double value) {
  return field.kind == Kind::temperature ? guessed_temperature_off : guess_may_be_off * std::abs(value);
}

void add_ends(const Section& section, std::vector<End>& all) {
  for (std::size_t i = 0; i < section.size(); ++i) {
    const Entry& entry = section.entry(i);
    const FieldSpec& field = section.field(i);
    if (field.type != FieldType::quantity || !std::isfinite(entry.value)) continue;
    const bool guess = !(entry.tolerance.half_width > 0.0);
    if (guess && entry.origin != Origin::guess) continue;
    const double half = guess ? off(field, entry.value) : entry.tolerance.half_width;
    for (const double wanted : {entry.value - half, entry.value + half}) {
      const double end = std::clamp(wanted, field.range.low, field.range.high);
      if (end != entry.value && field.range.contains(end))
        all.push_back({section.path + "." + std::string(field.id), describe_path(section, field.id), end,
                       field.kind, guess, end != wanted});
    }
  }
}

/// What both kinds have in common: not the sheets of parts.
std::vector<End> ends_of(const Axis& axis) {
  std::vector<End> all;
  for (const Section& section : axis.givens)
    if (!of_a_part(section.path + ".")) add_ends(section, all);
  for (const ListInfo& list : section_lists())
    for (const Section& section : axis.*list.member) add_ends(section, all);
  return all;
}

/// The space of the one combination that stands for a kind.
MatchSpace only(const MatchSpace& space, const Combination& parts) {
  return {{space.motors[parts.motor]},
          {space.heads[parts.head]},
          {space.drives[parts.drive]},
          {space.brakes[parts.brake]},
          {space.couplings[parts.coupling]}};
}

struct There {
  Trial trial;
  Standing standing;
};

/// What a kind's parts do at an end; nothing where the axis cannot be worked out there.
std::optional<There> there(const KindCandidate& candidate, const End& end, const Section& house_rules,
                           const Weights& weights) {
  auto axis = with_input(candidate.axis, end.path, end.value);
  if (!axis) return std::nullopt;
  const MatchSpace space = only(candidate.space, candidate.trial.parts);
  Trial trial;
  Settler(std::move(*axis), house_rules, space)(trial);
  if (!trial.settled) return std::nullopt;
  return There{trial, standing_of(space, trial, weights)};
}

std::string sentence(const End& end, const KindTurn& turn, const Trial& trial, const KindCandidate& first,
                     const KindCandidate& second, UnitSet units) {
  const std::string off = end.kind == Kind::temperature
                              ? format(guessed_temperature_off, Kind::temperature_rise, units, 2).text()
                              : whole_percent(guess_may_be_off);
  const std::string why = end.cut     ? "as far as it may go"
                          : end.guess ? "a guess, tried " + off + " off"
                                      : "an end of its spread";
  const std::string at = end.what + " at " + format(end.value, end.kind, units).text() + " (" + why + "): ";
  return at + (turn.breaks ? std::string(trial.worst) + " of " + first.name() + " goes to " +
                                 whole_percent(trial.used) + ", " + second.name() + " holds."
                           : second.name() + " comes before " + first.name() + " by your weights.");
}

} // namespace

std::vector<KindTurn> kind_turns(const KindCandidate& first, const KindCandidate& second,
                                 const Section& house_rules, const KindsRun& run) {
  std::vector<KindTurn> turns;
  for (const End& end : ends_of(first.axis)) {
    if (run.wanted && !run.wanted()) break;
    const auto one = there(first, end, house_rules, run.weights);
    if (!one) continue;
    const auto other = there(second, end, house_rules, run.weights);
    if (!other || !other->trial.fits) continue;
    KindTurn turn{end.path, end.value, !one->trial.fits, one->trial.used, ""};
    if (!turn.breaks && !(other->standing < one->standing)) continue;
    turn.text = sentence(end, turn, one->trial, first, second, run.units);
    turns.push_back(std::move(turn));
  }
  std::stable_sort(turns.begin(), turns.end(), [](const KindTurn& a, const KindTurn& b) {
    return a.breaks != b.breaks ? a.breaks : a.used > b.used;
  });
  return turns;
}

} // namespace fulmox
