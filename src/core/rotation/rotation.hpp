#pragma once
#include "core/working/formula.hpp"

#include <span>

namespace fulmox {

/// T = J·α in N·m; J >= 0 in kg·m², α in rad/s².
double inertia_torque(double inertia, double acceleration);
/// T = s·T_d: a constant drag that opposes rotation; s = −1, 0, 1.
double opposing_torque(double direction, double drag);
/// T_in = T_out/(i·η): the stage drives its output. i > 0, 0 < η <= 1.
double stage_driving(double torque, double ratio, double efficiency);
/// T_in = T_out·η_b/i: the output drives the stage.
double stage_backdriven(double torque, double ratio, double back_efficiency);
/// T_in = T_out/i at rest, friction not counted as help.
double stage_rest(double torque, double ratio);
/// T_0 + b·ω: a drag that grows with speed, towards which it turns.
double rising_drag(double drag, double rise, double speed);
/// ω_in = i·ω_out, and likewise for accelerations.
double stage_speed(double speed, double ratio);
/// J_in = J_out/i², no efficiency.
double reflected_inertia(double inertia, double ratio);

namespace book {
extern const Formula inertia_torque, opposing_torque, rising_drag, stage_driving, stage_backdriven,
    stage_rest, stage_speed, stage_acceleration, output_speed, reflected_inertia, ratio_product, torque_sum,
    inertia_sum, mass_sum;
}
std::span<const Formula* const> rotation_formulas();

} // namespace fulmox
