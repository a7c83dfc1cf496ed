#include "core/limits/worst_share.hpp"

#include <cmath>

namespace fulmox {

namespace {
/// Of less than this part of the torque nothing is left.
constexpr double nothing_left = 1e-9;

double share_at_speed(double torque, double most, double /*speed*/) { return share_of(torque, most); }

/// Rises with the share, and is 1 where nothing is left: the share itself grows without end on the way there,
/// which no polynomial follows.
double bounded_share(double torque, double most, double /*speed*/) {
  if (!(torque > 0.0)) return 0.0;
  return most > nothing_left * torque ? torque / (torque + most) : 1.0;
}

/// The speed where torque is asked for and nothing is left.
double speed_without(double torque, double most, double speed) {
  return torque > 0.0 && !(most > nothing_left * torque) ? speed : 0.0;
}

/// Asks something of a measure of torque, capacity and speed; it must not fall as torque or speed rise, or as
/// the capacity falls.
template <class Measure, class Ask>
auto ask_of(const TorqueCapacity& capacity, const Measure& measure, const Ask& ask) {
  return ask({[&](const Stretch& s, double torque, double speed) {
                return measure(std::abs(torque), capacity.at(s, speed), std::abs(speed));
              },
              [&](const Stretch& s, double torque, double slowest, double fastest) {
                return measure(torque, capacity.least(s, slowest, fastest), fastest);
              },
              capacity.corners});
}
} // namespace

double share_of(double torque, double most) {
  if (most > nothing_left * torque) return torque / most;
  return torque > 0.0 ? std::numeric_limits<double>::infinity() : 0.0;
}

Moment worst_share(const LimitContext& context, const TorqueCapacity& capacity) {
  const auto greatest = [&](const MotorQuantity& what) {
    return greatest_of(context.model, context.course, what);
  };
  Moment worst = ask_of(capacity, bounded_share, greatest);
  if (worst.value < 1.0) {
    worst.value /= 1.0 - worst.value;
    return worst;
  }
  if (Moment fastest = ask_of(capacity, speed_without, greatest); fastest.value > 0.0) worst = fastest;
  worst.value = std::numeric_limits<double>::infinity();
  return worst;
}

bool shares_stay_below(const LimitContext& context, const TorqueCapacity& capacity, double share) {
  return ask_of(capacity, share_at_speed,
                [&](const MotorQuantity& shares) { return stays_below(context.course, shares, share); });
}

} // namespace fulmox
