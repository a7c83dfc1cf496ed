// Conservation of energy over closed cycles, worked out apart from the program's own bookkeeping.

#include "support/axes.hpp"

#include <boost/math/quadrature/gauss_kronrod.hpp>
#include <catch2/catch.hpp>

#include <cmath>

using namespace fulmox;
using namespace fulmox::testing;

namespace {

using Quadrature = boost::math::quadrature::gauss_kronrod<double, 31>;

/// What friction and stages turn to heat over the cycle, from forces, speeds and the powers on both sides of
/// a stage.
double dissipated(const Evaluation& e, const Axis& axis) {
  Recorder silent(false);
  const double m = axis["load"].term("moved_mass");
  const double theta = axis["load"].term("angle");
  const double mu = axis["load"].term("friction");
  const double seal = axis["load"].term("seal_drag");
  const double viscous = axis["load"].term("viscous");
  const double lead = axis["mechanism"].term("lead");
  const double drag = axis["mechanism"].term("drag");
  const double no_load = axis["gearhead"].term("no_load");
  const double rising = axis["gearhead"].term("no_load_rise");
  const double eta = axis["mechanism"].term("efficiency");
  const double eta_b = 2.0 - 1.0 / eta;
  const double gear_eta = axis["gearhead"].term("efficiency");
  double total = 0.0;
  for (const Stretch& span : e.course.stretches) {
    const auto heat = [&](double tau) {
      const Instant now = e.model->at(span.piece, tau, silent);
      const double v = std::abs(now.load.speed);
      const double screw_speed = v / lead * 2.0 * M_PI;
      double power = (mu * m * 9.80665 * std::abs(std::cos(theta)) + seal) * v + viscous * v * v;
      power += drag * screw_speed + no_load * std::abs(now.speed) + rising * now.speed * now.speed;
      const double uphill = std::sin(theta) > 1e-9 ? 1.0 : std::sin(theta) < -1e-9 ? -1.0 : 0.0;
      const double friction = (mu * m * 9.80665 * std::abs(std::cos(theta)) + seal) * now.load.direction +
                              viscous * now.load.speed;
      const double force = m * now.load.acceleration + m * 9.80665 * std::sin(theta) + friction -
                           uphill * axis["load"].term("spring");
      const double force_power = force * now.load.speed;
      // a stage turns to heat the difference of the powers on its two sides
      power += force_power > 0.0 ? force_power * (1.0 / eta - 1.0) : -force_power * (1.0 - eta_b);
      const double gear_power = now.output.torque * now.output.speed;
      power += gear_power > 0.0 ? gear_power * (1.0 / gear_eta - 1.0) : -gear_power * (1.0 - gear_eta);
      return power;
    };
    total += Quadrature::integrate(heat, span.from, span.to, 6, 1e-12);
  }
  return total;
}

} // namespace

TEST_CASE("driven energy is returned energy plus friction plus losses, to 1e-9") {
  RandomAxes random(7);
  for (int i = 0; i < 200; ++i) {
    const Axis axis = random.next();
    const Evaluation e = evaluated(axis);
    const double driven = value(e, "energy.driven");
    const double returned = value(e, "energy.returned");
    INFO("axis " << i << ": driven " << driven << ", returned " << returned);
    CHECK(std::abs(driven - returned - dissipated(e, axis)) <= 1e-9 * std::max(driven, returned));
  }
}

TEST_CASE("over a closed cycle inertia and gravity take nothing") {
  RandomAxes random(8);
  for (int i = 0; i < 100; ++i) {
    const Evaluation e = evaluated(random.next());
    const double driven = value(e, "energy.driven");
    const TorqueParts& energy = e.demand.integrals.energy;
    for (const TorquePart part : {TorquePart::rotor, TorquePart::gearhead, TorquePart::transmission,
                                  TorquePart::moved_mass, TorquePart::gravity})
      CHECK(std::abs(energy[part]) <= 1e-9 * driven);
    CHECK(energy[TorquePart::friction] >= 0.0);
    CHECK(energy[TorquePart::losses] >= -1e-12 * driven);
  }
}

TEST_CASE("the parts of the torque always add up to the torque") {
  RandomAxes random(9);
  for (int i = 0; i < 100; ++i)
    for (const Instant& now : samples_of(evaluated(random.next())))
      CHECK(now.parts.sum() == Approx(now.torque.value).epsilon(1e-9).margin(1e-12));
}

TEST_CASE("the energy each cause takes adds up piece by piece, also where it comes back later") {
  for (const Axis& axis : demo().axes) {
    const Evaluation e = evaluated(axis);
    const Cycle& cycle = e.model->load->cycle;
    for (const MotionPiece& piece : cycle.pieces) {
      TorqueParts told, counted;
      for (const Stretch& stretch : e.course.stretches)
        if (stretch.piece == piece.index)
          for (std::size_t i = 0; i < torque_part_count; ++i) told.values[i] += stretch.sums.energy.values[i];
      // the middle of many short steps; losses jump where power turns, so they are many
      constexpr int steps = 4000;
      Recorder silent(false);
      double size = 0.0;
      for (int k = 0; k < steps; ++k) {
        const Instant now = e.model->at(piece.index, piece.duration * (k + 0.5) / steps, silent);
        for (std::size_t i = 0; i < torque_part_count; ++i) {
          const double power = now.parts.values[i] * now.speed;
          counted.values[i] += power * piece.duration / steps;
          size += std::abs(power) * piece.duration / steps;
        }
      }
      INFO(axis.name << ", piece " << piece.index);
      for (std::size_t i = 0; i < torque_part_count; ++i)
        CHECK(told.values[i] == Approx(counted.values[i]).epsilon(1e-6).margin(1e-5 * size));
    }
  }
}
