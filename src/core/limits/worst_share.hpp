#pragma once
#include "core/limits/limit.hpp"

namespace fulmox {

/// What a motor can give at a speed, and not more than that anywhere between two; what they call must live as
/// long as it is asked.
struct TorqueCapacity {
  FunctionRef<double(const Stretch& stretch, double speed)> at;
  FunctionRef<double(const Stretch& stretch, double slowest, double fastest)> least;
  FunctionRef<std::vector<double>()> corners = no_corners; ///< as MotorQuantity
};

/// What a torque takes of a capacity; infinite where nothing is left.
double share_of(double torque, double most);

/// The moment whose torque takes the greatest share of a capacity, an infinite one where nothing is left: of
/// several such moments the fastest.
Moment worst_share(const LimitContext& context, const TorqueCapacity& capacity);
/// Whether no moment takes so great a share, as far as that is told at little cost.
bool shares_stay_below(const LimitContext& context, const TorqueCapacity& capacity, double share);

} // namespace fulmox
