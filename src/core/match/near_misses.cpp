#include "core/match/near_misses.hpp"

#include "core/match/hopeless_pairs.hpp"

#include <algorithm>
#include <cmath>

namespace fulmox {
namespace {

class NearMisses {
public:
  NearMisses(const SearchTask& task, const std::vector<std::optional<TrainDemand>>& demands,
             const PairBounds& bounds)
      : task_(task), demands_(demands), bounds_(bounds) {}

  std::vector<Miss> operator()() {
    constexpr std::size_t batch = 64, cheap_batch = 2048;
    HopelessPairs left(bounds_);
    for (const Hopeless* next = left.nearest();
         next != nullptr && task_.wanted() && !enough(static_cast<double>(next->at_least));
         next = left.nearest()) {
      std::vector<Hopeless> rough;
      std::vector<std::size_t> pairs;
      while (left.nearest() != nullptr && pairs.size() < batch && rough.size() < cheap_batch) {
        const Hopeless one = left.take();
        if (one.by_sums)
          pairs.push_back(one.pair);
        else
          rough.push_back(one);
      }
      task_.in_threads(rough.size(), [&](std::size_t item, std::size_t, Judge& judge) {
        rough[item] = with_sums(rough[item], judge);
      });
      for (const Hopeless& one : rough) left.put_back(one);
      work_out(pairs);
    }
    return std::move(misses_);
  }

private:
  /// With what sums tell of it.
  [[nodiscard]] Hopeless with_sums(Hopeless one, Judge& judge) const {
    Combination parts = task_.parts_of(one.pair);
    double least = std::numeric_limits<double>::infinity();
    for (std::size_t k = 0; k < task_.bench.classes().size(); ++k) {
      if (!task_.bench.runs(parts.motor, k)) continue;
      parts.drive = task_.bench.classes()[k].drives.front();
      const auto& demand = demands_[task_.train_of(one.pair)];
      const double by_sums = demand ? judge.hint(parts, *demand).used : 0.0;
      const auto& [strongest, excluded] = task_.class_alone[k];
      least = std::min(least, strongest ? by_sums : std::max(by_sums, excluded));
    }
    one.at_least = std::max(one.at_least, PairBounds::lowered(least));
    one.by_sums = true;
    return one;
  }

  /// What any drive of a class is used to at least, by a closer look.
  [[nodiscard]] double least_with(Combination parts, std::size_t drive_class, const TrainDemand& demand,
                                  Judge& judge) const {
    const auto& [strongest, excluded] = task_.class_alone[drive_class];
    parts.drive = strongest.value_or(task_.bench.classes()[drive_class].drives.front());
    if (!strongest) return std::max(judge.hint(parts, demand).used, excluded);
    return std::min(judge.hint_of_strongest(parts, demand).used, excluded);
  }

