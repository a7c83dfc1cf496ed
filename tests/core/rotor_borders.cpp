#include "core/borders.hpp"

#include "core/motor/servo.hpp"
#include "support/axes.hpp"

#include <cmath>
#include <string>

namespace fulmox::testing {
namespace {

using Change = std::function<void(Axis&)>;

/// Inductance across the magnets as a multiple of the one along them.
Change across(double times) {
  return [=](Axis& axis) {
    const double along = axis["motor"].term("inductance");
    axis["motor"].type("inductance_q", std::to_string(1e3 * times * along) + " mH");
  };
}

/// An inductance across the magnets, and neither Ke nor a rated current where it cannot be told.
Change quoted(bool told) {
  return [=](Axis& axis) {
    across(1.6)(axis);
    axis["motor"].type("ke", "");
    axis["motor"].type("kt_per", "rms");
    if (!told) axis["motor"].type("rated_current", "");
  };
}

/// Magnets that stand so many times the swing of i_d after a sudden short at top speed, by currents stepped
/// in time: L·i_d' = −R·i_d + ω_e·L·i_q, L·i_q' = −R·i_q − ω_e·L·i_d − K·ω.
Change standing(double times) {
  return [=](Axis& axis) {
    axis["drive"].type("weakening", "yes");
    const Evaluation e = evaluated(axis);
    const auto& motor = dynamic_cast<const ServoMotor&>(*e.model->motor);
    const double r = 0.5 * motor.resistance, l = 0.5 * motor.inductance,
                 w = motor.pole_pairs * e.demand.max_speed;
    constexpr double steps = 200000.0;
    const double dt = 20.0 / w / steps;
    double d = 0.0, q = 0.0, most = 0.0;
    for (double k = 0.0; k < steps; ++k) {
      const double d_slope = w * q - r / l * d, q_slope = -w * d - (r * q + motor.k * e.demand.max_speed) / l;
      const double dm = d + 0.5 * dt * d_slope, qm = q + 0.5 * dt * q_slope;
      d += dt * (w * qm - r / l * dm);
      q += dt * (-w * dm - (r * qm + motor.k * e.demand.max_speed) / l);
      most = std::max(most, -d);
    }
    axis["motor"].type("demag_current", std::to_string(times * most) + " A");
  };
}

} // namespace

std::vector<Border> rotor_borders() {
  return {{"saliency_turned", across(0.99), across(1.01)},
          {"reluctance_untold", quoted(false), quoted(true)},
          {"demagnetising_short", standing(0.995), standing(1.005)}};
}

} // namespace fulmox::testing
