#include "core/match/search.hpp"

#include "core/match/found.hpp"
#include "core/match/near_misses.hpp"
#include "core/match/screen.hpp"
#include "core/rules/house_rules.hpp"

#include <algorithm>
#include <array>
#include <chrono>
#include <map>
#include <mutex>

namespace fulmox {
namespace {

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

class Searcher {
public:
  explicit Searcher(const SearchTask& task)
      : task_(task), space_(task.space), run_(task.run), bench_(task.bench),
        screen_(bench_, task.rules, space_.motors.size(), space_.brakes.size()) {}

  MatchResult operator()() {
    MatchResult result;
    result.unusable = bench_.unusable();
    result.problem = bench_.problem();
    if (!result.problem.what.empty()) return result;
    std::vector<Found> found(std::max(1U, run_.threads));
    look_at_drives();
    look_at_trains(found);
    std::vector<Pair> pairs = open_pairs();
    const std::size_t tried = run_.some ? tell_some(pairs, found) : 0;
    try_pairs(std::span(pairs).subspan(tried), found);
    gather(found, result);
    if (result.fits.size() <= run_.settle) settle(result);
    if (run_.first && task_.wanted()) run_.first(result);
    if (task_.wanted()) result.misses = nearest_misses(task_, demands_, bounds_);
    result.finished = task_.wanted();
    return result;
  }

private:
  /// A motor, by its place, with a class of drives that no bound excludes.
  struct Open {
    std::uint32_t motor;
    std::uint32_t drive_class;
  };
  /// Head, brake and coupling; what they cannot bear whatever motor is put on.
  struct Train {
    Combination parts;
    double at_least = 0.0;
    std::string_view killer;
    std::vector<Open> open; ///< by rising motor
  };
  /// A motor on a train, with its classes among those that are open there.
  struct Pair {
    std::uint32_t train;
    std::uint32_t from, to;
  };

  /// Of a class of drives those that can be used here, and why not the others, whatever they are put on.
  struct Usable {
    std::vector<std::uint32_t> drives;
    std::vector<DriveGroup> groups;         ///< of them, by their places
    std::uint32_t first_group = 0;          ///< its place among those of all classes
    std::map<std::string_view, double> out; ///< how many, by the limit

    void leave_out(Found& found, double times = 1.0) const {
      for (const auto& [limit, number] : out) found.kill(limit, times * number);
    }
  };

  void look_at_drives() {
    usable_.resize(bench_.classes().size());
    for (std::size_t k = 0; k < usable_.size(); ++k) {
      for (const std::uint32_t drive : bench_.classes()[k].drives) {
        const Hint& alone = task_.alone[drive].worst;
        if (!(alone.used > 1.0)) {
          usable_[k].drives.push_back(drive);
          continue;
        }
        ++usable_[k].out[alone.limit];
      }
      usable_[k].groups = groups_of(usable_[k].drives, task_);
      usable_[k].first_group = static_cast<std::uint32_t>(groups_->size());
      for (const DriveGroup& group : usable_[k].groups) {
        GroupDrives& drives = groups_->emplace_back(GroupDrives{{}, group.drives});
        for (const std::uint32_t place : group.places) drives.places.push_back(usable_[k].drives[place]);
      }
    }
  }

  void look_at_trains(std::vector<Found>& found) {
    for (std::uint32_t c = 0; c < space_.couplings.size(); ++c)
      for (std::uint32_t b = 0; b < space_.brakes.size(); ++b)
        for (std::uint32_t h = 0; h < space_.heads.size(); ++h)
          trains_.push_back({{0, h, 0, b, c}, 0.0, "", {}});
    demands_.resize(trains_.size());
    bounds_.reset(trains_.size() * space_.motors.size());
    if (screen_.examples().empty()) return; // no motor runs on any drive
    task_.in_threads(trains_.size(), [&](std::size_t item, std::size_t thread, Judge& judge) {
      look_at_train(item, judge);
      screen_train(item, judge, found[thread]);
    });
  }

