#pragma once
#include "core/evaluation/evaluation.hpp"

#include <vector>

namespace fulmox {

/// What an axis can press with at a steady speed, on top of what it needs itself there: N, or N·m where the
/// load turns. The lesser of both directions, the hardest place that the cycle reaches, empty or loaded.
struct Capability {
  double speed = 0.0;       ///< of the load, >= 0: m/s or rad/s
  double motor_speed = 0.0; ///< rad/s, the fastest at any of these places
  double peak = 0.0;        ///< for a short time, at the nominal bus; of steppers with their factor
  double peak_low = 0.0;    ///< the same at the lowest bus
  double lasting = 0.0;     ///< for ever, no more than the peak
};
/// Zero where the axis cannot even move itself; infinite where no force reaches the motor.
Capability capability_at(const Evaluation& evaluation, double load_speed);

/// From rest to the speed at which nothing is left, or the motor's mechanical limit; empty without a motor
/// whose torque is told.
std::vector<Capability> capability_curve(const Evaluation& evaluation);

/// The force at rest and at the cycle's top speed as results, with their working; nothing where the motor's
/// torque is not told.
void add_capability(Evaluation& evaluation, Recorder& recorder);

namespace book {
extern const Formula press_force, press_torque;
}
std::span<const Formula* const> capability_formulas();

/// What the curve of the capability calls its numbers.
MotionKinds capability_kinds(const Evaluation& evaluation);

} // namespace fulmox
