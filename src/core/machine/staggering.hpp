#pragma once
#include "core/machine/machine_power.hpp"
#include "core/power/alignment.hpp"

namespace fulmox {

/// The question for starts with the least peak of one bus; blocks of other axes stay where they are.
StaggerAsked stagger_question(const MachinePower& machine, std::size_t bus, const Document& document);

/// Peak against cycle time: the least peak when the cycle may grow by 0, 2, 5, 10 and 20 %.
struct StaggerPoint {
  double longer = 0.0; ///< s
  Staggered found;
};
std::vector<StaggerPoint> stagger_front(StaggerAsked asked);

/// The document with these starts: a block that stood for an axis without one becomes a real one.
void take_starts(Document& document, const MachinePower& machine, const StaggerAsked& asked,
                 const Staggered& found);

} // namespace fulmox
