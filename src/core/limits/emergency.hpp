#pragma once
#include "core/demand/demand.hpp"

namespace fulmox {

/// The most that an emergency stop from top speed may return to the bus, J: see stop_return(). NaN for a
/// motor that is not known; ∞ where its torque does not stop what pulls.
Term returned_by_stop(const AxisModel& model, const Demand& demand, Recorder& recorder);

} // namespace fulmox
