#include "core/load/piece.hpp"
#include "core/quantity/constants.hpp"

#include <array>

namespace fulmox {
namespace {
using constants::pi;
double mass_cylinder(double rho, double d, double l) { return rho * pi / 4.0 * d * d * l; }
double mass_hollow(double rho, double outer, double inner, double l) {
  return rho * pi / 4.0 * (outer * outer - inner * inner) * l;
}
double mass_cuboid(double rho, double a, double b, double c) { return rho * a * b * c; }
double mass_sphere(double rho, double d) { return rho * pi / 6.0 * d * d * d; }
double mass_cone(double rho, double d, double h) { return rho * pi / 12.0 * d * d * h; }
double mass_ring(double n, double m) { return n * m; }
double cylinder(double m, double d) { return m * d * d / 8.0; }
double hollow(double m, double outer, double inner) { return m * (outer * outer + inner * inner) / 8.0; }
double cylinder_across(double m, double d, double l) { return m * (d * d / 16.0 + l * l / 12.0); }
double hollow_across(double m, double outer, double inner, double l) {
  return m * ((outer * outer + inner * inner) / 16.0 + l * l / 12.0);
}
double cuboid(double m, double a, double b) { return m * (a * a + b * b) / 12.0; }
double rod(double m, double l) { return m * l * l / 12.0; }
double sphere(double m, double d) { return m * d * d / 10.0; }
double cone(double m, double d) { return 3.0 / 40.0 * m * d * d; }
double ring(double n, double inertia, double m, double r) { return n * (inertia + m * r * r); }
double parallel_axis(double sign, double inertia, double mass, double distance) {
  return sign * (inertia + mass * distance * distance);
}
double with_sign(double sign, double mass) { return sign * mass; }
} // namespace

namespace book {
namespace {
const Parameter rho{"rho", "ρ", Kind::density, "density", range::positive};
const Parameter m{"m", "m", Kind::mass, "mass", range::positive};
const Parameter d{"D", "D", Kind::length, "diameter", range::positive};
const Parameter inner{"d", "d", Kind::length, "bore", range::not_negative};
const Parameter l{"L", "L", Kind::length, "length", range::positive};
const Parameter n{"n", "n", Kind::number, "number of equal pieces", range::positive};
const Parameter sign{"s", "s", Kind::number, "1 for a body, −1 for a hole", {-1.0, 1.0}};
const Parameter own{"J_c", "J_c", Kind::inertia, "inertia about its own centre", range::not_negative};
constexpr std::string_view volume = "density times volume";
constexpr std::string_view integral = "∫r²dm of the homogeneous body, about its own centre";
} // namespace

const Formula mass_cylinder{"mass.cylinder", "Mass of a cylinder", "m",    "{rho}·π/4·{D}²·{L}",
                            Kind::mass,      {rho, d, l},          volume, calling<&fulmox::mass_cylinder>};
const Formula mass_hollow_cylinder{"mass.hollow_cylinder",
                                   "Mass of a hollow cylinder",
                                   "m",
                                   "{rho}·π/4·({D}² − {d}²)·{L}",
                                   Kind::mass,
                                   {rho, d, inner, l},
                                   volume,
                                   calling<&fulmox::mass_hollow>};
const Formula mass_cuboid{"mass.cuboid",
                          "Mass of a cuboid",
                          "m",
                          "{rho}·{a}·{b}·{c}",
                          Kind::mass,
                          {rho,
                           {"a", "a", Kind::length, "width", range::positive},
                           {"b", "b", Kind::length, "depth", range::positive},
                           {"c", "c", Kind::length, "height", range::positive}},
                          volume,
                          calling<&fulmox::mass_cuboid>};
const Formula mass_sphere{"mass.sphere", "Mass of a sphere", "m",    "{rho}·π/6·{D}³",
                          Kind::mass,    {rho, d},           volume, calling<&fulmox::mass_sphere>};
const Formula mass_cone{"mass.cone", "Mass of a cone",
                        "m",         "{rho}·π/12·{D}²·{h}",
                        Kind::mass,  {rho, d, {"h", "h", Kind::length, "height", range::positive}},
                        volume,      calling<&fulmox::mass_cone>};
const Formula mass_ring{"mass.ring", "Mass of equal pieces",     "m", "{n}·{m}", Kind::mass, {n, m},
                        "additive",  calling<&fulmox::mass_ring>};
const Formula inertia_cylinder{
    "inertia.cylinder", "Solid cylinder about its axis", "J_c", "½·{m}·({D}/2)²", Kind::inertia, {m, d},
    integral,           calling<&fulmox::cylinder>};
const Formula inertia_hollow_cylinder{"inertia.hollow_cylinder",
                                      "Hollow cylinder about its axis",
                                      "J_c",
                                      "½·{m}·(({D}/2)² + ({d}/2)²)",
                                      Kind::inertia,
                                      {m, d, inner},
                                      integral,
                                      calling<&fulmox::hollow>};
const Formula inertia_cylinder_across{"inertia.cylinder_across",
                                      "Solid cylinder across its axis",
                                      "J_c",
                                      "{m}·(({D}/2)²/4 + {L}²/12)",
                                      Kind::inertia,
                                      {m, d, l},
                                      integral,
                                      calling<&fulmox::cylinder_across>};
const Formula inertia_hollow_cylinder_across{"inertia.hollow_cylinder_across",
                                             "Hollow cylinder across its axis",
                                             "J_c",
                                             "{m}·((({D}/2)² + ({d}/2)²)/4 + {L}²/12)",
                                             Kind::inertia,
                                             {m, d, inner, l},
                                             integral,
                                             calling<&fulmox::hollow_across>};
const Formula inertia_cuboid{"inertia.cuboid",
                             "Cuboid",
                             "J_c",
                             "{m}·({a}² + {b}²)/12",
                             Kind::inertia,
                             {m,
                              {"a", "a", Kind::length, "width", range::positive},
                              {"b", "b", Kind::length, "depth", range::positive}},
                             integral,
                             calling<&fulmox::cuboid>};
const Formula inertia_rod{
    "inertia.rod", "Thin rod across its length", "J_c", "{m}·{L}²/12", Kind::inertia, {m, l},
    integral,      calling<&fulmox::rod>};
const Formula inertia_sphere{"inertia.sphere", "Solid sphere", "J_c",    "⅖·{m}·({D}/2)²",
                             Kind::inertia,    {m, d},         integral, calling<&fulmox::sphere>};
const Formula inertia_cone{
    "inertia.cone", "Solid cone about its axis", "J_c", "3/10·{m}·({D}/2)²", Kind::inertia, {m, d},
    integral,       calling<&fulmox::cone>};
const Formula inertia_ring{
    "inertia.ring",
    "Equal pieces on a circle",
    "J_c",
    "{n}·({J_1} + {m}·{R}²)",
    Kind::inertia,
    {n,
     {"J_1", "J_1", Kind::inertia, "inertia of one about its own centre", range::not_negative},
     m,
     {"R", "R", Kind::length, "radius of the circle", range::not_negative}},
    "parallel-axis theorem",
    calling<&fulmox::ring>};
const Formula steiner{
    "inertia.steiner",
    "About the axis of rotation",
    "J",
    "{s}·({J_c} + {m}·{d}²)",
    Kind::inertia,
    {sign, own, m, {"d", "d", Kind::length, "distance between the axes", range::not_negative}},
    "parallel-axis theorem",
    calling<&fulmox::parallel_axis>};
const Formula signed_mass{"mass.signed",
                          "Mass taken away",
                          "m",
                          "{s}·{m}",
                          Kind::mass,
                          {sign, m},
                          "a hole counts negative",
                          calling<&fulmox::with_sign>};
} // namespace book

std::span<const Formula* const> piece_formulas() {
  static const std::array list{&book::mass_cylinder,
                               &book::mass_hollow_cylinder,
                               &book::mass_cuboid,
                               &book::mass_sphere,
                               &book::mass_cone,
                               &book::mass_ring,
                               &book::inertia_cylinder,
                               &book::inertia_hollow_cylinder,
                               &book::inertia_cylinder_across,
                               &book::inertia_hollow_cylinder_across,
                               &book::inertia_cuboid,
                               &book::inertia_rod,
                               &book::inertia_sphere,
                               &book::inertia_cone,
                               &book::inertia_ring,
                               &book::steiner,
                               &book::signed_mass};
  return list;
}

} // namespace fulmox
