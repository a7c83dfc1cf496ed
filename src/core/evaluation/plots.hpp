#pragma once
#include "core/demand/trace.hpp"
#include "core/evaluation/evaluation.hpp"

namespace fulmox {

/// One speed of the speed–torque plane.
struct EnvelopePoint {
  double speed = 0.0;      ///< rad/s
  double continuous = 0.0; ///< N·m, derated, no more than the peak; of steppers the pull-out with its factor
  double peak = 0.0;       ///< N·m at the nominal bus
  double peak_low = 0.0;   ///< N·m at the lowest bus
};

/// What plots draw of an axis that was worked out. Nothing is judged by it, so what shows no plot need not
/// ask for it.
struct Plots {
  Trace trace;
  std::vector<EnvelopePoint> envelope;
};

/// `axis` is the one the evaluation belongs to.
Plots plots_of(const Evaluation& evaluation);

} // namespace fulmox
