#pragma once
#include "core/working/formula.hpp"

#include <span>

namespace fulmox {

/// Across the shaft of a pulley whose two spans keep their sum: 2·F_0, at rest and under load. N.
double belt_pull(double tension);
/// Across the shaft of a pinion on a rack of 20° (ISO 53) whose teeth lean by β:
/// |T|/r·√(1 + (tan 20°/cos β)²). N; β in rad, |β| < π/2.
double pinion_pull(double torque, double radius, double helix);
/// Along that shaft: |T|/r·tan β. N.
double pinion_thrust(double torque, double radius, double helix);
/// Half of what a belt pulls, |T|/(2·r): so much its slack span loses. N.
double slackening(double torque, double radius);
/// What the pull of a rope loses on its way from the greatest to the least, N; the least is below 0 where the
/// rope would have to push.
double rope_loss(double greatest, double least);

namespace book {
extern const Formula belt_pull, pinion_pull, pinion_thrust, slackening, rope_loss;
}
std::span<const Formula* const> pull_formulas();

} // namespace fulmox
