#include "core/match/drive_sweep.hpp"

#include "core/match/judge.hpp"

#include <algorithm>
#include <cmath>
#include <utility>

namespace fulmox {

struct DriveSweep::Bounds {
  double least = 0.0, most = 0.0;
  std::size_t order = 0; ///< of the limit that `least` comes from; of equal shares the first counts
  std::string_view unjudged, wanted;

  void at_least(double used, std::size_t its) {
    if (used < least || (used == least && its >= order)) return;
    least = used;
    order = its;
  }
  void at_most(double used) { most = std::max(most, used); }
  void open(std::string_view label, std::string_view input) {
    if (!wanted.empty() || !of_a_part(input)) return;
    unjudged = label;
    wanted = input;
  }
};

DriveSweep::DriveSweep(const Axis& axis, const Rules& rules, AxisModel model, JudgedAxis judged,
                       bool leaves_open)
    : axis_(axis), drive_slot_(slot_index("drive")), rules_(rules), model_(std::move(model)),
      judged_(std::move(judged)), judged_drive_(model_.drive) {
  const Verdict& verdict = judged_.verdict;
  const auto& limits = limit_specs();
  limits_ = limits.size();
  const Judged figures = figures_of(model_, judged_);
  ratio_ = figures.ratio;
  winding_ = figures.winding;
  for (std::size_t order = 0; order < limits.size(); ++order) {
    if (limits[order]->looks_at != LooksAt::drive) continue;
    auto& its =
        limits[order]->drive_alone ? alone_ : drive_limits_[static_cast<std::size_t>(limits[order]->follows)];
    its.push_back({limits[order], order});
    tells_ = tells_ && limits[order]->follows != Follows::course;
  }
  const auto base = [&](const Verdict::Worst& worst) {
    const auto place = std::find(limits.begin(), limits.end(), worst.limit);
    return Base{worst.used, static_cast<std::size_t>(place - limits.begin())};
  };
  const bool head = verdict.of_head.used > verdict.by_figures.used || verdict.by_figures.limit == nullptr;
  steady_ = base(head ? verdict.of_head : verdict.by_figures);
  moving_ = base(verdict.by_course);
  tells_ = tells_ && !leaves_open && (steady_.order < limits.size() || moving_.order < limits.size());
  Bounds bounds;
  for (const Verdict::Unjudged& open : verdict.unjudged)
    if (open.looks_at != LooksAt::drive) bounds.open(open.label, open.input);
  open_ = bounds.unjudged;
  open_input_ = bounds.wanted;
}

void DriveSweep::judge_again(Bounds& bounds, const Limits& limits, bool least, bool most) {
  const LimitContext context{axis_, model_, judged_.course, judged_.demand, rules_, silent_};
  for (const auto& [spec, order] : limits) {
    if (bounds.least > beyond_) return;
    // what cannot be the worst need not be known; nor can it be open, a bound being told
    if (least && most && spec->at_most != nullptr && spec->at_most(context) < bounds.least) continue;
    const auto limit = spec->judge(context);
    if (!limit) continue;
    if (limit->state == LimitState::not_judged) {
      bounds.open(spec->label, limit->input);
      continue;
    }
    if (limit->only_fits && limit->used <= 1.0) continue; // what fits exactly brings nobody near a limit
    if (least) bounds.at_least(limit->used, order);
    if (most) bounds.at_most(limit->used);
  }
}

/// Losses run straight in the current: what they differ by is greatest at an end.
DriveSweep::LossChange DriveSweep::loss_change(const Drive& drive) const {
  if (!model_.motor->electric()) return {};
  LossChange change;
  for (const double current : {0.0, judged_.demand.peak_current.value}) {
    const double more = drive.loss(current) - judged_drive_->loss(current);
    change.up = std::max(change.up, more);
    change.down = std::max(change.down, -more);
  }
  return change;
}

/// On the least and on the most that can be drawn, and that can come back.
void DriveSweep::judge_power(Bounds& bounds, const LossChange& change) {
  const auto& [up, down] = change;
  if (up == 0.0 && down == 0.0) return judge_again(bounds, following(Follows::power), true, true);
  constexpr double without_end = std::numeric_limits<double>::infinity();
  Demand& demand = judged_.demand;
  const double time = model_.load->cycle.duration, bus = model_.surroundings.bus,
               low_bus = model_.surroundings.bus_low, peak = demand.peak_power;
  const CycleIntegrals& sums = demand.integrals;
  const double drawn = sums.bus_drawn, back = sums.bus_returned, reflected = sums.reflected,
               mean = demand.mean_bus_current, most = demand.peak_bus_current;
  const auto put = [&](double by_power, double by_return, double held) {
    demand.integrals.bus_drawn = std::max(0.0, drawn + time * by_power);
    demand.integrals.bus_returned = std::max(0.0, back + time * by_return);
    demand.integrals.reflected = held;
    demand.mean_bus_current.value = demand.integrals.bus_drawn / time / bus;
    demand.peak_bus_current.value = (peak + by_power) / low_bus;
  };
  // what comes back must not outgrow what is drawn: then the bus rises without end
  const double net = drawn - back;
  Bounds most_used;
  put(up, down, net - time * down > 0.0 ? reflected + time * down : without_end);
  judge_again(most_used, following(Follows::power), false, true);
  bounds.at_most(most_used.most);
  bounds.open(most_used.unjudged, most_used.wanted);
  if (most_used.most >= bounds.least) { // else none of them can be the worst
    put(-down, -up,
        std::isinf(reflected) && net + time * up > 0.0 ? 0.0 : std::max(0.0, reflected - time * up));
    judge_again(bounds, following(Follows::power), true, false);
  }
  demand.integrals.bus_drawn = drawn;
  demand.integrals.bus_returned = back;
  demand.integrals.reflected = reflected;
  demand.mean_bus_current.value = mean;
  demand.peak_bus_current.value = most;
}

/// Left out where even the strongest drive keeps them from being the worst.
void DriveSweep::judge_torque(Bounds& bounds) {
  constexpr double without_end = std::numeric_limits<double>::infinity();
  if (!most_by_torque_ && strongest_ != nullptr) {
    Bounds most;
    std::swap(model_.drive, strongest_);
    judge_again(most, following(Follows::torque), true, true);
    std::swap(model_.drive, strongest_);
    const bool known = most.wanted.empty() && !std::isnan(strongest_->peak_current);
    most_by_torque_ = known ? most.most : without_end;
  }
  if (most_by_torque_.value_or(without_end) < bounds.least) return;
  judge_again(bounds, following(Follows::torque), true, true);
}

DriveSweep::AtCurrent DriveSweep::at_current() {
  Bounds bounds;
  judge_again(bounds, following(Follows::current), true, true);
  return {model_.supply_at(0.0).drive_current, bounds.most, bounds.order, bounds.unjudged, bounds.wanted};
}

/// Whether no limit that follows from the current can be used to `least`. What is never above that at one
/// current is not at a higher one: most drives need no look.
bool DriveSweep::current_stays_below(double least) {
  const double current = model_.supply_at(0.0).drive_current;
  if (current >= bounded_current_ && current_bound_ < least) return true;
  const LimitContext context{axis_, model_, judged_.course, judged_.demand, rules_, silent_};
  double bound = 0.0;
  for (const Listed& listed : following(Follows::current))
    bound = std::max(bound, listed.spec->at_most != nullptr ? listed.spec->at_most(context)
                                                            : std::numeric_limits<double>::infinity());
  if (!(bound < least)) return false;
  if (current < bounded_current_) {
    bounded_current_ = current;
    current_bound_ = bound;
  }
  return true;
}

/// Between the shares at a lower and at a higher current; worked out where that leaves something open.
void DriveSweep::judge_current(Bounds& bounds) {
  if (current_stays_below(bounds.least)) return; // cannot be the worst
  constexpr std::size_t many = 12;
  if (at_currents_.empty() && strongest_ != nullptr) {
    std::swap(model_.drive, strongest_);
    at_currents_.push_back(at_current());
    std::swap(model_.drive, strongest_);
  }
  const double current = model_.supply_at(0.0).drive_current;
  const AtCurrent *below = nullptr, *above = nullptr; // the nearest
  for (const AtCurrent& known : at_currents_) {
    if (known.current <= current && (below == nullptr || known.current > below->current)) below = &known;
    if (known.current >= current && (above == nullptr || known.current < above->current)) above = &known;
  }
  const bool no_matter = below != nullptr && below->used < bounds.least;
  const bool enough = below != nullptr && above != nullptr &&
                      (below->used == above->used || above->used > beyond_ ||
                       (below->used <= beyond_ && at_currents_.size() >= many));
  if (!no_matter && !enough) {
    at_currents_.push_back(at_current());
    below = above = &at_currents_.back();
  }
  bounds.at_most(below->used);
  if (above != nullptr) bounds.at_least(above->used, above->order);
  bounds.open(below->unjudged, below->wanted);
}

DriveSweep::Outlook DriveSweep::operator()(const std::shared_ptr<const Drive>& drive, const Section& sheet,
                                           bool clear_alone, double beyond) {
  Outlook out;
  beyond_ = beyond;
  if (!tells_) return out;
  model_.drive = drive;
  axis_.givens[drive_slot_] = sheet;
  const LossChange change = loss_change(*drive);
  const bool same = change.up == 0.0 && change.down == 0.0;
  const double moved = same ? 0.0 : moved_by_cuts;
  Bounds bounds{0.0, 0.0, limits_, open_, open_input_};
  bounds.at_least(steady_.used, steady_.order);
  bounds.at_most(steady_.used);
  bounds.at_least((1.0 - moved) * moving_.used, moving_.order);
  bounds.at_most((1.0 + moved) * moving_.used);
  if (!clear_alone) judge_again(bounds, alone_, true, true);
  for (const Follows follows : {Follows::fittings, Follows::sums, Follows::figures})
    judge_again(bounds, following(follows), true, true);
  judge_torque(bounds);
  if (bounds.least <= beyond) judge_power(bounds, change);
  if (bounds.least <= beyond) judge_current(bounds);
  out.least = bounds.least;
  out.most = std::max(bounds.most, bounds.least);
  if (bounds.order < limits_) out.label = limit_specs()[bounds.order]->label;
  out.unjudged = bounds.unjudged;
  out.wanted = bounds.wanted;
  const double time = model_.load->cycle.duration;
  out.energy = model_.motor->electric()
                   ? std::max(0.0, judged_.demand.integrals.bus_drawn - time * change.down)
                   : std::numeric_limits<double>::quiet_NaN();
  out.exact = same && out.least == out.most && out.wanted.empty();
  return out;
}

Trial DriveSweep::trial(const Combination& parts, const Outlook& outlook) const {
  Trial trial;
  trial.parts = parts;
  trial.used = outlook.least;
  trial.worst = outlook.label;
  trial.unjudged = outlook.unjudged;
  trial.wanted = outlook.wanted;
  trial.energy = outlook.energy;
  trial.ratio = ratio_;
  trial.winding = outlook.exact ? winding_ : (1.0 - moved_by_cuts) * winding_;
  trial.fits = outlook.fits();
  trial.settled = outlook.exact;
  return trial;
}

} // namespace fulmox
