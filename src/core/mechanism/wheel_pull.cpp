#include "core/mechanism/wheel_pull.hpp"

#include "core/quantity/constants.hpp"

#include <array>
#include <cmath>

namespace fulmox {

double belt_pull(double tension) { return 2.0 * tension; }

double pinion_pull(double torque, double radius, double helix) {
  constexpr double pressure_angle = 20.0 * constants::degree; // normal to the teeth
  return std::abs(torque) / radius * std::hypot(1.0, std::tan(pressure_angle) / std::cos(helix));
}

double pinion_thrust(double torque, double radius, double helix) {
  return std::abs(torque) / radius * std::tan(std::abs(helix));
}

double slackening(double torque, double radius) { return 0.5 * std::abs(torque) / radius; }
double rope_loss(double greatest, double least) { return greatest - least; }

namespace book {
namespace {
const Parameter torque{"T", "T", Kind::torque, "greatest into the mechanism's shaft"};
const Parameter radius{"r", "r", Kind::length, "pitch radius", range::positive};
const Parameter helix{
    "beta", "β", Kind::angle, "helix of the teeth", {-constants::pi / 2.0, constants::pi / 2.0, true}};
} // namespace
const Formula belt_pull{"shaft.belt_pull",
                        "Belt across the shaft",
                        "F_r",
                        "2·{F_0}",
                        Kind::force,
                        {{"F_0", "F_0", Kind::force, "in each span at rest", range::positive}},
                        "fixed centres: what one span gains the other loses",
                        calling<&fulmox::belt_pull>};
const Formula pinion_pull{"shaft.pinion_pull",
                          "Pinion across the shaft",
                          "F_r",
                          "|{T}|/{r}·√(1 + (tan 20°/cos {beta})²)",
                          Kind::force,
                          {torque, radius, helix},
                          "ISO 53 basic rack",
                          calling<&fulmox::pinion_pull>};
const Formula pinion_thrust{"shaft.pinion_thrust",
                            "Pinion along the shaft",
                            "F_a",
                            "|{T}|/{r}·tan|{beta}|",
                            Kind::force,
                            {torque, radius, helix},
                            "leaning teeth push sideways",
                            calling<&fulmox::pinion_thrust>};
const Formula slackening{"belt.slackening",
                         "What the slack span loses",
                         "ΔF",
                         "|{T}|/(2·{r})",
                         Kind::force,
                         {torque, radius},
                         "fixed centres, both spans alike",
                         calling<&fulmox::slackening>};
const Formula rope_loss{"rope.loss",
                        "What the pull of the rope loses",
                        "ΔF",
                        "{greatest} − {least}",
                        Kind::force,
                        {{"greatest", "F_max", Kind::force, "pull of the rope where it is greatest"},
                         {"least", "F_min", Kind::force, "where it is least; below 0 it would have to push"}},
                        "a rope only pulls",
                        calling<&fulmox::rope_loss>};
} // namespace book

std::span<const Formula* const> pull_formulas() {
  static const std::array list{&book::belt_pull, &book::pinion_pull, &book::pinion_thrust, &book::slackening,
                               &book::rope_loss};
  return list;
}

} // namespace fulmox
