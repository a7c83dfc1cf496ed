#pragma once
#include "core/evaluation/evaluation.hpp"

namespace fulmox {

/// How far the load goes when power is lost, what the brake takes, and how a shorted motor brakes.
void add_stop_results(const AxisModel& model, const Demand& demand, Recorder& recorder,
                      std::vector<ResultValue>& results);

} // namespace fulmox
