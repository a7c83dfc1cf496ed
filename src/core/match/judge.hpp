#pragma once
#include "core/evaluation/part_fit.hpp"
#include "core/match/bench_of_parts.hpp"
#include "core/match/drive_sweep.hpp"
#include "core/match/train.hpp"

#include <optional>

namespace fulmox {

/// What judging a combination gives.
struct Judged {
  Verdict verdict;
  double energy = 0.0, ratio = 0.0, winding = 0.0;

  /// Not above the worst share that stays whatever drive of the same class is put on.
  [[nodiscard]] double whatever_drive() const;
  /// The worst share that stays whatever motor is put on.
  [[nodiscard]] double whatever_motor() const;
};

/// Whether a value is missing on the sheet of a part, not on the axis itself.
bool of_a_part(std::string_view input);
/// What a model that was judged gives.
Judged figures_of(const AxisModel& model, const JudgedAxis& judged);
/// What a combination judged in full is worth.
Trial trial_of(const Combination& parts, const Judged& judged);

/// A share that a limit is used to at least.
struct Hint {
  double used = 0.0; ///< with room for rounding
  std::string_view limit;
  double share = 0.0; ///< as that limit's judge tells it
};

/// What limits that look at a drive alone tell of it.
struct DriveAlone {
  Hint worst;
  bool clear = false; ///< none counts: all that are there fit exactly, and nothing is missing
};

/// Puts combinations on an axis and judges them; each thread has its own.
class Judge {
public:
  Judge(const Axis& axis, const MatchSpace& space, const BenchOfParts& bench, const Rules& rules)
      : axis_(axis), space_(space), bench_(bench), rules_(rules) {}
  /// Nothing where the program itself fails.
  std::optional<Judged> operator()(const Combination& parts);
  /// What the combination judged last tells of the other drives of its class. Only after operator() gave one,
  /// and once.
  DriveSweep sweep();
  /// What the cycle asks of any motor on the head, brake and coupling of that combination; likewise.
  TrainDemand train();
  /// What sums alone tell of a motor on that train: the worst share is not less, whatever drive of the class
  /// is put on.
  Hint hint(const Combination& parts, const TrainDemand& train);
  /// The same of this one combination, with what follows from its drive's peak current: not less with any
  /// drive of the class that gives no more.
  Hint hint_of_strongest(const Combination& parts, const TrainDemand& train);
  /// What the fittings alone tell of it.
  Hint fittings(const Combination& parts, const TrainDemand& train);
  /// What is told by limits that look at its drive alone: the same on any motor and train.
  DriveAlone drive_alone(const Combination& parts);

private:
  /// A combination judged last, and all that was worked out for it.
  struct Worked {
    Combination parts;
    AxisModel model;
    JudgedAxis judged;
  };

  void put_in(const Combination& parts);
  /// Of limits that `counts` picks.
  template <class Counts, class Take>
  void each_limit(const AxisModel& model, const Demand& demand, const Counts& counts, const Take& take_one);
  Hint by_sums(const Combination& parts, const AxisModel& model, const TrainDemand& train);
  /// What limits that `counts` picks tell at some moments of the cycle.
  template <class Counts>
  void by_moments(Hint& worst, const AxisModel& model, const TrainDemand& train,
                  const std::vector<TrainDemand::Moment>& moments, const Counts& counts);
  Hint by_limits(const AxisModel& model, const TrainDemand& train, Follows least);

  Axis axis_;
  const MatchSpace& space_;
  const BenchOfParts& bench_;
  const Rules& rules_;
  std::optional<Combination> in_;
  std::optional<Worked> worked_;
  std::optional<Demand> sums_; ///< of the train looked at last
  std::shared_ptr<const Demand> sums_of_;
};

} // namespace fulmox
