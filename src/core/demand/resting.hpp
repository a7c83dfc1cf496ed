#pragma once
#include "core/demand/demand.hpp"

#include <optional>

namespace fulmox {

/// The rms torque if the load were held the other way while the axis stands still.
struct OtherHold {
  bool by_brake = false; ///< the brake closed in every dwell; else open in every dwell
  Term rms;              ///< N·m at the motor shaft, over the whole cycle
};

/// With a brake fitted: the brake closed in every dwell when the motor holds in one of them, else open in
/// every dwell. Nothing without a brake, or when nothing needs to be held.
std::optional<OtherHold> other_hold(const AxisModel& model, const Demand& demand, Recorder& recorder);

} // namespace fulmox
