#include "core/match/search.hpp"

#include "core/form/slot.hpp"
#include "core/match/bench_of_parts.hpp"
#include "core/rules/house_rules.hpp"

#include <algorithm>
#include <array>
#include <atomic>
#include <cmath>
#include <map>
#include <mutex>
#include <thread>

namespace fulmox {
namespace {

/// A motor on a train (head, brake, coupling) with the drives of one class, none of which fits.
struct Refused {
  Combination parts;     ///< with the first drive of its class
  double at_least = 0.0; ///< no drive of the class makes the worst share less than this
};

/// What one thread found.
struct Found {
  std::vector<Trial> fits;
  std::vector<Refused> refused;
  std::map<std::string_view, double> killers;

  void kill(std::string_view limit, double combinations) { killers[limit] += combinations; }
};

/// Whether a value is missing on the sheet of a part, not on the axis itself.
bool of_a_part(std::string_view input) {
  constexpr std::array<std::string_view, 5> parts{"motor.", "gearhead.", "drive.", "brake.", "coupling."};
  return std::any_of(parts.begin(), parts.end(),
                     [&](std::string_view slot) { return input.starts_with(slot); });
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
  return trial;
}

/// The worst of what cannot be helped by another drive (or, with `head`, by another motor either).
const Verdict::Over* standing(const Verdict& verdict, bool head_alone) {
  const auto stays = [&](const Verdict::Over& over) {
    if (over.looks_at == LooksAt::head) return true;
    return !head_alone && over.looks_at == LooksAt::motor && (1.0 - moved_by_cuts) * over.used > 1.0;
  };
  for (const Verdict::Over& over : verdict.over)
    if (stays(over)) return &over;
  return nullptr;
}

/// What follows for another drive of the class from the currents alone, exactly as its limits judge them; 0
/// where they say nothing. Rounding is left room.
Hint by_currents(const Judged& judged, const Drive& drive, const Motor& motor) {
  const Feed feed = drive.feed();
  if (motor.keeps_current() || feed == Feed::bridges || feed == Feed::unipolar || feed == Feed::five)
    return {};
  static const std::string_view rms = label_of_limit("drive.rms"), peak = label_of_limit("drive.peak");
  constexpr double rounding = 1.0 - 1e-9;
  Hint worst;
  const auto share = [&](double current, double bears, std::string_view limit) {
    const double used = rounding * current / bears;
    if (used > worst.used) worst = {used, limit};
  };
  share(judged.rms_current, drive.continuous_current, rms);
  share(judged.peak_current, drive.peak_current, peak);
  return worst;
}

class Searcher {
public:
  Searcher(const Axis& axis, const Section& house_rules, const MatchSpace& space, const MatchRun& run)
      : axis_(axis), rules_(house_rules), space_(space), run_(run), bench_(axis, space) {}

  MatchResult operator()() {
    MatchResult result;
    result.unusable = bench_.unusable();
    result.problem = bench_.problem();
    if (!result.problem.what.empty()) return result;
    look_at_trains();
    std::vector<Found> found(std::max(1U, run_.threads));
    const std::size_t pairs = trains_.size() * space_.motors.size();
    const std::size_t own = pairs > run_.part ? (pairs - run_.part + run_.parts - 1) / run_.parts : 0;
    in_threads(own, [&](std::size_t item, std::size_t thread, Judge& judge) {
      try_pair(run_.part + item * run_.parts, judge, found[thread]);
    });
    gather(found, result);
    if (run_.first && wanted()) run_.first(result);
    if (wanted()) resolve_misses(result);
    result.finished = wanted();
    return result;
  }

private:
  /// Head, brake and coupling; what they cannot bear whatever motor is put on.
  struct Train {
    Combination parts;
    double at_least = 0.0;
    std::string_view killer;
    std::optional<TrainDemand> demand;
  };

  [[nodiscard]] bool wanted() const { return !run_.wanted || run_.wanted(); }

  /// Calls `work` with every item, each thread with a judge of its own.
  template <class Work> void in_threads(std::size_t items, const Work& work) {
    std::atomic<std::size_t> next = 0;
    const auto run = [&](std::size_t thread) {
      if (run_.begins) run_.begins();
      Judge judge(axis_, space_, bench_, rules_);
      for (std::size_t item = next++; item < items && wanted(); item = next++) {
        work(item, thread, judge);
        if (run_.progress && item % 64 == 0)
          run_.progress(static_cast<double>(item) / static_cast<double>(items));
      }
    };
    std::vector<std::thread> threads;
    for (unsigned k = 0; k < std::max(1U, run_.threads); ++k) threads.emplace_back(run, k);
    for (std::thread& one : threads) one.join();
  }

  /// Any motor with a drive that feeds it, to judge what looks at neither.
  [[nodiscard]] std::optional<Combination> any_motor() const {
    for (std::uint32_t m = 0; m < space_.motors.size(); ++m)
      for (std::size_t k = 0; k < bench_.classes().size(); ++k)
        if (bench_.runs(m, k)) return Combination{m, 0, bench_.classes()[k].drives.front(), 0, 0};
    return std::nullopt;
  }

