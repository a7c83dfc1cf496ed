#include "core/limits/limit.hpp"

#include "core/limits/protection.hpp"

#include "core/support/intern.hpp"
#include "core/support/registry.hpp"

#include <algorithm>
#include <array>
#include <cmath>

namespace fulmox {
namespace {

double used_share(double demand, double capacity) {
  if (capacity > 0.0) return std::abs(demand) / capacity;
  return demand == 0.0 ? 0.0 : std::numeric_limits<double>::infinity();
}
double scaled(double value, double factor) { return std::abs(value) * factor; }
double divided(double value, double factor) { return value / factor; }

} // namespace

namespace book {
const Formula used_share{"limit.used",
                         "Used share of a limit",
                         "used",
                         "|{demand}|/{capacity}",
                         Kind::share,
                         {{"demand", "demand", Kind::number, "what the cycle asks"},
                          {"capacity", "capacity", Kind::number, "what the part gives", range::not_negative}},
                         "definition",
                         calling<&fulmox::used_share>};
const Formula scaled{"limit.factor_on_demand",
                     "Demand with its factor",
                     "demand",
                     "|{demand}|·{f}",
                     Kind::torque,
                     {{"demand", "T", Kind::torque, "torque asked"},
                      {"f", "f", Kind::number, "service factor", range::positive}},
                     "house rule",
                     calling<&fulmox::scaled>};
const Formula divided{"limit.factor_on_capacity",
                      "Capacity with its factor",
                      "capacity",
                      "{capacity}/{f}",
                      Kind::torque,
                      {{"capacity", "T", Kind::torque, "rated torque", range::not_negative},
                       {"f", "f", Kind::number, "safety factor", range::positive}},
                      "house rule",
                      calling<&fulmox::divided>};
} // namespace book

std::span<const Formula* const> limit_formulas() {
  static const std::array list{&book::used_share,        &book::scaled,        &book::divided,
                               &book::derated,           &book::least_torque,  &book::stop_torque,
                               &book::mounting_derating, &book::rise_above,    &book::borne_torque,
                               &book::held_for_ever,     &book::turn_of_travel};
  return list;
}

LimitState state_of(double used, double attention) {
  if (std::isnan(used)) return LimitState::not_judged;
  return used > 1.0 ? LimitState::over : used > attention ? LimitState::tight : LimitState::clear;
}

std::string_view word(LimitState state) {
  constexpr std::array<std::string_view, 4> words{"clear", "tight", "over", "not judged"};
  return words[static_cast<std::size_t>(state)];
}

static Registry<LimitSpec>& registry() {
  static Registry<LimitSpec> all([](const LimitSpec& limit) { return limit.id; },
                                 [] {
                                   std::vector<const LimitSpec*> ours;
                                   for (const auto group :
                                        {match_limits(), fit_limits(), motor_limits(), heat_limits(),
                                         stepper_limits(), drive_limits(), gearhead_limits(),
                                         coupling_limits(), brake_limits(), mechanism_limits(),
                                         supply_limits(), accuracy_limits(), jam_limits()})
                                     for (const LimitSpec& spec : group) ours.push_back(&spec);
                                   return ours;
                                 }());
  return all;
}

std::span<const LimitSpec* const> limit_specs() { return registry().all(); }
std::string_view label_of_limit(std::string_view id) {
  for (const LimitSpec* spec : limit_specs())
    if (spec->id == id) return spec->label;
  return id;
}
void register_limit(const LimitSpec& limit) { registry().add(limit); }

Moment LimitContext::moment_at(double time) const {
  const auto& pieces = model.load->cycle.pieces;
  std::size_t index = 0;
  while (index + 1 < pieces.size() && pieces[index + 1].start < time) ++index;
  return {index, time - pieces[index].start, time, 0.0};
}

Limit missing(std::string_view reason, std::string_view input) {
  Limit limit;
  limit.reason = reason;
  limit.input = input;
  return limit;
}

Limit compare(const LimitContext& context, std::string_view step, const Term& demand, const Term& capacity,
              Kind kind, std::string_view rule) {
  Limit limit;
  limit.demand = demand;
  limit.capacity = capacity;
  limit.kind = kind;
  limit.input = capacity.ref;
  if (context.worded()) {
    limit.rule = rule;
    const Term used = context.recorder.apply(book::used_share, intern("limit.", step), {demand, capacity});
    context.recorder.plain_numbers_are(kind);
    if (!limit.rule.empty()) context.recorder.note(limit.rule);
    limit.used = used;
    limit.step = used.ref;
  } else {
    limit.used = used_share(demand, capacity);
  }
  limit.state = state_of(limit.used, context.rules.attention());
  return limit;
}

Limit compare_at(const LimitContext& context, std::string_view step, const Moment& moment, const Term& demand,
                 const Term& capacity, Kind kind, std::string_view rule) {
  Limit limit = compare(context, step, demand, capacity, kind, rule);
  limit.moment = moment;
  return limit;
}

Limit fits_or_not(Limit limit) {
  if (limit.state == LimitState::tight) limit.state = LimitState::clear;
  limit.only_fits = true;
  return limit;
}

namespace {
/// The worst that a limit may be; null for those that look at the drive.
Verdict::Worst* worst_with(Verdict& verdict, const LimitSpec& spec) {
  if (spec.looks_at == LooksAt::drive) return nullptr;
  if (spec.looks_at == LooksAt::head) return &verdict.of_head;
  return spec.follows >= Follows::figures ? &verdict.by_figures : &verdict.by_course;
}
} // namespace

void note(Verdict& verdict, const LimitSpec& spec, double used) {
  Verdict::Worst* worst = worst_with(verdict, spec);
  if (worst != nullptr && (worst->limit == nullptr || used > worst->used)) *worst = {used, &spec};
}

namespace {

/// A limit without its words.
struct Outcome {
  double used = 0.0;
  std::string_view input;
  LimitState state = LimitState::not_judged;
  bool there = false, only_fits = false;
  std::optional<Moment> moment = {};

