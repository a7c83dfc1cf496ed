#pragma once
#include "core/working/formula.hpp"

#include <span>

namespace fulmox {

/// A thread's root over its nominal diameter, ball screws; from memory. The softer side.
inline constexpr double root_share = 0.85;

/// k = E·A/L, N/m, of a steel screw (E 206 GPa) held at one end: root diameter 0.85·d, free length L.
double screw_axial(double diameter, double length);
/// k = 4·E·A/L in the middle of a screw held at both ends. N/m.
double screw_axial_both(double diameter, double length);
/// k = G·I_p/L, N·m/rad, of a steel screw (G 79 GPa).
double screw_torsion(double diameter, double length);
/// k·(p/2π)²: a spring along the axis, seen at the screw. N·m/rad.
double axial_at_shaft(double stiffness, double lead);
/// E·A·(1/s + 1/(2C − s))·r²: both spans of a pretensioned belt, load at s from the drive pulley. N·m/rad.
double belt_spring(double strain_stiffness, double span, double centres, double radius);

namespace book {
extern const Formula screw_axial, screw_axial_both, screw_torsion, axial_at_shaft, axial_in_a_row,
    torsion_in_a_row, belt_spring;
}
std::span<const Formula* const> spring_formulas();

} // namespace fulmox