  [[nodiscard]] Combination with_example(const Train& train, const Screen::Example& example) const {
    Combination parts = train.parts;
    parts.motor = example.motor;
    parts.drive = bench_.classes()[example.drive_class].drives.front();
    return parts;
  }

  /// What looks neither at motor nor drive is judged with any of them.
  void look_at_train(std::size_t index, Judge& judge) {
    Train& train = trains_[index];
    const auto judged = judge(with_example(train, screen_.examples().front()));
    if (!judged) return;
    if (const auto* over = standing(judged->verdict, true)) {
      train.at_least = judged->whatever_motor();
      train.killer = over->label;
    }
    demands_[index] = judge.train();
  }

  /// Notes what each motor is used to at least on a train, and which are left to be judged.
  void screen_train(std::size_t index, Judge& judge, Found& found) {
    Train& train = trains_[index];
    std::vector<Hint> fitting(screen_.examples().size());
    std::optional<Screen::Asked> asked;
    if (const auto& demand = demands_[index]) {
      for (std::size_t i = 0; i < fitting.size(); ++i)
        fitting[i] = judge.fittings(with_example(train, screen_.examples()[i]), *demand);
      asked.emplace(screen_, *demand, train.parts.brake);
    }
    std::array<double, Screen::reasons> by_screen{};
    std::vector<double> by_fitting(fitting.size());
    double by_train = 0.0;
    std::vector<double> by_drives(usable_.size());
    for (std::size_t m = first_motor(index); m < space_.motors.size(); m += run_.parts) {
      const Hint& fits = fitting[screen_.fitting_of(m)];
      for (std::size_t k = 0; k < bench_.classes().size(); ++k) {
        if (!bench_.runs(static_cast<std::uint32_t>(m), k)) continue;
        const Screen::Bound bound = asked ? screen_(*asked, m, k) : Screen::Bound();
        const double worst = std::max({train.at_least, fits.used, bound.used});
        if (!(worst > 1.0) && usable_[k].drives.empty()) {
          ++by_drives[k];
          bounds_.lower(task_.pair(index, m), task_.class_alone[k].excluded);
          continue;
        }
        if (!(worst > 1.0)) {
          train.open.push_back({static_cast<std::uint32_t>(m), static_cast<std::uint32_t>(k)});
          continue;
        }
        const auto drives = static_cast<double>(bench_.classes()[k].drives.size());
        if (worst == bound.used)
          by_screen[bound.reason] += drives;
        else if (worst == fits.used)
          by_fitting[screen_.fitting_of(m)] += drives;
        else
          by_train += drives;
        const bool any = !usable_[k].drives.empty();
        bounds_.lower(task_.pair(index, m), any ? worst : std::max(worst, task_.class_alone[k].excluded));
      }
    }
    for (std::size_t i = 0; i < by_screen.size(); ++i)
      if (by_screen[i] > 0.0) found.kill(Screen::label(static_cast<Screen::Reason>(i)), by_screen[i]);
    for (std::size_t i = 0; i < by_fitting.size(); ++i)
      if (by_fitting[i] > 0.0) found.kill(fitting[i].limit, by_fitting[i]);
    if (by_train > 0.0) found.kill(train.killer, by_train);
    for (std::size_t k = 0; k < by_drives.size(); ++k)
      if (by_drives[k] > 0.0) usable_[k].leave_out(found, by_drives[k]);
  }

  /// The first motor of a train that this part of a shared search looks at.
  [[nodiscard]] std::size_t first_motor(std::size_t train) const {
    const std::size_t before = task_.pair(train, 0) % run_.parts;
    return (run_.part + run_.parts - before) % run_.parts;
  }

  [[nodiscard]] std::vector<Pair> open_pairs() const {
    std::vector<Pair> pairs;
    for (std::uint32_t t = 0; t < trains_.size(); ++t) {
      const auto& open = trains_[t].open;
      for (std::uint32_t from = 0, to = 0; from < open.size(); from = to) {
        while (to < open.size() && open[to].motor == open[from].motor) ++to;
        pairs.push_back({t, from, to});
      }
    }
    return pairs;
  }

