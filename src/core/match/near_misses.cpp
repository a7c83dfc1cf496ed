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
      least = std::min(least, demand ? judge.hint(parts, *demand).used : 0.0);
    }
    one.at_least = std::max(one.at_least, PairBounds::lowered(least));
    one.by_sums = true;
    return one;
  }

  /// The drive with which a pair comes nearest, worked out to the end; may be nothing where none comes nearer
  /// than `give_up`.
  std::optional<Miss> nearest(std::size_t pair, double give_up, Judge& judge) const {
    Combination parts = task_.parts_of(pair);
    const auto& demand = demands_[task_.train_of(pair)];
    std::optional<Miss> best;
    constexpr double clearly = 1.0 - 1e-9; // less than rounding is no nearer
    const auto beaten = [&](double at_least) {
      return best ? at_least >= clearly * best->trial.used : at_least > give_up; // without end: a miss too
    };
    const auto take = [&](const Judged& judged) {
      const double used = judged.verdict.used;
      if (best && !(used < clearly * best->trial.used)) return;
      best = Miss{trial_of(parts, judged), {judged.verdict.over.begin(), judged.verdict.over.end()}};
    };
    for (std::size_t k = 0; k < task_.bench.classes().size(); ++k) {
      if (!task_.bench.runs(parts.motor, k)) continue;
      const DriveClass& whole = task_.bench.classes()[k];
      const auto& drives = whole.drives;
      parts.drive = drives.front();
      if (demand && beaten(judge.hint(parts, *demand).used)) continue;
      const auto first = judge(parts);
      if (!first) continue;
      take(*first);
      DriveSweep sweep = judge.sweep();
      sweep.strongest(task_.bench.drive(whole.strongest));
      std::vector<std::pair<double, std::uint32_t>> others;
      for (std::size_t i = 1; i < drives.size(); ++i)
        others.emplace_back(
            std::max(first->whatever_drive(), task_.look_at(sweep, drives[i], best->trial.used).least),
            drives[i]);
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

  void work_out(const std::vector<std::size_t>& pairs) {
    if (pairs.empty()) return;
    const double give_up = misses_.size() < task_.run.misses || misses_.empty()
                               ? std::numeric_limits<double>::infinity()
                               : misses_.back().trial.used * (1.0 + 1e-9); // ties are ordered by parts
    std::vector<std::optional<Miss>> worked_out(pairs.size());
    task_.in_threads(pairs.size(), [&](std::size_t item, std::size_t, Judge& judge) {
      worked_out[item] = nearest(pairs[item], give_up, judge);
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
    return misses_.empty() || at_least > misses_.back().trial.used;
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
