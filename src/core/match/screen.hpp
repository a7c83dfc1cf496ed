#pragma once
#include "core/match/bench_of_parts.hpp"
#include "core/match/train.hpp"
#include "core/rules/rules.hpp"

#include <array>

namespace fulmox {

/// What excludes most motors from a train without putting them in: their figures stand in rows, read once,
/// and a train brings a handful of numbers. Never above what the limits say: it only excludes.
class Screen {
public:
  Screen(const BenchOfParts& bench, const Rules& rules, std::size_t motors, std::size_t brakes);

  /// Motors alike in shaft, flange, encoder and insulation, so that what follows from these alone is judged
  /// for one of them.
  [[nodiscard]] std::size_t fitting_of(std::size_t motor) const { return fitting_of_[motor]; }
  /// One motor of each such group, with a class of drives that runs it.
  struct Example {
    std::uint32_t motor = 0;
    std::size_t drive_class = 0;
  };
  [[nodiscard]] const std::vector<Example>& examples() const { return examples_; }

  enum Reason : std::uint8_t { nothing, rms_torque, peak_torque, pulls_out, speed, inertia, reasons };
  static std::string_view label(Reason reason);

  /// What a train asks of any motor.
  class Asked {
  public:
    Asked(const Screen& screen, const TrainDemand& train, std::uint32_t brake);

  private:
    friend class Screen;
    const TrainDemand& train_;
    double max_speed_, thermal_speed_, load_inertia_;
    std::uint32_t brake_;
    std::vector<TrainDemand::Moment> moments_; ///< at which the greatest torques are found
  };
  struct Bound {
    double used = 0.0;
    Reason reason = nothing;
  };
  [[nodiscard]] Bound operator()(const Asked& asked, std::size_t motor, std::size_t drive_class) const;

private:
  /// Of one motor with one class of drives.
  struct Row {
    const Motor* motor = nullptr;              ///< where the continuous torque counts
    std::uint32_t first_point = 0, points = 0; ///< of its curve; none where it is no curve
    double inertia = 0.0;                      ///< kg·m²
    double most_torque = 0.0;                  ///< N·m
    double most_speed = 0.0;                   ///< rad/s; infinite where not known
    double most_ratio = 0.0;                   ///< of inertia; infinite where not judged
    bool keeps_current = false;
  };
  [[nodiscard]] double continuous_torque(const Row& row, double at) const;

  std::vector<Row> rows_;          ///< by motor and class
  std::vector<CurvePoint> points_; ///< of all curves, in the order of the rows: read one after the other
  std::size_t classes_;
  bool at_rms_speed_;
  std::vector<double> brake_inertia_; ///< by brake and motor
  std::vector<std::size_t> fitting_of_;
  std::vector<Example> examples_;
  double least_rotor_ = 0.0, most_rotor_ = 0.0; ///< kg·m², of all motors with any brake
};

} // namespace fulmox