  void try_pairs(std::span<const Pair> pairs, std::vector<Found>& found) {
    task_.in_threads(pairs.size(), [&](std::size_t item, std::size_t thread, Judge& judge) {
      try_pair(pairs[item], judge, found[thread]);
    });
  }

  /// Tries some from all over the pairs, brought to their front, and tells what fits of them where the others
  /// will take long. How many were tried.
  std::size_t tell_some(std::vector<Pair>& pairs, std::vector<Found>& found) {
    constexpr std::size_t at_first = 512;
    const std::size_t some = std::min(pairs.size() / 4, at_first);
    for (std::size_t i = 0; i < some; ++i) std::swap(pairs[i], pairs[i * (pairs.size() / some)]);
    const auto begin = std::chrono::steady_clock::now();
    try_pairs(std::span(pairs).first(some), found);
    const double seconds = std::chrono::duration<double>(std::chrono::steady_clock::now() - begin).count();
    const auto left = static_cast<double>(pairs.size() - some);
    if (some == 0 || !task_.wanted() || !(seconds * left / static_cast<double>(some) > run_.patience))
      return some;
    MatchResult so_far;
    so_far.unusable = bench_.unusable();
    so_far.fits = in_order(found, space_.motors.size(), groups_);
    run_.some(so_far);
    return some;
  }

  void try_pair(const Pair& pair, Judge& judge, Found& found) {
    const Train& train = trains_[pair.train];
    Combination parts = train.parts;
    parts.motor = train.open[pair.from].motor;
    const std::size_t place = task_.pair(pair.train, parts.motor);
    const auto& demand = demands_[pair.train];
    const std::size_t before = found.fits.size(), blocks_before = found.blocks.size();
    for (std::uint32_t i = pair.from; i < pair.to; ++i) {
      const std::uint32_t k = train.open[i].drive_class;
      parts.drive = usable_[k].drives.front();
      const Hint hint = demand ? judge.hint(parts, *demand) : Hint{};
      if (hint.used > 1.0) {
        found.kill(hint.limit, static_cast<double>(bench_.classes()[k].drives.size()));
        bounds_.lower(place, hint.used);
      } else {
        bounds_.lower(place, try_class(parts, k, judge, found));
      }
    }
    if (found.fits.size() == before && found.blocks.size() == blocks_before) return;
    bounds_.fits(place);
    found.pieces.push_back({place, before, found.fits.size(), blocks_before, found.blocks.size()});
  }

  /// Takes the usable drives of a class that surely fit as blocks; gives which those are, by their places.
  /// Those with the greatest continuous currents fit together; as many as do are found by halving.
  static std::vector<bool> take_groups(const Usable& usable, DriveSweep& sweep, const Combination& parts,
                                       Found& found) {
    std::vector<bool> taken(usable.drives.size());
    for (std::uint32_t g = 0; g < usable.groups.size(); ++g) {
      const DriveGroup& group = usable.groups[g];
      std::size_t fit = 0, not_sure = group.places.size() + 1;
      for (std::size_t next = group.places.size(); fit + 1 < not_sure; next = (fit + not_sure) / 2)
        (sweep.all_fit(group, next) ? fit : not_sure) = next;
      if (fit == 0) continue;
      found.blocks.push_back(
          {parts, usable.first_group + g, static_cast<std::uint32_t>(fit), sweep.floor_of(group, fit)});
      for (std::size_t i = 0; i < fit; ++i) taken[group.places[i]] = true;
    }
    return taken;
  }

