#pragma once
#include "core/match/judge.hpp"

#include <atomic>
#include <bit>
#include <cmath>
#include <thread>

namespace fulmox {

/// What a motor on a train is used to at least with any drive; half the memory of a number each.
class PairBounds {
public:
  void reset(std::size_t pairs) { at_least_.assign(pairs, not_tried); }
  [[nodiscard]] std::size_t size() const { return at_least_.size(); }
  /// Another class of drives may come nearer. NaN tells nothing.
  void lower(std::size_t pair, double share) {
    if (!std::isnan(share) && !(at_least_[pair] <= lowered(share))) at_least_[pair] = lowered(share);
  }
  /// It fits with some drive: no bound is wanted any more.
  void fits(std::size_t pair) { at_least_[pair] = fits_somewhere; }
  /// Whether it was tried and fits with no drive.
  [[nodiscard]] bool hopeless(std::size_t pair) const { return at_least_[pair] >= 0.0F; }
  [[nodiscard]] float at_least(std::size_t pair) const { return at_least_[pair]; }
  /// Not above a share, which is not negative.
  static float lowered(double share) {
    const auto near = static_cast<float>(share);
    // the float before it has the bits before its own; asked for millions of pairs
    return static_cast<double>(near) > share ? std::bit_cast<float>(std::bit_cast<std::uint32_t>(near) - 1)
                                             : near;
  }

private:
  static constexpr float fits_somewhere = -1.0F;
  static constexpr float not_tried = std::numeric_limits<float>::quiet_NaN();
  std::vector<float> at_least_;
};

/// What all parts of a search look at, and how they are run beside each other. A pair is a motor on a train
/// of head, brake and coupling.
struct SearchTask {
  SearchTask(const Axis& on_axis, const Section& house_rules, const MatchSpace& of_space,
             const MatchRun& as_run)
      : axis(on_axis), rules(house_rules), space(of_space), run(as_run),
        bench(on_axis, of_space, as_run.threads), alone(look_at_drives()), class_alone(look_at_classes()) {}

  const Axis& axis;
  Rules rules;
  const MatchSpace& space;
  const MatchRun& run;
  BenchOfParts bench;
  std::vector<DriveAlone> alone; ///< by drive; nothing of those that no motor runs on, or nothing can run
  /// Of a class of drives.
  struct ClassAlone {
    std::optional<std::uint32_t> strongest; ///< of those that nothing on their own sheets excludes
    double excluded = std::numeric_limits<double>::infinity(); ///< the others are used to at least that
  };
  std::vector<ClassAlone> class_alone;

  [[nodiscard]] bool wanted() const { return !run.wanted || run.wanted(); }
  [[nodiscard]] std::size_t trains() const {
    return space.heads.size() * space.brakes.size() * space.couplings.size();
  }
  [[nodiscard]] std::size_t pair(std::size_t train, std::size_t motor) const {
    return train * space.motors.size() + motor;
  }
  [[nodiscard]] std::size_t train_of(std::size_t pair) const { return pair / space.motors.size(); }
  /// Without a drive yet.
  [[nodiscard]] Combination parts_of(std::size_t pair) const;
  /// Another drive of the class that was swept.
  DriveSweep::Outlook look_at(DriveSweep& sweep, std::uint32_t drive, double beyond = 1.0) const;

  /// Calls `work(item, thread, judge)` with every item, each thread with a judge of its own.
  template <class Work> void in_threads(std::size_t items, const Work& work) const {
    std::atomic<std::size_t> next = 0;
    const auto one_thread = [&](std::size_t thread) {
      if (run.begins) run.begins();
      Judge judge(axis, space, bench, rules);
      for (std::size_t item = next++; item < items && wanted(); item = next++) {
        work(item, thread, judge);
        if (run.progress && item % 64 == 0)
          run.progress(static_cast<double>(item) / static_cast<double>(items));
      }
    };
    std::vector<std::thread> threads;
    for (unsigned k = 0; k < std::max(1U, run.threads); ++k) threads.emplace_back(one_thread, k);
    for (std::thread& one : threads) one.join();
  }

private:
  [[nodiscard]] std::vector<DriveAlone> look_at_drives() const;
  [[nodiscard]] std::vector<ClassAlone> look_at_classes() const;
};

} // namespace fulmox
