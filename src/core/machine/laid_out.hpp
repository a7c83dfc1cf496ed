#pragma once
#include "core/motion/cycle.hpp"
#include "core/power/power_curve.hpp"
#include "core/schedule/schedule.hpp"

namespace fulmox {

/// A brake coil's power over the axis's own cycle, W: it takes power while the brake is open.
PowerCurve coil_power(const Cycle& cycle, double watts);

/// An axis's power over the machine's cycle of `period` s: its own cycles one after the other in each of its
/// blocks (`mine`), `waiting` W between them; a block that passes the end comes back at the start.
PowerCurve laid_out(const PowerCurve& own, double waiting, double period, const std::vector<Block>& blocks,
                    const Schedule& schedule, const std::vector<std::size_t>& mine);

} // namespace fulmox
