#include "core/match/drive_sweep.hpp"

#include "core/match/judge.hpp"

#include <algorithm>
#include <cmath>
#include <utility>

namespace fulmox {

struct DriveSweep::Bounds : WorstShare {
  double most = 0.0;
  std::string_view unjudged, wanted;

  void at_most(double used) { most = std::max(most, used); }
  void open(std::string_view label, std::string_view input) {
    if (!wanted.empty() || !of_a_part(input)) return;
    unjudged = label;
    wanted = input;
  }
};

DriveSweep::DriveSweep(const Axis& axis, const Rules& rules, AxisModel model, JudgedAxis judged,
                       bool leaves_open)
    : axis_(axis), rules_(rules), model_(std::move(model)), judged_(std::move(judged)),
      judged_drive_(model_.drive) {
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
    if (least && most && spec->stays_below != nullptr && spec->stays_below(context, bounds.least)) continue;
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

/// J from the bus in a cycle; NaN where not known.
double DriveSweep::least_energy(const LossChange& change) const {
  if (!model_.motor->electric()) return std::numeric_limits<double>::quiet_NaN();
  return std::max(0.0, judged_.demand.integrals.bus_drawn - model_.load->cycle.duration * change.down);
}

/// On the least and on the most that can be drawn, and that can come back.
void DriveSweep::judge_power(Bounds& bounds, const LossChange& change) {
  if (change.up == 0.0 && change.down == 0.0)
    return judge_again(bounds, following(Follows::power), true, true);
  Bounds most_used;
  judge_moved_power(most_used, change, true);
  bounds.at_most(most_used.most);
  bounds.open(most_used.unjudged, most_used.wanted);
  if (most_used.most >= bounds.least) judge_moved_power(bounds, change, false); // else none can be the worst
}

void DriveSweep::judge_moved_power(Bounds& bounds, const LossChange& change, bool most) {
  const auto& [up, down] = change;
  Demand& demand = judged_.demand;
  const double time = model_.load->cycle.duration, bus = model_.surroundings.bus,
               low_bus = model_.surroundings.bus_low, peak = demand.peak_power;
  const CycleIntegrals& sums = demand.integrals;
  const double drawn = sums.bus_drawn, back = sums.bus_returned, reflected = sums.reflected,
               mean = demand.mean_bus_current, most_current = demand.peak_bus_current;
  const auto put = [&](double by_power, double by_return, double held) {
    demand.integrals.bus_drawn = std::max(0.0, drawn + time * by_power);
    demand.integrals.bus_returned = std::max(0.0, back + time * by_return);
    demand.integrals.reflected = held;
    demand.mean_bus_current.value = demand.integrals.bus_drawn / time / bus;
    demand.peak_bus_current.value = (peak + by_power) / low_bus;
  };
  // what comes back must not outgrow what is drawn: then the bus rises without end
  const double net = drawn - back;
  if (most)
    put(up, down, net - time * down > 0.0 ? reflected + time * down : without_end);
  else
    put(-down, -up,
        std::isinf(reflected) && net + time * up > 0.0 ? 0.0 : std::max(0.0, reflected - time * up));
  judge_again(bounds, following(Follows::power), !most, most);
  demand.integrals.bus_drawn = drawn;
  demand.integrals.bus_returned = back;
  demand.integrals.reflected = reflected;
  demand.mean_bus_current.value = mean;
  demand.peak_bus_current.value = most_current;
}

/// Left out where even the strongest drive keeps them from being the worst.
void DriveSweep::judge_torque(Bounds& bounds) {
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

/// Before any other current.
void DriveSweep::look_at_strongest() {
  if (!at_currents_.empty() || strongest_ == nullptr) return;
  std::swap(model_.drive, strongest_);
  at_currents_.push_back(at_current());
  std::swap(model_.drive, strongest_);
}

double DriveSweep::least_by_current() {
  if (!tells_) return 0.0;
  beyond_ = std::numeric_limits<double>::infinity();
  look_at_strongest();
  return at_currents_.empty() ? 0.0 : at_currents_.front().used;
}

double DriveSweep::least_at_worst_moments() {
  if (!tells_ || strongest_ == nullptr) return 0.0;
  std::swap(model_.drive, strongest_);
  const LimitContext context{axis_, model_, judged_.course, judged_.demand, rules_, silent_};
  double least = 0.0;
  for (const Verdict::Over& over : judged_.verdict.over) {
    const LimitSpec& limit = *over.limit;
    if (limit.looks_at != LooksAt::drive || limit.follows != Follows::current) continue;
    if (limit.at_moment == nullptr || !over.moment) continue;
    const Instant now = model_.mechanics_at(over.moment->piece, over.moment->tau, silent_);
    least = std::max(least, limit.at_moment(context, {now.torque, now.speed, now.input.direction}));
  }
  std::swap(model_.drive, strongest_);
  return (1.0 - 1e-12) * least; // room for rounding
}

/// Whether no limit that follows from the current can be used to `share`. What is below that at one current
/// is so at a higher one, what is not shown to be is not at a lower one: most drives need no look.
bool DriveSweep::current_stays_below(double share) {
  const double current = model_.supply_at(0.0).drive_current;
  if (current >= below_.current && share >= below_.share) return true;
  if (current <= not_below_.current && share <= not_below_.share) return false;
  const LimitContext context{axis_, model_, judged_.course, judged_.demand, rules_, silent_};
  const auto& limits = following(Follows::current);
  const bool below = std::all_of(limits.begin(), limits.end(), [&](const Listed& listed) {
    return listed.spec->stays_below != nullptr && listed.spec->stays_below(context, share);
  });
  (below ? below_ : not_below_) = {current, share};
  return below;
}

/// Between the shares at a lower and at a higher current; worked out where that leaves something open.
void DriveSweep::judge_current(Bounds& bounds) {
  constexpr std::size_t many = 12;
  const double current = model_.supply_at(0.0).drive_current;
  const AtCurrent *below = nullptr, *above = nullptr; // the nearest
  const auto look_up = [&] {
    for (const AtCurrent& known : at_currents_) {
      if (known.current <= current && (below == nullptr || known.current > below->current)) below = &known;
      if (known.current >= current && (above == nullptr || known.current < above->current)) above = &known;
    }
  };
  const auto decided = [&] {
    if (below == nullptr) return false;
    if (below->used < bounds.least) return true; // cannot be the worst
    return above != nullptr && (below->used == above->used || above->used > beyond_ ||
                                (below->used <= beyond_ && at_currents_.size() >= many));
  };
  look_up();
  if (!decided()) {
    if (current_stays_below(bounds.least)) return;
    look_at_strongest();
    look_up();
    if (!decided()) {
      at_currents_.push_back(at_current());
      below = above = &at_currents_.back();
    }
  }
  bounds.at_most(below->used);
  if (above != nullptr) bounds.at_least(above->used, above->order);
  bounds.open(below->unjudged, below->wanted);
}

/// What looks at the drive apart, in the moved course.
DriveSweep::Bounds DriveSweep::base_bounds(double moved) const {
  Bounds bounds{{0.0, limits_}, 0.0, open_, open_input_};
  bounds.at_least(steady_.used, steady_.order);
  bounds.at_most(steady_.used);
  bounds.at_least((1.0 - moved) * moving_.used, moving_.order);
  bounds.at_most((1.0 + moved) * moving_.used);
  return bounds;
}

DriveSweep::Outlook DriveSweep::operator()(const std::shared_ptr<const Drive>& drive, bool clear_alone,
                                           double beyond) {
  Outlook out;
  beyond_ = beyond;
  if (!tells_) return out;
  model_.drive = drive;
  const LossChange change = loss_change(*drive);
  const bool same = change.up == 0.0 && change.down == 0.0;
  Bounds bounds = base_bounds(same ? 0.0 : moved_by_cuts);
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
  out.energy = least_energy(change);
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

/// Losses between those of the weakest and of the strongest of them.
DriveSweep::LossChange DriveSweep::loss_change(const DriveGroup& group, std::size_t number) const {
  return {loss_change(*group.weakest[number - 1]).up, loss_change(*group.strongest).down};
}

namespace {
constexpr double fitting = 1.0 - 1e-12; ///< figures that were put together are rounded
}

/// Whether none of some limits is broken.
bool DriveSweep::bears(const Limits& limits) {
  const LimitContext context{axis_, model_, judged_.course, judged_.demand, rules_, silent_};
  const auto kept = [&](const Listed& listed) {
    if (listed.spec->stays_below != nullptr && listed.spec->stays_below(context, fitting)) return true;
    const auto limit = listed.spec->judge(context);
    return !limit || limit->state == LimitState::not_judged ||
           limit->used <= (limit->only_fits ? 1.0 : fitting);
  };
  return std::all_of(limits.begin(), limits.end(), kept);
}

bool DriveSweep::all_fit(const DriveGroup& group, std::size_t number) {
  if (!tells_) return false;
  model_.drive = group.weakest[number - 1];
  for (const Follows follows : {Follows::fittings, Follows::sums, Follows::figures, Follows::current})
    if (!bears(following(follows))) return false;
  beyond_ = std::numeric_limits<double>::infinity();
  Bounds bounds = base_bounds(moved_by_cuts);
  judge_moved_power(bounds, loss_change(group, number), true);
  model_.drive = group.strongest;
  return bounds.most <= fitting && bears(following(Follows::torque));
}

const DriveSweep::AtCurrent& DriveSweep::by_torque(const std::shared_ptr<const Drive>& drive) {
  const double current = drive->peak_current;
  const auto same = [&](double other) {
    return other == current || (std::isnan(other) && std::isnan(current));
  };
  for (const AtCurrent& known : by_torque_)
    if (same(known.current)) return known;
  Bounds bounds;
  model_.drive = drive;
  judge_again(bounds, following(Follows::torque), true, true);
  by_torque_.push_back({current, bounds.least, bounds.order, bounds.unjudged, bounds.wanted});
  return by_torque_.back();
}

GroupFloor DriveSweep::floor_of(const DriveGroup& group, std::size_t number) {
  beyond_ = std::numeric_limits<double>::infinity();
  Bounds bounds = base_bounds(moved_by_cuts);
  GroupFloor floor;
  model_.drive = group.strongest;
  for (const Follows follows : {Follows::fittings, Follows::sums, Follows::figures})
    for (const Listed& listed : following(follows)) {
      const LimitContext context{axis_, model_, judged_.course, judged_.demand, rules_, silent_};
      if (listed.spec->stays_below != nullptr && listed.spec->stays_below(context, bounds.least)) continue;
      Bounds one;
      judge_again(one, {listed}, true, false);
      bounds.open(one.unjudged, one.wanted);
      if (Term Drive::*capacity = listed.spec->drive_figure; capacity != nullptr && one.least > 0.0)
        floor.by_figures.push_back(
            {capacity, (1.0 - 1e-12) * one.least * ((*group.strongest).*capacity), listed.order});
      else
        bounds.at_least(one.least, listed.order);
    }
  Bounds torque;
  judge_again(torque, following(Follows::torque), false, true);
  bounds.open(torque.unjudged, torque.wanted);
  const LossChange change = loss_change(group, group.places.size());
  judge_moved_power(bounds, change, false);
  if (!current_stays_below(bounds.least)) {
    const AtCurrent known = at_current();
    bounds.at_least(known.used, known.order);
    bounds.open(known.unjudged, known.wanted);
  }
  floor.worst = bounds;
  floor.unjudged = bounds.unjudged;
  floor.wanted = bounds.wanted;
  if (torque.most >= bounds.least) add_torques(floor, std::span(group.drives).first(number));
  tell_energy(floor, change);
  return floor;
}

/// At each peak current that one of some drives gives.
void DriveSweep::add_torques(GroupFloor& floor, std::span<const std::shared_ptr<const Drive>> drives) {
  for (const auto& drive : drives) {
    const double current = drive->peak_current;
    const auto same = [&](const GroupFloor::ByCurrent& by) {
      return by.current == current || (std::isnan(by.current) && std::isnan(current));
    };
    if (std::any_of(floor.by_torque.begin(), floor.by_torque.end(), same)) continue;
    const AtCurrent& known = by_torque(drive);
    floor.by_torque.push_back({current, {known.used, known.order}});
  }
}

void DriveSweep::tell_energy(GroupFloor& floor, const LossChange& change) const {
  const double current = judged_.demand.peak_current.value;
  floor.ratio = ratio_;
  floor.winding = (1.0 - moved_by_cuts) * winding_;
  floor.least_energy = least_energy(change);
  floor.drawn = model_.motor->electric() ? judged_.demand.integrals.bus_drawn
                                         : std::numeric_limits<double>::quiet_NaN();
  floor.cycle = model_.load->cycle.duration;
  floor.current = current;
  floor.lost_at_rest = judged_drive_->loss(0.0);
  floor.lost_at_current = judged_drive_->loss(current);
}

} // namespace fulmox
