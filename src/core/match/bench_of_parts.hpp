#pragma once
#include "core/demand/axis_model.hpp"
#include "core/match/search.hpp"

#include <memory>
#include <span>
#include <vector>

namespace fulmox {

/// Drives that feed alike: with any of them the motor runs the same, and only what the drive itself can bear
/// differs.
struct DriveClass {
  std::vector<std::uint32_t> drives; ///< places in the list
  std::uint32_t strongest = 0;       ///< of them the one with the greatest peak current
};

/// All parts of a search, read once from their forms: combinations are put together from them without reading
/// anything again.
class BenchOfParts {
public:
  BenchOfParts(const Axis& axis, const MatchSpace& space, unsigned threads = 1);

  [[nodiscard]] const std::vector<DriveClass>& classes() const { return classes_; }
  /// The load's side with a coupling; null where it cannot be worked out: problem() tells why.
  [[nodiscard]] const std::shared_ptr<const LoadSide>& load(std::uint32_t coupling) const {
    return loads_[coupling];
  }
  [[nodiscard]] const Problem& problem() const { return problem_; }
  /// Whether a motor runs on the drives of a class.
  [[nodiscard]] bool runs(std::uint32_t motor, std::size_t drive_class) const {
    return read_motor(motor, drive_class).motor != nullptr;
  }
  [[nodiscard]] const Motor& motor(std::uint32_t motor, std::size_t drive_class) const {
    return *read_motor(motor, drive_class).motor;
  }
  /// Motor and drive must suit: runs().
  [[nodiscard]] AxisModel model(const Combination& parts) const;
  /// Of some drives the one with the greatest peak current; one whose sheet does not tell it comes first.
  [[nodiscard]] std::uint32_t strongest_of(std::span<const std::uint32_t> drives) const;
  [[nodiscard]] std::size_t class_of(std::uint32_t drive) const { return class_of_[drive]; }
  [[nodiscard]] const std::shared_ptr<const Drive>& drive(std::uint32_t index) const {
    return drives_[index];
  }
  [[nodiscard]] const Brake& brake(std::uint32_t brake, std::uint32_t motor) const {
    return brakes_[brake * usable_motor_.size() + motor];
  }
  [[nodiscard]] const Surroundings& surroundings() const { return surroundings_; }
  [[nodiscard]] const std::vector<Unusable>& unusable() const { return unusable_; }
  /// Not below any torque the motor can put on its shaft, N·m; infinite where nothing is told.
  [[nodiscard]] double most_torque(std::uint32_t motor, std::size_t drive_class) const {
    return read_motor(motor, drive_class).most_torque;
  }
  [[nodiscard]] bool usable_motor(std::uint32_t motor) const { return usable_motor_[motor]; }

private:
  void read_drives(const std::vector<PartChoice>& drives);
  void read_motors(const std::vector<PartChoice>& motors, unsigned threads);
  void read_loads(Axis axis, const MatchSpace& space);
  [[nodiscard]] bool usable(const PartChoice& choice);

  Surroundings surroundings_;
  std::vector<std::shared_ptr<const Drive>> drives_;
  std::vector<std::size_t> class_of_;
  std::vector<DriveClass> classes_;
  /// With one class of drives.
  struct ReadMotor {
    std::shared_ptr<const Motor> motor; ///< null where none of them runs it
    double most_torque = 0.0;
  };
  [[nodiscard]] std::vector<ReadMotor> read(const PartChoice& motor) const;
  [[nodiscard]] const ReadMotor& read_motor(std::uint32_t motor, std::size_t drive_class) const {
    return motors_[motor * classes_.size() + drive_class];
  }
  std::vector<ReadMotor> motors_; ///< by motor and class
  std::vector<bool> usable_motor_;
  std::vector<Brake> brakes_; ///< by brake and motor: a motor brings its own where nobody gives one
  std::vector<Gearhead> heads_;
  std::vector<std::shared_ptr<const LoadSide>> loads_;
  std::vector<Unusable> unusable_;
  Problem problem_;
};

} // namespace fulmox
