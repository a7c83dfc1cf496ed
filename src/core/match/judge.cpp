#include "core/match/judge.hpp"

#include "core/evaluation/guarded.hpp"

#include <algorithm>
#include <array>
#include <cmath>

namespace fulmox {
namespace {

constexpr double rounding = 1.0 - 1e-9;

void take(Hint& worst, double used, std::string_view limit) {
  if (rounding * used > worst.used) worst = {rounding * used, limit, used};
}

} // namespace

bool of_a_part(std::string_view input) {
  constexpr std::array<std::string_view, 5> parts{"motor.", "gearhead.", "drive.", "brake.", "coupling."};
  return std::any_of(parts.begin(), parts.end(),
                     [&](std::string_view slot) { return input.starts_with(slot); });
}

double Judged::whatever_drive() const {
  return std::max(
      {verdict.of_head.used, verdict.by_figures.used, (1.0 - moved_by_cuts) * verdict.by_course.used});
}

double Judged::whatever_motor() const { return verdict.of_head.used; }

Judged figures_of(const AxisModel& model, const JudgedAxis& judged) {
  Judged out;
  out.verdict = judged.verdict;
  const Demand& demand = judged.demand;
  const double unknown = std::numeric_limits<double>::quiet_NaN();
  out.energy = model.motor->electric() ? demand.integrals.bus_drawn : unknown;
  out.ratio = model.motor->chosen ? demand.inertia_ratio.value : unknown;
  out.winding = demand.heat.gap ? unknown : demand.heat.hottest.value;
  return out;
}

Trial trial_of(const Combination& parts, const Judged& judged) {
  Trial trial;
  trial.parts = parts;
  trial.used = judged.verdict.used;
  trial.worst = judged.verdict.worst;
  for (const Verdict::Unjudged& open : judged.verdict.unjudged)
    if (trial.wanted.empty() && of_a_part(open.input)) {
      trial.unjudged = open.label;
      trial.wanted = open.input;
    }
  trial.energy = judged.energy;
  trial.ratio = judged.ratio;
  trial.winding = judged.winding;
  trial.fits = judged.verdict.over.empty() && !std::isnan(judged.verdict.used);
  trial.settled = true;
  return trial;
}

void Judge::put_in(const Combination& parts) {
  const auto put = [&](std::string_view slot, const std::vector<PartChoice>& choices, std::uint32_t place,
                       std::uint32_t Combination::*which) {
    if (in_ && (*in_).*which == place) return;
    axis_[slot] = choices[place].section;
  };
  put("motor", space_.motors, parts.motor, &Combination::motor);
  put("gearhead", space_.heads, parts.head, &Combination::head);
  put("drive", space_.drives, parts.drive, &Combination::drive);
  put("brake", space_.brakes, parts.brake, &Combination::brake);
  put("coupling", space_.couplings, parts.coupling, &Combination::coupling);
  in_ = parts;
}

std::optional<Judged> Judge::operator()(const Combination& parts) {
  put_in(parts);
  worked_.reset();
  const auto judged = guarded(axis_, [&]() -> Expected<Judged> {
    AxisModel model = bench_.model(parts);
    JudgedAxis all = judge_all(model, axis_, rules_);
    Judged out = figures_of(model, all);
    worked_.emplace(Worked{parts, std::move(model), std::move(all)});
    return out;
  });
  if (!judged) return std::nullopt;
  return *judged;
}

DriveSweep Judge::sweep() {
  const bool open = worked_->model.motor->leaves_open || worked_->model.drive->leaves_open;
  DriveSweep out(axis_, rules_, std::move(worked_->model), std::move(worked_->judged), open);
  worked_.reset();
  return out;
}

TrainDemand Judge::train() {
  TrainDemand out(std::move(worked_->model), std::move(worked_->judged.demand));
  worked_.reset();
  return out;
}

template <class Counts, class Take>
void Judge::each_limit(const AxisModel& model, const Demand& demand, const Counts& counts,
                       const Take& take_one) {
  Recorder silent(false);
  static const Course none;
  const LimitContext context{axis_, model, none, demand, rules_, silent};
  for (const LimitSpec* spec : limit_specs())
    if (counts(*spec))
      if (const auto limit = spec->judge(context)) take_one(*spec, *limit);
}

Hint Judge::by_limits(const AxisModel& model, const TrainDemand& train, Follows least) {
  if (sums_of_ != train.shared_demand()) sums_ = train.demand();
  sums_of_ = train.shared_demand();
  train.put_sums(*sums_, model.rotor);
  Hint worst;
  each_limit(
      model, *sums_,
      [&](const LimitSpec& spec) { return spec.follows >= least && spec.looks_at != LooksAt::drive; },
      [&](const LimitSpec& spec, const Limit& limit) {
        if (limit.state != LimitState::not_judged) take(worst, limit.used, spec.label);
      });
  return worst;
}

DriveAlone Judge::drive_alone(const Combination& parts) {
  put_in(parts);
  static const Demand nothing;
  DriveAlone out{{}, true};
  each_limit(
      bench_.model(parts), nothing, [](const LimitSpec& spec) { return spec.drive_alone; },
      [&](const LimitSpec& spec, const Limit& limit) {
        const bool judged = limit.state != LimitState::not_judged;
        if (judged) take(out.worst, limit.used, spec.label);
        if (!judged || !limit.only_fits || limit.used > 1.0) out.clear = false;
      });
  return out;
}

template <class Counts>
void Judge::by_moments(Hint& worst, const AxisModel& model, const TrainDemand& train,
                       const std::vector<TrainDemand::Moment>& moments, const Counts& counts) {
  Recorder silent(false);
  static const Course none;
  const LimitContext context{axis_, model, none, train.demand(), rules_, silent};
  const double peak = train.some_peak(model.rotor);
  constexpr double nothing = 1e-9; // of the peak: whether it drives or brakes there is a matter of rounding
  for (const LimitSpec* spec : limit_specs()) {
    if (spec->at_moment == nullptr || !counts(*spec)) continue;
    // all the torque at all the speed seldom takes more than there is
    if (spec->at_moment(context, {peak, train.demand().max_speed, 1.0}) <= std::max(1.0, worst.used))
      continue;
    for (const TrainDemand::Moment& moment : moments)
      if (const ShaftMoment now = moment.with(model.rotor); std::abs(now.torque) > nothing * peak)
        take(worst, spec->at_moment(context, now), spec->label);
  }
}

Hint Judge::by_sums(const Combination& parts, const AxisModel& model, const TrainDemand& train) {
  Hint worst = by_limits(model, train, Follows::sums);
  static const std::string_view peak = label_of_limit("motor.peak"),
                                pull_out = label_of_limit("stepper.pullout");
  take(worst, train.some_peak(model.rotor) / bench_.most_torque(parts.motor, bench_.class_of(parts.drive)),
       model.motor->keeps_current() ? pull_out : peak);
  by_moments(worst, model, train, train.moments(),
             [](const LimitSpec& spec) { return spec.looks_at != LooksAt::drive; });
  return worst;
}

Hint Judge::hint(const Combination& parts, const TrainDemand& train) {
  put_in(parts);
  return by_sums(parts, bench_.model(parts), train);
}

Hint Judge::hint_of_strongest(const Combination& parts, const TrainDemand& train) {
  put_in(parts);
  const AxisModel model = bench_.model(parts);
  Hint worst = by_sums(parts, model, train);
  by_moments(worst, model, train, train.many_moments(), [](const LimitSpec& spec) {
    return spec.looks_at == LooksAt::drive && spec.follows == Follows::current;
  });
  return worst;
}

Hint Judge::fittings(const Combination& parts, const TrainDemand& train) {
  put_in(parts);
  return by_limits(bench_.model(parts), train, Follows::fittings);
}

} // namespace fulmox
