#pragma once
#include "core/demand/demand.hpp"

#include <optional>
#include <span>

namespace fulmox {

/// T_rms' = √(T_rms² + ΔQ/t): what more (or, below 0, less) squared torque at rest makes of an rms torque.
/// ΔQ in N²·m²·s, t > 0 the cycle.
double other_rms(double rms, double resting, double cycle_time);

namespace book {
extern const Formula other_rms;
}
std::span<const Formula* const> resting_formulas();

/// The rms torque if the load were held the other way while the axis stands still.
struct OtherHold {
  bool by_brake = false; ///< the brake closed in every dwell; else open in every dwell
  Term rms;              ///< N·m at the motor shaft, over the whole cycle
};

/// With a brake fitted: the brake closed in every dwell when the motor holds in one of them, else open in
/// every dwell. Nothing without a brake, or when nothing needs to be held.
std::optional<OtherHold> other_hold(const AxisModel& model, const Demand& demand, Recorder& recorder);

} // namespace fulmox
