#pragma once
#include "core/demand/load_side.hpp"

namespace fulmox {

/// The exponent of gear life that house rules take where nothing else is said: a load's side keeps what
/// follows from it, others are worked out when asked for.
inline constexpr double usual_gear_exponent = 3.0;

/// ∫|T_2|^k·|n_2|dt over the cycle at the gearhead's output, in N·m and rad/s, 1 <= k <= 20.
double gear_weighted(const LoadSide& load, double exponent);
/// The same worked out anew.
double weigh_gear(const LoadSide& load, double exponent);

} // namespace fulmox
