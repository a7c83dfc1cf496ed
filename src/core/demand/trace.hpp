#pragma once
#include "core/demand/axis_model.hpp"

#include <functional>
#include <vector>

namespace fulmox {

/// The cycle looked at closely enough for plots, searches and the cutting of integrals; every piece with both
/// ends, so jumps stay sharp. Curved pieces get more samples than straight ones, pieces at rest two.
struct Trace {
  std::vector<Instant> samples; ///< in the order of time, piece by piece
};

Trace sample(const AxisModel& model);

/// A moment of the cycle and what a function was worth there.
struct Moment {
  std::size_t index = 0; ///< in the trace
  std::size_t piece = 0;
  double tau = 0.0;
  double time = 0.0;
  double value = 0.0;
};

/// Where f is greatest over the cycle; refined between samples.
Moment worst(const AxisModel& model, const Trace& trace, const std::function<double(const Instant&)>& f);

} // namespace fulmox
