#pragma once
#include "core/form/section.hpp"
#include "core/form/slot.hpp"
#include "core/motor/envelope.hpp"
#include "core/working/recorder.hpp"

#include <limits>
#include <optional>
#include <vector>

namespace fulmox {

/// The form of a servo motor; also the columns of a motor library.
const SectionSpec& servo_motor_section();
const SlotSpec& motor_slot();

/// Straight-line reading of a curve between its points; constant before the first, 0 beyond the last.
double read_curve(const std::vector<CurvePoint>& curve, double x);

/// What limits the motor at present.
struct MotorSupply {
  double voltage = 0.0;       ///< V, phase peak available
  double drive_current = 0.0; ///< A rms, the drive's peak; infinite when no drive is chosen
  bool weakening = false;
};

/// What bounds the peak torque at a speed, N·m; infinite where nothing is known.
struct PeakLimits {
  double catalogue = std::numeric_limits<double>::infinity();
  double current = std::numeric_limits<double>::infinity();
  double voltage = std::numeric_limits<double>::infinity();
  /// The smallest of them, 0 when nothing is known.
  [[nodiscard]] double least() const;
};

/// A servo motor in the core's convention. Blank data stay NaN; ask the has_… members first.
struct ServoMotor {
  bool chosen = false;
  Term inertia, max_speed, kt, ke, k, resistance, inductance, pole_pairs, rated_current, peak_current;
  Term warm_resistance;                ///< line-line, at the winding limit when known, else as `resistance`
  double hysteresis = 0.0, eddy = 0.0; ///< N·m and N·m·s/rad, friction included
  std::vector<CurvePoint> continuous, peak; ///< rad/s, N·m
  Term kt_given, ke_given;                  ///< in the core's convention, before one stood in for the other

  [[nodiscard]] bool has_circuit() const; ///< K, R, L, pole pairs known
  [[nodiscard]] bool has_kt() const;
  [[nodiscard]] double drag(double speed) const { return hysteresis + eddy * std::abs(speed); }
  /// Drag against the rotation; `direction` is that of the move also where its speed is still 0.
  [[nodiscard]] double drag_torque(double speed, double direction) const { return direction * drag(speed); }

  /// Torque in the air gap for a torque at the shaft: drag against the rotation is added once; at rest, where
  /// it could help or hinder, it hinders.
  [[nodiscard]] double air_gap(double shaft_torque, double speed, double direction) const;
  /// Line current, rms ampere >= 0, for an air-gap torque; follows the maker's peak point where it saturates.
  [[nodiscard]] double current(double air_gap_torque) const;
  /// Air-gap torque >= 0 of a line current; inverse of current().
  [[nodiscard]] double torque_of_current(double current_rms) const;
  /// Whether the maker's peak point lies below Kt times its current.
  [[nodiscard]] bool saturates() const;
  /// Air-gap torque at rated current, up to which current follows torque in a straight line from 0.
  [[nodiscard]] double rated_torque() const { return kt * rated_current; }
  /// Air-gap torque of the maker's peak point: curves are torques at the shaft, drag is already off.
  [[nodiscard]] double peak_air_gap() const;

  /// Largest shaft torque at a speed, in N·m >= 0: catalogue curve, drive current and voltage together.
  [[nodiscard]] double peak_torque(double speed, const MotorSupply& supply, bool braking) const {
    return peak_limits(speed, supply, braking).least();
  }
  [[nodiscard]] PeakLimits peak_limits(double speed, const MotorSupply& supply, bool braking) const;
  /// Not above the largest shaft torque at any speed between two; 0 where nothing is known.
  [[nodiscard]] double least_peak(double slowest, double fastest, const MotorSupply& supply,
                                  bool braking) const;
  /// Speeds at which the largest motoring torque has a corner: points of the curve, and where curve, current
  /// and voltage take turns in limiting it.
  [[nodiscard]] std::vector<double> peak_corners(const MotorSupply& supply) const;
  /// Catalogue continuous torque at a speed, before derating.
  [[nodiscard]] double continuous_torque(double speed) const {
    return read_curve(continuous, std::abs(speed));
  }

  static ServoMotor from(const Section& motor, Recorder& recorder);
};

} // namespace fulmox
