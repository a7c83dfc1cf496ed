#include "core/mechanism/spring_formulas.hpp"

#include "core/quantity/constants.hpp"

#include <array>

namespace fulmox {

namespace {
constexpr double steel_tension = 206e9, steel_shear = 79e9; // Pa, usual handbook values
constexpr double row(double a, double b) { return a * b / (a + b); }
constexpr double root_of(double diameter) { return root_share * diameter; }
} // namespace

double screw_axial(double diameter, double length) {
  const double d = root_of(diameter);
  return steel_tension * constants::pi / 4.0 * d * d / length;
}

double screw_axial_both(double diameter, double length) { return 4.0 * screw_axial(diameter, length); }

double screw_torsion(double diameter, double length) {
  const double d = root_of(diameter);
  return steel_shear * constants::pi / 32.0 * d * d * d * d / length;
}

double axial_at_shaft(double stiffness, double lead) {
  const double per_radian = lead / constants::tau;
  return stiffness * per_radian * per_radian;
}

double belt_spring(double strain_stiffness, double span, double centres, double radius) {
  return strain_stiffness * (1.0 / span + 1.0 / (2.0 * centres - span)) * radius * radius;
}

namespace {
double in_a_row(double a, double b) { return row(a, b); }
const Parameter diameter{"d", "d", Kind::length,
                         "nominal diameter; the root counts as 0.85 of it (from memory)", range::positive};
const Parameter free_length{"L", "L", Kind::length, "from the fixed bearing to the nut", range::positive};
constexpr std::string_view hooke = "Hooke's law; steel E 206 GPa, G 79 GPa";
} // namespace

namespace book {
const Formula screw_axial{"springs.screw_axial",
                          "Screw along its axis, held at one end",
                          "k_s",
                          "206 GPa·π/4·(0.85·{d})²/{L}",
                          Kind::stiffness,
                          {diameter, free_length},
                          hooke,
                          calling<&fulmox::screw_axial>};
const Formula screw_axial_both{
    "springs.screw_axial_both",
    "Screw along its axis, held at both ends",
    "k_s",
    "4·206 GPa·π/4·(0.85·{d})²/{L}",
    Kind::stiffness,
    {diameter, {"L", "L", Kind::length, "from bearing to bearing", range::positive}},
    "Hooke's law; load in the middle, two branches; steel E 206 GPa",
    calling<&fulmox::screw_axial_both>};
const Formula screw_torsion{
    "springs.screw_torsion",   "Screw in torsion",      "k_t", "79 GPa·π/32·(0.85·{d})⁴/{L}",
    Kind::torsional_stiffness, {diameter, free_length}, hooke, calling<&fulmox::screw_torsion>};
const Formula axial_at_shaft{"springs.axial_at_shaft",
                             "Spring along the axis, seen at the screw",
                             "k",
                             "{k}·({p}/2π)²",
                             Kind::torsional_stiffness,
                             {{"k", "k", Kind::stiffness, "along the axis", range::positive},
                              {"p", "p", Kind::lead, "lead", range::positive}},
                             "kinematics",
                             calling<&fulmox::axial_at_shaft>};
const Formula axial_in_a_row{"springs.axial",
                             "Springs along the axis in a row",
                             "k",
                             "{a}·{b}/({a} + {b})",
                             Kind::stiffness,
                             {{"a", "k_s", Kind::stiffness, "screw", range::positive},
                              {"b", "k_n", Kind::stiffness, "nut and bearings", range::positive}},
                             "statics",
                             calling<&fulmox::in_a_row>};
const Formula torsion_in_a_row{"springs.screw",
                               "Springs of the screw in a row",
                               "k",
                               "{a}·{b}/({a} + {b})",
                               Kind::torsional_stiffness,
                               {{"a", "k_a", Kind::torsional_stiffness, "along the axis", range::positive},
                                {"b", "k_t", Kind::torsional_stiffness, "torsion", range::positive}},
                               "statics",
                               calling<&fulmox::in_a_row>};
const Formula belt_spring{
    "springs.belt",
    "Belt at the drive pulley",
    "k",
    "{EA}·(1/{s} + 1/(2·{C} − {s}))·{r}²",
    Kind::torsional_stiffness,
    {{"EA", "EA", Kind::force, "force per strain", range::positive},
     {"s", "s", Kind::length, "span from the drive pulley to the load", range::positive},
     {"C", "C", Kind::length, "centre distance", range::positive},
     {"r", "r", Kind::length, "pitch radius", range::positive}},
    "both spans pretensioned; Hooke's law",
    calling<&fulmox::belt_spring>};
} // namespace book

std::span<const Formula* const> spring_formulas() {
  static const std::array list{&book::screw_axial,    &book::screw_axial_both, &book::screw_torsion,
                               &book::axial_at_shaft, &book::axial_in_a_row,   &book::torsion_in_a_row,
                               &book::belt_spring};
  return list;
}

} // namespace fulmox
