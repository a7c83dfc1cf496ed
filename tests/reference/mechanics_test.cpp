#include "core/gearhead/gearhead.hpp"
#include "core/mechanism/linear_load.hpp"
#include "core/mechanism/screw_formulas.hpp"
#include "core/rotation/rotation.hpp"
#include "support/axes.hpp"

#include <catch2/catch.hpp>

#include <cmath>

using namespace fulmox;
using namespace fulmox::testing;

// Steel shafting tables of engineering handbooks list mass per length and GD²; the rule behind them is
// J = m·d²/8 with m = ρ·(π/4)·d²·L. A 20 mm steel bar weighs 2.466 kg per metre (EN 10060, hot rolled round
// bars: 2.47 kg/m), so a metre of it has J = 2.466·0.02²/8 = 1.233e-4 kg·m².
TEST_CASE("screw inertia against the table weight of a 20 mm steel round bar") {
  const double table_mass = 2.47; // kg/m, EN 10060 for d = 20 mm, from memory
  CHECK(screw_inertia(7850.0, 1.0, 0.020) == Approx(table_mass * 0.02 * 0.02 / 8.0).epsilon(2e-3));
}

TEST_CASE("screw inertia against numerical integration of r² dm") {
  const double density = 7850.0, length = 0.42, diameter = 0.016;
  double sum = 0.0;
  constexpr int rings = 20000;
  for (int i = 0; i < rings; ++i) {
    const double r = (i + 0.5) * diameter / 2.0 / rings;
    sum += density * length * 2.0 * M_PI * r * r * r * (diameter / 2.0 / rings);
  }
  CHECK(screw_inertia(density, length, diameter) == Approx(sum).epsilon(1e-7));
}

// Weight and friction on an incline: any mechanics textbook, F = m·g·(sinθ ± μ·cosθ).
TEST_CASE("force on an incline of 30 degrees") {
  const double theta = M_PI / 6.0;
  const double g = 9.80665;
  CHECK(gravity_force(20.0, g, theta) == Approx(20.0 * g * 0.5).epsilon(1e-12));
  CHECK(sliding_friction(1.0, 0.1, 20.0, g, theta, 0.0, 0.0) ==
        Approx(0.1 * 20.0 * g * std::sqrt(3.0) / 2.0).epsilon(1e-12));
  CHECK(sliding_friction(-1.0, 0.1, 20.0, g, theta, 0.0, 3.0) ==
        Approx(-(0.1 * 20.0 * g * std::sqrt(3.0) / 2.0 + 3.0)).epsilon(1e-12));
  CHECK(balance_force(8.0, g, 12.0, 0.0, 0.0, theta) == Approx(-(8.0 * g + 12.0)).epsilon(1e-12));
  CHECK(balance_force(8.0, g, 12.0, 0.0, 0.0, -theta) == Approx(8.0 * g + 12.0).epsilon(1e-12));
  CHECK(balance_force(8.0, g, 12.0, 50.0, 0.1, 0.0) == 0.0);
  CHECK(balance_force(8.0, g, 12.0, 50.0, 0.1, theta) == Approx(-(8.0 * g + 7.0)).epsilon(1e-12));
  CHECK(balance_force(8.0, g, 12.0, 50.0, -0.1, -theta) == Approx(8.0 * g + 7.0).epsilon(1e-12));
}

// Power balance of a lowering load: the motor takes back less than gravity gives, by the back-driving
// efficiency.
TEST_CASE("lowering: efficiency acts with the direction of power") {
  Axis axis = new_axis("Lowering");
  axis["load"].type("moved_mass", "20 kg");
  axis["load"].type("angle", "90 deg");
  axis["load"].type("friction", "0");
  axis["mechanism"].type("efficiency", "0.8");
  axis["gearhead"].type("ratio", "2");
  axis["gearhead"].type("efficiency", "0.9");
  // so slow that only weight counts
  add_move(axis, "-100 mm", "100 s", "0.1", "0.1");
  add_move(axis, "100 mm", "100 s", "0.1", "0.1");
  const Evaluation e = evaluated(axis);
  const double ideal = 20.0 * 9.80665 * 0.01 / (2.0 * M_PI) / 2.0;
  const double down = e.at(50.0).torque;
  const double up = e.at(150.0).torque;
  CHECK(up == Approx(ideal / (0.8 * 0.9)).epsilon(1e-9));
  CHECK(down == Approx(ideal * (2.0 - 1.0 / 0.8) * 0.9).epsilon(1e-9));
  CHECK(down < ideal);
  CHECK(value(e, "hold.torque") == Approx(ideal).epsilon(1e-12));
}

// A screw below 50 % does not let its load drive it: η_b = 2 − 1/η < 0, the motor must drive the load down.
TEST_CASE("self-locking screw: lowering takes torque downwards, not clamped to zero") {
  Axis axis = new_axis("Self-locking");
  axis["load"].type("moved_mass", "20 kg");
  axis["load"].type("angle", "90 deg");
  axis["load"].type("friction", "0");
  axis["mechanism"].type("efficiency", "0.4");
  add_move(axis, "-100 mm", "100 s", "0.1", "0.1");
  add_move(axis, "100 mm", "100 s", "0.1", "0.1");
  const Evaluation e = evaluated(axis);
  CHECK(e.at(50.0).torque == Approx(-0.5 * 20.0 * 9.80665 * 0.01 / (2.0 * M_PI)).epsilon(1e-9));
  CHECK(e.model->load->mechanism->self_locking());
  CHECK_FALSE(warns(e, "vertical_without_brake"));
}

// Common practice: half the lead, or a reduction of 2, quarters what the moved mass reflects.
TEST_CASE("half the lead or a 2:1 reduction quarters the reflected mass") {
  CHECK(screw_load_inertia(10.0, 0.005) == Approx(screw_load_inertia(10.0, 0.010) / 4.0).epsilon(1e-12));
  CHECK(reflected_inertia(screw_load_inertia(10.0, 0.010), 2.0) ==
        Approx(screw_load_inertia(10.0, 0.010) / 4.0).epsilon(1e-12));
  CHECK(screw_load_inertia(10.0, 0.010) == Approx(10.0 * std::pow(0.01 / (2 * M_PI), 2)).epsilon(1e-12));
}

TEST_CASE("equivalent gear torque is the torque itself when it never changes") {
  // 40 rad at 7 N·m, exponent 10/3
  CHECK(equivalent_torque(std::pow(7.0, 10.0 / 3.0) * 40.0, 40.0, 10.0 / 3.0) == Approx(7.0).epsilon(1e-12));
  CHECK(equivalent_torque(0.0, 0.0, 3.0) == 0.0);
}
