#pragma once
#include "core/demand/axis_model.hpp"
#include "core/evaluation/part_fit.hpp"
#include "core/match/search.hpp"
#include "core/match/train.hpp"

#include <memory>
#include <optional>
#include <vector>

namespace fulmox {

/// Drives that feed alike: with any of them the motor runs the same, and only what the drive itself can bear
/// differs.
struct DriveClass {
  std::vector<std::uint32_t> drives; ///< places in the list
};

/// All parts of a search, read once from their forms: combinations are put together from them without reading
/// anything again.
class BenchOfParts {
public:
  BenchOfParts(const Axis& axis, const MatchSpace& space);

  [[nodiscard]] const std::vector<DriveClass>& classes() const { return classes_; }
  /// The load's side with a coupling; null where it cannot be worked out: problem() tells why.
  [[nodiscard]] const std::shared_ptr<const LoadSide>& load(std::uint32_t coupling) const {
    return loads_[coupling];
  }
  [[nodiscard]] const Problem& problem() const { return problem_; }
  /// Whether a motor runs on the drives of a class.
  [[nodiscard]] bool runs(std::uint32_t motor, std::size_t drive_class) const {
    return motors_[motor][drive_class] != nullptr;
  }
  [[nodiscard]] const Motor& motor(std::uint32_t motor, std::size_t drive_class) const {
    return *motors_[motor][drive_class];
  }
  /// Motor and drive must suit: runs().
  [[nodiscard]] AxisModel model(const Combination& parts) const;
  [[nodiscard]] std::size_t class_of(std::uint32_t drive) const { return class_of_[drive]; }
  [[nodiscard]] const Drive& drive(std::uint32_t index) const { return *drives_[index]; }
  [[nodiscard]] const std::vector<Unusable>& unusable() const { return unusable_; }
  /// Not below any torque the motor can put on its shaft, N·m; infinite where nothing is told.
  [[nodiscard]] double most_torque(std::uint32_t motor, std::size_t drive_class) const {
    return most_torque_[motor][drive_class];
  }
  [[nodiscard]] bool usable_motor(std::uint32_t motor) const { return usable_motor_[motor]; }

private:
  void read_drives(const std::vector<PartChoice>& drives);
  void read_motors(const std::vector<PartChoice>& motors);
  void read_loads(Axis axis, const MatchSpace& space);
  bool usable(const PartChoice& choice);

  const MatchSpace& space_;
  Surroundings surroundings_;
  std::vector<std::shared_ptr<const Drive>> drives_;
  std::vector<std::size_t> class_of_;
  std::vector<DriveClass> classes_;
  std::vector<std::vector<std::shared_ptr<const Motor>>> motors_; ///< by class of drive
  std::vector<std::vector<double>> most_torque_;
  std::vector<bool> usable_motor_;
  std::vector<Gearhead> heads_;
  std::vector<std::shared_ptr<const LoadSide>> loads_;
  std::vector<Unusable> unusable_;
  Problem problem_;
};

/// The drive's losses say where the bus power turns and the cycle is cut; what is integrated between cuts
/// moves by less than this with them, the swing of the winding's heat by some 1e-5.
inline constexpr double moved_by_cuts = 1e-4;

/// What judging a combination gives.
struct Judged {
  Verdict verdict;
  double energy = 0.0, ratio = 0.0, winding = 0.0;
  double rms_current = 0.0, peak_current = 0.0; ///< A; NaN where not known

  /// Not above the worst share that stays whatever drive of the same class is put on.
  [[nodiscard]] double whatever_drive() const;
  /// The worst share that stays whatever motor is put on.
  [[nodiscard]] double whatever_motor() const;
};

/// A share that a limit is used to at least.
struct Hint {
  double used = 0.0;
  std::string_view limit;
};

/// Puts combinations on an axis and judges them; each thread has its own.
class Judge {
public:
  Judge(const Axis& axis, const MatchSpace& space, const BenchOfParts& bench, const Rules& rules)
      : axis_(axis), space_(space), bench_(bench), rules_(rules) {}
  /// Nothing where the program itself fails.
  std::optional<Judged> operator()(const Combination& parts);
  /// What the cycle asks of any motor on the head, brake and coupling of a combination.
  std::optional<TrainDemand> train(const Combination& parts);
  /// What sums alone tell of a motor on that train: the worst share is not less, whatever drive of the class
  /// is put on.
  Hint hint(const Combination& parts, const TrainDemand& train);
  /// The same of the drive itself.
  Hint drive_hint(const Combination& parts, const TrainDemand& train);

private:
  void put_in(const Combination& parts);
  Hint by_sums(const AxisModel& model, const TrainDemand& train, bool of_drive);

  Axis axis_;
  const MatchSpace& space_;
  const BenchOfParts& bench_;
  const Rules& rules_;
  std::optional<Combination> in_;
  std::optional<Demand> sums_; ///< of the train looked at last
  const TrainDemand* sums_of_ = nullptr;
};

} // namespace fulmox
