#pragma once
#include "core/demand/train.hpp"
#include "core/springs/chain.hpp"

namespace fulmox {

/// The springs between rotor and load with the inertias between them, seen at the mechanism's shaft. A place
/// without a figure counts as rigid: what lies on both sides of it goes together. Nodes without inertia of
/// their own join the next.
SpringChain spring_chain(const AxisModel& model, const Axis& axis);

/// What the springs leave; NaN where no figure is known.
struct Compliance {
  Term antiresonance, resonance; ///< Hz, the lowest
};
Compliance work_out_compliance(const AxisModel& model, const Axis& axis, Recorder& recorder);

namespace book {
extern const Formula antiresonance, resonance, bandwidth_left;
}
std::span<const Formula* const> compliance_formulas();

} // namespace fulmox
