#pragma once
#include "core/mechanism/mechanism.hpp"

#include <span>

namespace fulmox {

// Forces on a load that moves along a line, in N; forward is positive, see the sign rules in docs/manual.md.

/// F = (m + m_cw)·a. m, m_cw >= 0 in kg, a in m/s².
double inertia_force(double mass, double counterweight, double acceleration);
/// F = m·g·sinθ. θ in rad from level, positive uphill.
double gravity_force(double mass, double gravity, double angle);
/// F = −s·(m_cw·g + F_s − s·c·x), s = sgn(sinθ): the balance pulls uphill and loses c per metre uphill of
/// where the cycle starts. 0 on a level axis.
double balance_force(double counterweight, double gravity, double spring, double rate, double position,
                     double angle);
/// F = s·(μ·|m·g·cosθ + F_n| + F_seal). s = −1, 0, 1; μ >= 0; F_n presses the load onto its guides.
double sliding_friction(double direction, double coefficient, double mass, double gravity, double angle,
                        double pressing, double seal);
/// F = b·v. b >= 0 in N·s/m.
double viscous_friction(double coefficient, double speed);

namespace book {
extern const Formula inertia_force, gravity_force, balance_force, sliding_friction, viscous_friction,
    force_sum, breakaway_force;
}
std::span<const Formula* const> linear_load_formulas();

/// The form for what is moved.
const SectionSpec& linear_load_section();
/// The same for what hangs on a rope: straight up unless an angle is typed.
const SectionSpec& hanging_load_section();

/// Forces at one instant, by cause.
struct LoadForces {
  Term inertia, gravity, balance, sliding, viscous, process;
  Term total;
};

/// Which mass counts for what: belts are accelerated but not lifted, and press only where they are carried.
struct LoadMasses {
  Term accelerated, lifted, pressing;
};

/// A filled-in load form as numbers that remember their origin.
struct LinearLoad {
  Term mass, angle, friction, static_friction, seal, viscous, counterweight, spring, spring_rate, process,
      normal;

  /// Mass typed plus that of the pieces; refuses when there is neither.
  static Expected<LinearLoad> from(const MechanismInput& input, Recorder& recorder);
  /// The load's mass for everything, a payload included.
  [[nodiscard]] LoadMasses masses(const Term& payload, Recorder& recorder) const;
  [[nodiscard]] LoadForces forces(const LoadState& state, const LoadMasses& masses, Recorder& recorder) const;
  /// Force that the transmission must hold at rest without help from friction.
  [[nodiscard]] Term static_force(const LoadMasses& masses, const Rest& rest, Recorder& recorder) const;
  /// Force that starts the load from rest, in the harder direction.
  [[nodiscard]] Term breakaway(const LoadMasses& masses, const Rest& rest, Recorder& recorder) const;
  [[nodiscard]] std::optional<Problem> refuses(const TravelExtremes& reach) const;

private:
  [[nodiscard]] std::optional<Problem> spent_spring(const TravelExtremes& reach) const;
};

/// a + b as a step of its own, or the one that is not zero.
Term with_added(const Term& mass, const Term& more, std::string_view id, Recorder& recorder);

} // namespace fulmox
