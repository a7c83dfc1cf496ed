#pragma once
#include "core/demand/course.hpp"

#include <vector>

namespace fulmox {

/// The cycle looked at closely enough for plots, never judged; both ends of every piece, so jumps stay sharp,
/// and of every stretch, so corners do. Curved pieces get more samples than straight ones, pieces at rest
/// two.
struct Trace {
  std::vector<Instant> samples; ///< in the order of time, piece by piece
};

Trace sample(const AxisModel& model, const Course& course);

} // namespace fulmox