  /// The drive with which a pair comes nearest, worked out to the end; may be nothing where none comes before
  /// `last`, which may be null.
  std::optional<Miss> nearest(std::size_t pair, const Miss* last, Judge& judge) const {
    Combination parts = task_.parts_of(pair);
    const auto& demand = demands_[task_.train_of(pair)];
    std::optional<Miss> best;
    const double give_up = // ties go by the parts
        last != nullptr ? last->trial.used * (1.0 + 1e-9) : std::numeric_limits<double>::infinity();
    // a shaft that does not fit is as far off with many a motor: of those the first are told
    const bool loses_ties = last != nullptr && last->trial.parts < parts;
    const auto ties_at_best = [&] {
      return loses_ties && demand && judge.fittings(parts, *demand).share >= last->trial.used;
    };
    constexpr double clearly = 1.0 - 1e-9; // less than rounding is no nearer
    const auto beaten = [&](double at_least) {
      // without end: a miss too
      return at_least > give_up || (best && at_least >= clearly * best->trial.used);
    };
    const auto take = [&](const Judged& judged) {
      const double used = judged.verdict.used;
      if (best && !(used < clearly * best->trial.used)) return;
      best = Miss{trial_of(parts, judged), {judged.verdict.over.begin(), judged.verdict.over.end()}};
    };
    for (std::size_t k = 0; k < task_.bench.classes().size(); ++k) {
      if (!task_.bench.runs(parts.motor, k)) continue;
      const DriveClass& whole = task_.bench.classes()[k];
      const std::uint32_t judged_first = parts.drive = first_of(whole);
      if (ties_at_best()) continue;
      const bool may_be_beaten = best || std::isfinite(give_up);
      if (demand && may_be_beaten && beaten(least_with(parts, k, *demand, judge))) continue;
      const auto first = judge(parts);
      if (!first) continue;
      take(*first);
      if (beaten(first->whatever_drive())) continue;
      const std::vector<std::uint32_t> rest = others_of(whole, judged_first, beaten);
      if (rest.empty()) continue;
      DriveSweep sweep = judge.sweep();
      sweep.strongest(task_.bench.drive(task_.bench.strongest_of(rest)));
      if (beaten(sweep.least_at_worst_moments()) || beaten(sweep.least_by_current())) continue;
      std::vector<std::pair<double, std::uint32_t>> others;
      others.reserve(rest.size());
      for (const std::uint32_t drive : rest)
        others.emplace_back(std::max(first->whatever_drive(),
                                     task_.look_at(sweep, drive, std::min(give_up, best->trial.used)).least),
                            drive);
      std::stable_sort(others.begin(), others.end(),
                       [](const auto& a, const auto& b) { return a.first < b.first; });
      for (const auto& [bound, drive] : others) {
        if (beaten(bound)) break;
        parts.drive = drive;
        if (const auto judged = judge(parts)) take(*judged);
      }
    }
    return best;
  }

  /// Where a limit that looks at no drive decides, all of a class are equally near: the first is told of
  /// which nothing on its own sheet is broken.
  [[nodiscard]] std::uint32_t first_of(const DriveClass& whole) const {
    const auto sound = std::find_if(whole.drives.begin(), whole.drives.end(), [&](std::uint32_t drive) {
      return !(task_.alone[drive].worst.used > 1.0);
    });
    return sound == whole.drives.end() ? whole.drives.front() : *sound;
  }

  /// All drives of a class but one that are not beaten by what follows from their sheets alone.
  template <class Beaten>
  std::vector<std::uint32_t> others_of(const DriveClass& whole, std::uint32_t but,
                                       const Beaten& beaten) const {
    std::vector<std::uint32_t> rest;
    for (const std::uint32_t drive : whole.drives)
      if (drive != but && !beaten(task_.alone[drive].worst.used)) rest.push_back(drive);
    return rest;
  }

  void work_out(const std::vector<std::size_t>& pairs) {
    if (pairs.empty()) return;
    const Miss* last = misses_.size() < task_.run.misses || misses_.empty() ? nullptr : &misses_.back();
    std::vector<std::optional<Miss>> worked_out(pairs.size());
    task_.in_threads(pairs.size(), [&](std::size_t item, std::size_t, Judge& judge) {
      worked_out[item] = nearest(pairs[item], last, judge);
    });
    for (auto& miss : worked_out)
      if (miss && !std::isnan(miss->trial.used) && !miss->over.empty()) misses_.push_back(std::move(*miss));
    std::sort(misses_.begin(), misses_.end(), [](const Miss& a, const Miss& b) {
      return a.trial.used != b.trial.used ? a.trial.used < b.trial.used : a.trial.parts < b.trial.parts;
    });
    if (misses_.size() > task_.run.misses) misses_.resize(task_.run.misses);
  }

  /// Whether no miss that is at least so far off can be among the nearest any more.
  [[nodiscard]] bool enough(double at_least) const {
    if (misses_.size() < task_.run.misses) return false;
    if (misses_.empty()) return true;
    constexpr double equal = 1.0 - 1e-6; // bounds are rounded down, to half the digits
    const double last = misses_.back().trial.used;
    return task_.run.first_of_ties ? at_least > last : at_least >= equal * last;
  }

  const SearchTask& task_;
  const std::vector<std::optional<TrainDemand>>& demands_;
  const PairBounds& bounds_;
  std::vector<Miss> misses_;
};

} // namespace

std::vector<Miss> nearest_misses(const SearchTask& task,
                                 const std::vector<std::optional<TrainDemand>>& demands,
                                 const PairBounds& bounds) {
  return NearMisses(task, demands, bounds)();
}

} // namespace fulmox
