#pragma once
#include "core/demand/axis_model.hpp"
#include "core/support/extremes.hpp"
#include "core/support/function_ref.hpp"
#include "core/support/reflected.hpp"

#include <functional>
#include <vector>

namespace fulmox {

/// Integrals over time, in SI.
struct Sums {
  double torque_squared = 0.0;  ///< N²·m²·s, motor shaft
  double current_squared = 0.0; ///< A²·s, rms line current
  double turns = 0.0;           ///< rad, motor, without sign
  double speed_squared = 0.0;   ///< rad²/s
  double shaft_work = 0.0;      ///< J put into the shaft, negative when taken back
  double bus_work = 0.0;        ///< J drawn from the bus, negative when returned
  double copper = 0.0;          ///< J lost in the warm winding; not told where the speed shapes the current
  TorqueParts energy;           ///< J, by cause, at the motor shaft

  Sums& operator+=(const Sums& other);
};

/// Part of a piece over which everything is smooth: no power, torque, current or speed changes its sign or
/// its law in it, and no curve has a corner. Quantities are polynomials there, exact where the law is one,
/// else fitted closely (see docs/decisions/0010).
struct Stretch : Span {
  bool again = false; ///< an earlier one is the same but for its piece

  Series torque;  ///< N·m, motor shaft
  Series speed;   ///< rad/s, motor
  Series air_gap; ///< N·m, what the motor's current makes; nothing where no torque constant is known
  Sums sums;

  std::size_t nodes = 0; ///< Gauss points it was looked at

  /// The load drives the motor.
  [[nodiscard]] bool braking() const { return torque(0.0) * direction < 0.0; }
};

/// The whole cycle cut into stretches.
struct Course {
  std::vector<Stretch> stretches; ///< in the order of time

  [[nodiscard]] Sums sums() const;
};

/// Cuts the cycle: at every corner of a curve and, found as roots of polynomials, wherever the power through
/// a stage, the torque at the shaft or in the air gap, or the power from the bus changes sign.
Course follow(const AxisModel& model);

/// A stretch of the load's side through gearhead and rotor, its torque a series that runs straight in the
/// rotor's inertia; neither cut further nor integrated.
Stretch seen_by_motor(const AxisModel& model, const LoadStretch& load);

/// Where the magnitude of a series is greatest over the cycle; the first moment where several tie.
Moment greatest_magnitude(const AxisModel& model, const Course& course, Series Stretch::*what);

inline constexpr auto no_corners = [] { return std::vector<double>(); };

/// A quantity that follows from motor torque and speed; what it calls must live as long as it is asked.
struct MotorQuantity {
  /// Its value for a torque and speed of a stretch.
  FunctionRef<double(const Stretch& stretch, double torque, double speed)> value;
  /// Not below any value with a torque and a speed of at most these magnitudes (and a speed of at least
  /// `slowest`); saves looking closely.
  FunctionRef<double(const Stretch& stretch, double torque, double slowest, double fastest)> bound;
  /// Speeds at which it may have a corner: what is not named here costs time, no more. Asked for only where a
  /// stretch has to be looked at closely.
  FunctionRef<std::vector<double>()> corners = no_corners;
};
/// Where it is greatest over the cycle; the first moment where several tie.
Moment greatest_of(const AxisModel& model, const Course& course, const MotorQuantity& quantity);

/// Whether it stays below a value for sure, as far as halving its stretches a few times tells: costs less
/// than looking for the greatest.
bool stays_below(const Course& course, const MotorQuantity& quantity, double value);

} // namespace fulmox
