#include "core/limits/worst_share.hpp"

#include <cmath>

namespace fulmox {

Moment worst_share(const LimitContext& context, const TorqueCapacity& capacity) {
  constexpr double beyond_any = 1e9;
  const auto share = [](double torque, double most) {
    if (most > torque / beyond_any) return torque / most;
    // of moments at which nothing is left the one that asks for most
    return torque > 0.0 ? beyond_any * (1.0 + torque) : 0.0;
  };
  return greatest_of(context.model, context.course,
                     {[&](const Stretch& s, double torque, double speed) {
                        return share(std::abs(torque), capacity.at(s, speed));
                      },
                      [&](const Stretch& s, double torque, double slowest, double fastest) {
                        return share(torque, capacity.least(s, slowest, fastest));
                      },
                      capacity.corners});
}

} // namespace fulmox
