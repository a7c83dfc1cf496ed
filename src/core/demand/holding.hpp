#pragma once
#include "core/demand/axis_model.hpp"

#include <vector>

namespace fulmox {

/// What the brake must hold while it is closed in one dwell of the cycle.
struct BrakedDwell {
  std::size_t segment = 0;
  Term torque; ///< N·m at the motor shaft
};

/// What it takes at rest, at the motor shaft in N·m, signed. No friction helps to hold, and no process force
/// is trusted to: each is worked out with and without it.
struct Holding {
  Term torque; ///< worst of every place reached, empty or with the greatest payload, every process force met
  Term free;   ///< the same without any process force: what pulls when power goes
  Term breakaway; ///< starts the load in the harder direction, worst of the same
  std::vector<BrakedDwell> dwells;
};

Holding work_out_holding(const AxisModel& model, Recorder& recorder);
/// What limits need of it: hold and breakaway alone.
Holding holding_numbers(const AxisModel& model);

} // namespace fulmox
