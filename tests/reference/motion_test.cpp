#include "core/motion/formulas.hpp"
#include "support/axes.hpp"

#include <boost/math/quadrature/gauss_kronrod.hpp>
#include <catch2/catch.hpp>

#include <cmath>

using namespace fulmox;
using namespace fulmox::testing;

// Closed form of the symmetric trapezoid with thirds: a = 4.5·D/t², rms = √13.5·D/t² = 3.6742·D/t²
// (kinematics of constant acceleration, worked by hand).
TEST_CASE("trapezoid in thirds: peak and rms acceleration") {
  const double distance = 0.3;
  const double time = 0.4;
  const double unit = distance / (time * time);
  const double peak = trapezoid_peak_speed(distance, time, 1.0 / 3.0, 1.0 / 3.0);
  CHECK(peak == Approx(1.5 * distance / time).epsilon(1e-12));
  CHECK(ramp_acceleration(peak, 1.0 / 3.0, time) == Approx(4.5 * unit).epsilon(1e-12));
  CHECK(trapezoid_rms_acceleration(distance, time, 1.0 / 3.0, 1.0 / 3.0) ==
        Approx(std::sqrt(13.5) * unit).epsilon(1e-12));
  CHECK(std::sqrt(13.5) == Approx(3.6742).epsilon(1e-5));
}

// The same two numbers through the whole program: a massive, frictionless level axis whose torque is all
// inertia.
TEST_CASE("trapezoid in thirds: peak and rms torque of the whole chain") {
  Axis axis = plain_axis();
  axis["load"].type("friction", "0");
  axis["mechanism"].type("efficiency", "1");
  const Evaluation e = evaluated(axis);
  const double unit = 0.3 / (0.4 * 0.4);
  // T = (m·(p/2π)² + J_screw)·2π/p·a
  const double arm = 0.01 / (2.0 * M_PI);
  const double screw = M_PI / 32.0 * 7850.0 * 0.5 * std::pow(0.016, 4);
  const double per_acceleration = 10.0 * arm + screw / arm;
  CHECK(value(e, "demand.peak_torque") == Approx(4.5 * unit * per_acceleration).epsilon(1e-12));
  CHECK(value(e, "demand.rms_torque") == Approx(std::sqrt(13.5) * unit * per_acceleration).epsilon(1e-12));
}

TEST_CASE("rms torque agrees with Boost's adaptive quadrature on 1,000 random cycles") {
  RandomAxes random(1);
  for (int i = 0; i < 1000; ++i) {
    const Axis axis = random.next();
    const Evaluation e = evaluated(axis);
    Recorder silent(false);
    double squared = 0.0;
    const auto& pieces = e.model->load->cycle.pieces;
    for (std::size_t p = 0; p < pieces.size(); ++p) {
      const auto f = [&](double tau) { return std::pow(e.model->at(p, tau, silent).torque.value, 2); };
      squared +=
          boost::math::quadrature::gauss_kronrod<double, 31>::integrate(f, 0.0, pieces[p].duration, 8, 1e-10);
    }
    INFO("cycle " << i);
    CHECK(value(e, "demand.rms_torque") ==
          Approx(std::sqrt(squared / e.model->load->cycle.duration)).epsilon(1e-6));
  }
}

// Facts of the trade: 2000 mm/min at 20 mm lead is 100 rpm (common practice).
TEST_CASE("2000 mm/min on a 20 mm lead turns the screw at 100 rpm") {
  Axis axis = new_axis("Feed");
  axis["load"].type("moved_mass", "1 kg");
  axis["mechanism"].type("lead", "20 mm");
  // thirds: mean speed is 2/3 of the peak, so 2000 mm/min peak takes 1333.3 mm a minute
  add_move(axis, "2000/1.5 mm", "60 s", "1/3", "1/3");
  CHECK(value(evaluated(axis), "demand.max_speed") == Approx(100.0 * 2.0 * M_PI / 60.0).epsilon(1e-9));
}
