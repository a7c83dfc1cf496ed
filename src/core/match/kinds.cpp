#include "core/match/kinds.hpp"

#include "core/evaluation/guarded.hpp"

#include <algorithm>

namespace fulmox {
namespace {

/// The combination that stands for a kind: the best of what fits, else the nearest miss.
void choose(KindCandidate& candidate, MatchResult& result, const Weights& weights, Settler& settle) {
  candidate.problem = result.problem;
  candidate.combinations = static_cast<double>(result.fits.size());
  const auto order = ranked(candidate.space, result.fits, weights, {}, settle, 1).order;
  if (!order.empty()) {
    candidate.trial = result.fits[order.front()];
    candidate.fits = candidate.judged = true;
  } else if (!result.misses.empty()) {
    candidate.trial = result.misses.front().trial;
    candidate.over = result.misses.front().over;
    candidate.judged = true;
  } else if (candidate.problem.what.empty()) {
    candidate.problem = {"", "no drive of the library feeds a motor of this kind.",
                         "Add one to the library."};
  }
  candidate.standing = standing_of(candidate.space, candidate.trial, weights);
}

void work_out(KindCandidate& candidate, const Axis& axis, const Section& house_rules, UnitSet units) {
  candidate.axis = with_parts(axis, candidate.space, candidate.trial.parts);
  auto full = guarded(candidate.axis, [&] { return evaluate(candidate.axis, house_rules, units); });
  if (full)
    candidate.evaluation = std::make_shared<const Evaluation>(std::move(*full));
  else
    candidate.problem = full.problem();
  candidate.judged = candidate.evaluation != nullptr;
}

std::vector<PartChoice> of_kind(const std::vector<PartChoice>& motors, const SectionSpec& form) {
  std::vector<PartChoice> all;
  for (const PartChoice& motor : motors)
    if (&motor.section.spec() == &form) all.push_back(motor);
  return all;
}

} // namespace

std::string KindCandidate::name() const {
  return "the " + (kind->traits != nullptr ? std::string(kind->traits->name) : title);
}

std::string KindCandidate::parts() const { return name_of(space, trial.parts); }

KindsCompared compare_kinds(const Axis& axis, const Section& house_rules, const Section& duty,
                            const Library& library, const KindsRun& run) {
  KindsCompared compared;
  const MatchSpace all = match_space(axis, library, run.also, run.threads);
  const auto kinds = motor_kinds();
  const auto going_on = [&] { return !run.wanted || run.wanted(); };
  for (const MotorKind* kind : kinds) {
    if (!going_on()) return compared;
    const double done = static_cast<double>(compared.kinds.size()), of = static_cast<double>(kinds.size());
    KindCandidate& candidate = compared.kinds.emplace_back();
    candidate.kind = kind;
    candidate.title = kind->slot.called();
    candidate.space = all;
    candidate.space.motors = of_kind(all.motors, *kind->slot.form);
    candidate.in_library = !candidate.space.motors.empty();
    if (!candidate.in_library) {
      candidate.problem = {"", "the libraries hold no motor of this kind.", "Load one that does."};
      continue;
    }
    MatchRun search_run;
    search_run.threads = run.threads;
    search_run.misses = 1;
    search_run.settle = 0;
    search_run.wanted = run.wanted;
    search_run.progress = [&](double share) {
      if (run.progress) run.progress((done + share) / of);
    };
    MatchResult result = search(axis, house_rules, candidate.space, search_run);
    if (!result.finished && result.problem.what.empty()) return compared;
    Settler settle(axis, house_rules, candidate.space);
    choose(candidate, result, run.weights, settle);
    if (candidate.judged) work_out(candidate, axis, house_rules, run.units);
  }
  advise(compared, house_rules, Duty::from(duty), run);
  compared.finished = going_on();
  return compared;
}

} // namespace fulmox
