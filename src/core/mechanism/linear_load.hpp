#pragma once
#include "core/project/section.hpp"
#include "core/working/recorder.hpp"

#include <span>

namespace fulmox {

// Forces on a load that moves along a line, in N; forward is positive, see the sign rules in docs/manual.md.

/// F = (m + m_cw)·a. m, m_cw >= 0 in kg, a in m/s².
double inertia_force(double mass, double counterweight, double acceleration);
/// F = m·g·sinθ. θ in rad from level, positive uphill.
double gravity_force(double mass, double gravity, double angle);
/// F = −sgn(sinθ)·(m_cw·g + F_s): the balance pulls uphill. 0 on a level axis.
double balance_force(double counterweight, double gravity, double spring, double angle);
/// F = s·(μ·m·g·|cosθ| + F_seal). s = −1, 0, 1; μ >= 0.
double sliding_friction(double direction, double coefficient, double mass, double gravity, double angle,
                        double seal);
/// F = b·v. b >= 0 in N·s/m.
double viscous_friction(double coefficient, double speed);

namespace book {
extern const Formula inertia_force, gravity_force, balance_force, sliding_friction, viscous_friction,
    force_sum, breakaway_force;
}
std::span<const Formula* const> linear_load_formulas();

/// The form for what is moved.
const SectionSpec& linear_load_section();

/// Forces at one instant, by cause.
struct LoadForces {
  Term inertia, gravity, balance, sliding, viscous, process;
  Term total;
};

/// A filled-in load form as numbers that remember their origin.
struct LinearLoad {
  Term mass, angle, friction, static_friction, seal, viscous, counterweight, spring, process;

  static LinearLoad from(const Section& load);
  [[nodiscard]] LoadForces forces(const Term& speed, const Term& acceleration, double direction,
                                  Recorder& recorder) const;
  /// Force that the transmission must hold at rest without help from friction.
  [[nodiscard]] Term static_force(Recorder& recorder) const;
  /// Force that starts the load from rest, in the harder direction.
  [[nodiscard]] Term breakaway(Recorder& recorder) const;
  [[nodiscard]] std::optional<Problem> refuses(double least_acceleration, double greatest_acceleration) const;
};

} // namespace fulmox