  void look_at_trains() {
    const auto any = any_motor();
    Judge judge(axis_, space_, bench_, rules_);
    for (std::uint32_t c = 0; c < space_.couplings.size(); ++c)
      for (std::uint32_t b = 0; b < space_.brakes.size(); ++b)
        for (std::uint32_t h = 0; h < space_.heads.size() && any && wanted(); ++h) {
          Train train{*any, 0.0, "", std::nullopt};
          train.parts.head = h;
          train.parts.brake = b;
          train.parts.coupling = c;
          if (const auto judged = judge(train.parts))
            if (const auto* over = standing(judged->verdict, true)) {
              train.at_least = judged->whatever_motor();
              train.killer = over->label;
            }
          train.demand = judge.train(train.parts);
          trains_.push_back(std::move(train));
        }
  }

  void try_pair(std::size_t item, Judge& judge, Found& found) {
    const Train& train = trains_[item / space_.motors.size()];
    Combination parts = train.parts;
    parts.motor = static_cast<std::uint32_t>(item % space_.motors.size());
    for (std::size_t k = 0; k < bench_.classes().size(); ++k) {
      if (!bench_.runs(parts.motor, k)) continue;
      const auto& drives = bench_.classes()[k].drives;
      parts.drive = drives.front();
      const Hint hint = train.demand ? judge.hint(parts, *train.demand) : Hint{};
      const double at_least = std::max(train.at_least, hint.used);
      if (at_least > 1.0) {
        found.kill(hint.used > train.at_least ? hint.limit : train.killer,
                   static_cast<double>(drives.size()));
        found.refused.push_back({parts, at_least});
        continue;
      }
      try_class(parts, drives, judge, found);
    }
  }

  void try_class(Combination parts, const std::vector<std::uint32_t>& drives, Judge& judge, Found& found) {
    const auto first = judge(parts);
    if (!first) return found.kill("could not be worked out", static_cast<double>(drives.size()));
    if (const auto* over = standing(first->verdict, false)) {
      found.kill(over->label, static_cast<double>(drives.size()));
      found.refused.push_back({parts, first->whatever_drive()});
      return;
    }
    double least = std::numeric_limits<double>::infinity();
    bool any = false;
    const Combination with_first = parts;
    const auto take = [&](const Judged& judged) {
      const Trial trial = trial_of(parts, judged);
      if (trial.fits) {
        found.fits.push_back(trial);
        any = true;
        return;
      }
      found.kill(judged.verdict.over.empty() ? "no limit can be judged" : judged.verdict.worst, 1.0);
      least = std::min(least, judged.verdict.used);
    };
    take(*first);
    for (std::size_t i = 1; i < drives.size(); ++i) {
      parts.drive = drives[i];
      const Hint bound = of_drive(parts, *first, judge);
      if (bound.used > 1.0) {
        found.kill(bound.limit, 1.0);
        least = std::min(least, bound.used);
      } else if (const auto judged = judge(parts)) {
        take(*judged);
      } else {
        found.kill("could not be worked out", 1.0);
      }
    }
    if (!any) found.refused.push_back({with_first, std::max(least, first->whatever_drive())});
  }

  /// What another drive than the first of its class is used to at least.
  Hint of_drive(const Combination& parts, const Judged& first, Judge& judge) const {
    const Hint currents = by_currents(first, bench_.drive(parts.drive),
                                      bench_.motor(parts.motor, bench_.class_of(parts.drive)));
    const auto& demand = demand_of(parts);
    if (currents.used > 1.0 || !demand) return currents;
    const Hint sums = judge.drive_hint(parts, *demand);
    return sums.used > currents.used ? sums : currents;
  }

  void gather(std::vector<Found>& found, MatchResult& result) {
    std::map<std::string_view, double> killers;
    for (Found& one : found) {
      std::move(one.fits.begin(), one.fits.end(), std::back_inserter(result.fits));
      std::move(one.refused.begin(), one.refused.end(), std::back_inserter(refused_));
      for (const auto& [limit, number] : one.killers) killers[limit] += number;
    }
    std::sort(result.fits.begin(), result.fits.end(),
              [](const Trial& a, const Trial& b) { return a.parts < b.parts; });
    for (const auto& [limit, number] : killers) result.killers.push_back({limit, number});
    std::stable_sort(result.killers.begin(), result.killers.end(),
                     [](const Killer& a, const Killer& b) { return a.combinations > b.combinations; });
    count(result);
  }

  void count(MatchResult& result) const {
    double drives = 0.0;
    for (const DriveClass& one : bench_.classes()) drives += static_cast<double>(one.drives.size());
    const std::size_t trains = space_.heads.size() * space_.brakes.size() * space_.couplings.size();
    for (std::size_t pair = run_.part; pair < trains * space_.motors.size(); pair += run_.parts) {
      const auto motor = static_cast<std::uint32_t>(pair % space_.motors.size());
      if (!bench_.usable_motor(motor)) continue;
      double fed = 0.0;
      for (std::size_t k = 0; k < bench_.classes().size(); ++k)
        if (bench_.runs(motor, k)) fed += static_cast<double>(bench_.classes()[k].drives.size());
      result.tried += drives;
      result.feedless += drives - fed;
    }
  }

