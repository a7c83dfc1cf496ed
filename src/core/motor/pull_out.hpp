#pragma once
#include <memory>
#include <optional>
#include <vector>

namespace fulmox {

/// A two-phase hybrid stepper on a chopper that holds the current of each phase to a reference.
struct ChoppedStepper {
  double k_torque = 0.0;   ///< N·m per ampere of one phase: T_hold/(√2·I_rated)
  double k_emf = 0.0;      ///< V·s/rad, crest of one phase spun
  double resistance = 0.0; ///< Ω, one phase
  double inductance = 0.0; ///< H, one phase
  double teeth = 50.0;     ///< of the rotor; electrical = teeth × mechanical
  double current = 0.0;    ///< A, crest of the reference
  double volts = 0.0;      ///< V on a phase
  double microsteps = 0.0; ///< a full step; the reference is a staircase below `smooth_from`, else a sine

  static constexpr double smooth_from = 64.0;
  [[nodiscard]] bool operator==(const ChoppedStepper&) const = default;
};

/// What one phase does in its steady state at an imposed speed.
struct SteadyPhase {
  double torque = 0.0;      ///< N·m in the air gap, both phases
  double mean_square = 0.0; ///< A², of one phase
  double power = 0.0;       ///< W at the terminals, both phases
};
/// At electrical lead `lead` of the current's reference on the rotor (rad); speed > 0 mechanical.
/// Half a period is stepped (the other half mirrors it), its start found where it repeats.
SteadyPhase steady_phase(const ChoppedStepper& machine, double speed, double lead);

/// The lead of the greatest torque and what it gives: beyond it the rotor falls out of step.
struct PullOut {
  double lead = 0.0;
  SteadyPhase phase;
};
PullOut pull_out(const ChoppedStepper& machine, double speed);

/// The steady state that carries an air-gap torque at a speed > 0, on the stable side of the pull-out;
/// nothing where the torque is beyond it or below the most the phase can brake with.
std::optional<SteadyPhase> running_phase(const ChoppedStepper& machine, double speed, double air_gap_torque);

/// ω_k in rad/s where R, EMF and reactance of the full sine current use up the voltage: above it the current
/// no longer follows. 0 where even standstill takes more.
double corner_speed(const ChoppedStepper& machine);

/// Pull-out over speed, worked out at some twenty speeds; between them power runs straight, which is exact
/// for T = A/n − B and never high by more than the curve's own rounding. Drag is not subtracted.
class PullOutCurve {
public:
  explicit PullOutCurve(const ChoppedStepper& machine);

  /// N·m, at least 0.
  [[nodiscard]] double operator()(double speed) const;
  [[nodiscard]] const std::vector<double>& speeds() const { return speeds_; }

private:
  std::vector<double> speeds_, torques_; ///< rad/s rising from 0; falling
};

/// The same, kept for the machines asked for last: any thread may ask.
std::shared_ptr<const PullOutCurve> pull_out_curve(const ChoppedStepper& machine);

/// Power T·n read straight between two points of a pull-out curve: torque at n.
double straight_in_power(double n_left, double t_left, double n_right, double t_right, double n);

} // namespace fulmox