  /// Tries the drives of a class; gives what the best of them is used to at least, NaN where nothing is
  /// known.
  double try_class(Combination parts, std::uint32_t drive_class, Judge& judge, Found& found) {
    const DriveClass& whole = bench_.classes()[drive_class];
    const auto& drives = usable_[drive_class].drives;
    const auto first = judge(parts);
    if (!first) {
      found.kill("could not be worked out", static_cast<double>(whole.drives.size()));
      return std::numeric_limits<double>::quiet_NaN();
    }
    if (const auto* over = standing(first->verdict, false)) {
      found.kill(over->label, static_cast<double>(whole.drives.size()));
      return first->whatever_drive();
    }
    usable_[drive_class].leave_out(found);
    double least = task_.class_alone[drive_class].excluded;
    const auto take = [&](const Judged& judged) {
      const Trial trial = trial_of(parts, judged);
      if (trial.fits) return found.fits.push_back(trial);
      found.kill(judged.verdict.over.empty() ? "no limit can be judged" : judged.verdict.worst, 1.0);
      least = std::min(least, judged.verdict.used);
    };
    DriveSweep sweep = judge.sweep();
    sweep.strongest(bench_.drive(whole.strongest));
    const std::vector<bool> taken = take_groups(usable_[drive_class], sweep, parts, found);
    if (!taken.front()) take(*first);
    for (std::size_t i = 1; i < drives.size(); ++i) {
      if (taken[i]) continue;
      parts.drive = drives[i];
      const auto outlook = task_.look_at(sweep, parts.drive);
      if (outlook.fails()) {
        found.kill(outlook.label, 1.0);
        least = std::min(least, outlook.least);
      } else if (outlook.fits()) {
        found.fits.push_back(sweep.trial(parts, outlook));
      } else if (const auto judged = judge(parts)) {
        take(*judged);
      } else {
        found.kill("could not be worked out", 1.0);
      }
    }
    return std::max(least, first->whatever_drive());
  }

  void gather(std::vector<Found>& found, MatchResult& result) {
    std::map<std::string_view, double> killers;
    for (const Found& one : found)
      for (const auto& [limit, number] : one.killers) killers[limit] += number;
    result.fits = in_order(found, space_.motors.size(), groups_);
    found.clear();
    for (const auto& [limit, number] : killers) result.killers.push_back({limit, number});
    std::stable_sort(result.killers.begin(), result.killers.end(),
                     [](const Killer& a, const Killer& b) { return a.combinations > b.combinations; });
    count(result);
  }

  void count(MatchResult& result) const {
    double drives = 0.0;
    for (const DriveClass& one : bench_.classes()) drives += static_cast<double>(one.drives.size());
    std::vector<double> fed(space_.motors.size());
    for (std::uint32_t m = 0; m < fed.size(); ++m)
      for (std::size_t k = 0; k < bench_.classes().size(); ++k)
        if (bench_.runs(m, k)) fed[m] += static_cast<double>(bench_.classes()[k].drives.size());
    for (std::size_t train = 0; train < trains_.size(); ++train)
      for (std::size_t m = first_motor(train); m < fed.size(); m += run_.parts) {
        if (!bench_.usable_motor(static_cast<std::uint32_t>(m))) continue;
        result.tried += drives;
        result.feedless += drives - fed[m];
      }
  }

  void settle(MatchResult& result) {
    std::vector<Trial> trials = result.fits.each_by_itself();
    std::vector<std::size_t> places;
    for (std::size_t i = 0; i < trials.size(); ++i)
      if (!trials[i].settled) places.push_back(i);
    task_.in_threads(places.size(), [&](std::size_t item, std::size_t, Judge& judge) {
      Trial& trial = trials[places[item]];
      if (const auto judged = judge(trial.parts)) trial = trial_of(trial.parts, *judged);
    });
    result.fits = std::move(trials);
  }

  const SearchTask& task_;
  const MatchSpace& space_;
  const MatchRun& run_;
  const BenchOfParts& bench_;
  Screen screen_;
  std::vector<Usable> usable_; ///< by class
  std::shared_ptr<std::vector<GroupDrives>> groups_ = std::make_shared<std::vector<GroupDrives>>();
  std::vector<Train> trains_;
  std::vector<std::optional<TrainDemand>> demands_; ///< by train; nothing where it cannot be worked out
  PairBounds bounds_;
};

} // namespace

MatchResult search(const Axis& axis, const Section& house_rules, const MatchSpace& space,
                   const MatchRun& run) {
  if (const auto wrong = faults(house_rules); !wrong.empty()) {
    MatchResult result;
    result.problem = wrong.front();
    return result;
  }
  return Searcher(SearchTask(axis, house_rules, space, run))();
}

} // namespace fulmox