  /// Motor and train of a combination, whatever its drive.
  static Combination pair_of(Combination parts) {
    parts.drive = 0;
    return parts;
  }

  /// Pairs without any fitting drive, those that may come nearest first.
  [[nodiscard]] std::vector<Refused> hopeless(const MatchResult& result) {
    std::map<Combination, double> pairs;
    for (const Refused& one : refused_) {
      const auto [place, fresh] = pairs.emplace(pair_of(one.parts), one.at_least);
      if (!fresh) place->second = std::min(place->second, one.at_least);
    }
    for (const Trial& fit : result.fits) pairs.erase(pair_of(fit.parts));
    std::vector<Refused> all;
    for (const auto& [parts, at_least] : pairs) all.push_back({parts, at_least});
    std::stable_sort(all.begin(), all.end(),
                     [](const Refused& a, const Refused& b) { return a.at_least < b.at_least; });
    return all;
  }

  [[nodiscard]] const std::optional<TrainDemand>& demand_of(const Combination& parts) const {
    const std::size_t heads = space_.heads.size(), brakes = space_.brakes.size();
    return trains_[(parts.coupling * brakes + parts.brake) * heads + parts.head].demand;
  }

  /// The drive with which a pair comes nearest, worked out to the end; may be nothing where none comes nearer
  /// than `give_up`.
  std::optional<Miss> nearest(Combination parts, double give_up, Judge& judge) const {
    std::optional<Miss> best;
    const auto beaten = [&](double at_least) {
      return best ? at_least >= best->trial.used : at_least > give_up; // shares without end are misses too
    };
    const auto take = [&](const Judged& judged) {
      const double used = judged.verdict.used;
      if (best && !(used < best->trial.used)) return;
      best = Miss{trial_of(parts, judged), {judged.verdict.over.begin(), judged.verdict.over.end()}};
    };
    for (std::size_t k = 0; k < bench_.classes().size(); ++k) {
      if (!bench_.runs(parts.motor, k)) continue;
      const auto& drives = bench_.classes()[k].drives;
      parts.drive = drives.front();
      if (const auto& demand = demand_of(parts); demand && beaten(judge.hint(parts, *demand).used)) continue;
      const auto first = judge(parts);
      if (!first) continue;
      take(*first);
      std::vector<std::pair<double, std::uint32_t>> others;
      for (std::size_t i = 1; i < drives.size(); ++i) {
        parts.drive = drives[i];
        others.emplace_back(std::max(first->whatever_drive(), of_drive(parts, *first, judge).used),
                            drives[i]);
      }
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

  /// Whether no miss that is at least so far off can be among the nearest any more.
  [[nodiscard]] bool enough(const MatchResult& result, double at_least) const {
    if (result.misses.size() < run_.misses) return false;
    return result.misses.empty() || at_least > result.misses.back().trial.used;
  }

  /// Works out the nearest misses: those that may be nearest first, until no other can come nearer.
  void resolve_misses(MatchResult& result) {
    const std::vector<Refused> all = hopeless(result);
    constexpr std::size_t batch = 64;
    const auto nearer = [](const Miss& a, const Miss& b) {
      return a.trial.used != b.trial.used ? a.trial.used < b.trial.used : a.trial.parts < b.trial.parts;
    };
    for (std::size_t from = 0; from < all.size() && wanted(); from += batch) {
      if (enough(result, all[from].at_least)) break;
      const std::size_t to = std::min(from + batch, all.size());
      const double give_up =
          result.misses.size() < run_.misses || result.misses.empty()
              ? std::numeric_limits<double>::infinity()
              : result.misses.back().trial.used * (1.0 + 1e-9); // ties are ordered by parts
      std::vector<std::optional<Miss>> worked_out(to - from);
      in_threads(to - from, [&](std::size_t item, std::size_t, Judge& judge) {
        worked_out[item] = nearest(all[from + item].parts, give_up, judge);
      });
      for (auto& miss : worked_out)
        if (miss && !std::isnan(miss->trial.used) && !miss->over.empty())
          result.misses.push_back(std::move(*miss));
      std::sort(result.misses.begin(), result.misses.end(), nearer);
      if (result.misses.size() > run_.misses) result.misses.resize(run_.misses);
    }
  }

  const Axis& axis_;
  Rules rules_;
  const MatchSpace& space_;
  const MatchRun& run_;
  BenchOfParts bench_;
  std::vector<Train> trains_;
  std::vector<Refused> refused_;
};

} // namespace

MatchResult search(const Axis& axis, const Section& house_rules, const MatchSpace& space,
                   const MatchRun& run) {
  if (const auto wrong = faults(house_rules); !wrong.empty()) {
    MatchResult result;
    result.problem = wrong.front();
    return result;
  }
  return Searcher(axis, house_rules, space, run)();
}

} // namespace fulmox
