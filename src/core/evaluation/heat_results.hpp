#pragma once
#include "core/evaluation/evaluation.hpp"

namespace fulmox {

/// How hot winding and case get, when the winding meets its limit from cold, how long it stands a stall.
void add_heat_results(const AxisModel& model, const Demand& demand, Recorder& recorder,
                      std::vector<ResultValue>& results);

} // namespace fulmox
