#pragma once
#include <span>

namespace fulmox {

/// The steady state of W′ = rate, W >= 0, over a cycle that repeats: its greatest value and where it has it.
/// `gains` are the integrals of the rate over intervals in each of which it keeps its sign, `ends` the time
/// at the end of each. Without bound where the rate is positive on the whole.
struct Reflected {
  double greatest = 0.0; ///< ∞ where it grows from cycle to cycle
  double time = 0.0;     ///< s from the start of the cycle
};
Reflected reflected(std::span<const double> gains, std::span<const double> ends);

} // namespace fulmox
