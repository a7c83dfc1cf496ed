#pragma once
#include "core/evaluation/evaluation.hpp"

namespace fulmox {

/// What springs leave of the bandwidth, how fine the feedback is at the load, how far the load may lie off.
void add_accuracy_results(const Axis& axis, const AxisModel& model, const Demand& demand, Recorder& recorder,
                          std::vector<ResultValue>& results);

} // namespace fulmox
