#pragma once
#include "core/working/formula.hpp"

#include <span>

namespace fulmox {

// Slider-crank, angle φ in rad from the outer dead centre; crank radius r, rod l > r in m.

/// x = r·cosφ + √(l² − r²·sin²φ), from the crank's axis to the slider's pin.
double crank_position(double radius, double rod, double angle);
/// dx/dφ in m per rad.
double crank_slope(double radius, double rod, double angle);
/// d²x/dφ² in m per rad².
double crank_curvature(double radius, double rod, double angle);
/// Angle between 0 and π at which |dx/dφ| is greatest; l > r.
double steepest_angle(double radius, double rod);

namespace book {
extern const Formula crank_position, crank_slope, crank_curvature, slider_speed, slider_acceleration,
    crank_driving, crank_backdriven, crank_rest, crank_load_inertia, crank_breakaway;
}
std::span<const Formula* const> crank_formulas();

} // namespace fulmox