  /// A thing that fits exactly brings nobody near a limit.
  [[nodiscard]] bool fits_exactly() const { return only_fits && state == LimitState::clear; }
  [[nodiscard]] bool counts() const { return there && state != LimitState::not_judged && !fits_exactly(); }
};

Outcome outcome_of(const LimitSpec& spec, const LimitContext& context) {
  const auto limit = spec.judge(context);
  if (!limit) return {};
  return {limit->used, limit->input, limit->state, true, limit->only_fits, limit->moment};
}

/// Of all limits, in their order. Dear ones of which it is known at little cost that they cannot be the worst
/// are left out: not the worst of all, nor of those that a verdict tells the worst of.
boost::container::small_vector<Outcome, 96> outcomes_of(const LimitContext& context) {
  const auto specs = limit_specs();
  boost::container::small_vector<Outcome, 96> all(specs.size());
  double worst = 0.0;
  Verdict seen;
  const auto to_beat = [&](const LimitSpec& spec) {
    const Verdict::Worst* its = worst_with(seen, spec);
    return std::min({worst, 1.0, its == nullptr ? 1.0 : its->used});
  };
  for (const bool dear : {false, true})
    for (std::size_t i = 0; i < specs.size(); ++i) {
      const LimitSpec& spec = *specs[i];
      if ((spec.stays_below != nullptr) != dear) continue;
      if (dear && spec.stays_below(context, to_beat(spec))) continue;
      all[i] = outcome_of(spec, context);
      if (!all[i].counts()) continue;
      worst = std::max(worst, all[i].used);
      note(seen, spec, all[i].used);
    }
  return all;
}

} // namespace

Verdict judge(const LimitContext& context) {
  Verdict verdict, fitting;
  const auto worse = [](Verdict& of, const LimitSpec& spec, double used) {
    if (!std::isnan(of.used) && used <= of.used) return;
    of.used = used;
    of.worst = spec.label;
  };
  const auto outcomes = outcomes_of(context);
  for (std::size_t i = 0; i < outcomes.size(); ++i) {
    const Outcome& limit = outcomes[i];
    const LimitSpec& spec = *limit_specs()[i];
    if (!limit.there) continue;
    if (limit.state == LimitState::not_judged) {
      verdict.unjudged.push_back({spec.label, limit.input, spec.looks_at});
      continue;
    }
    worse(limit.fits_exactly() ? fitting : verdict, spec, limit.used);
    if (limit.counts()) note(verdict, spec, limit.used);
    if (limit.state == LimitState::over)
      verdict.over.push_back({spec.label, limit.used, spec.looks_at, &spec, limit.moment});
  }
  if (std::isnan(verdict.used)) verdict = fitting;
  std::stable_sort(verdict.over.begin(), verdict.over.end(),
                   [](const Verdict::Over& a, const Verdict::Over& b) { return a.used > b.used; });
  return verdict;
}

void sort_limits(std::vector<Limit>& limits) {
  std::stable_sort(limits.begin(), limits.end(), [](const Limit& a, const Limit& b) {
    const bool a_judged = a.state != LimitState::not_judged;
    const bool b_judged = b.state != LimitState::not_judged;
    if (a_judged != b_judged) return a_judged;
    return a.used > b.used;
  });
}

std::vector<Limit> judge_limits(const LimitContext& context) {
  std::vector<Limit> limits;
  for (const LimitSpec* spec : limit_specs()) {
    auto limit = spec->judge(context);
    if (!limit) continue;
    limit->id = spec->id;
    limit->label = spec->label;
    limits.push_back(std::move(*limit));
  }
  sort_limits(limits);
  return limits;
}

} // namespace fulmox
