#pragma once
#include "core/drive/drive.hpp"

#include <cstdint>
#include <vector>

namespace fulmox {

struct SearchTask;

/// Drives that feed alike, as one: figure by figure the least, or the most, that any of them has. A limit
/// that looks at the drive is used the more the weaker it is, so that what the weakest bears all of them
/// bear.
class BoundDrive final : public Drive {
public:
  enum class Side : std::uint8_t { weakest, strongest };
  /// Of one drive; more are added.
  BoundDrive(Side side, std::shared_ptr<const Drive> drive);
  void add(const Drive& drive);

  [[nodiscard]] double loss(double current) const override { return at_rest_ + per_ampere_ * current; }
  [[nodiscard]] Feed feed() const override { return like_->feed(); }
  [[nodiscard]] StepperSettings stepper() const override { return like_->stepper(); }
  [[nodiscard]] double motor_volts(double bus) const override { return like_->motor_volts(bus); }
  [[nodiscard]] Term record_motor_volts(const Term& bus, StepName step, Recorder& recorder) const override {
    return like_->record_motor_volts(bus, step, recorder);
  }

private:
  [[nodiscard]] double worse(double a, double b) const;
  [[nodiscard]] double dearer(double a, double b) const;

  Side side_;
  std::shared_ptr<const Drive> like_;
  double at_rest_, per_ampere_; ///< W, W/A
  double overload_;             ///< A²·s
};

/// Drives of a class that tell the same figures and go with the same parts.
struct DriveGroup {
  /// Places in a list of drives, by falling continuous current: what a motor needs, the first give.
  std::vector<std::uint32_t> places;
  std::vector<std::shared_ptr<const Drive>> drives;  ///< in their order
  std::vector<std::shared_ptr<const Drive>> weakest; ///< of the first one, of the first two…
  std::shared_ptr<const Drive> strongest;            ///< of all
};

/// Groups of the drives listed; those that are in none have to be looked at one by one.
std::vector<DriveGroup> groups_of(const std::vector<std::uint32_t>& drives, const SearchTask& task);

} // namespace fulmox
