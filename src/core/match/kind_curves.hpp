#pragma once
#include "core/match/kinds.hpp"

#include <array>
#include <vector>

namespace fulmox {

/// Points of speed in rad/s and torque in N·m at the gearhead's output, for a picture; nothing is judged by
/// them.
using OutputPoints = std::vector<std::array<double, 2>>;

/// What a candidate can put on the gearhead's output over its speed, lowest bus and the house rules' share of
/// a stepper's pull-out counted: the one scale on which motors with different gearheads compare.
OutputPoints capability_at_output(const KindCandidate& candidate);

/// What the load asks there over the cycle, without signs; the rotor's own share comes on top of it.
OutputPoints demand_at_output(const AxisModel& model);

} // namespace fulmox
