#pragma once
#include "core/motion/law.hpp"

namespace fulmox {

// One function per file of this folder; law.cpp lists them.
const LawSpec& trapezoid_law();
const LawSpec& triangle_law();
const LawSpec& s_curve_law();
const LawSpec& parabolic_law();
const LawSpec& polynomial_345_law();
const LawSpec& polynomial_4567_law();
const LawSpec& cycloidal_law();
const LawSpec& modified_sine_law();
const LawSpec& modified_trapezoid_law();

} // namespace fulmox
