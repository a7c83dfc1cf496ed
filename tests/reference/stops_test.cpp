// Stops, jams, shorted motors, springs and accuracy against Boost.odeint, Holzer's method (H. Holzer, 1921)
// and random draws; numbers of an independent program where named.

#include "core/demand/accuracy.hpp"
#include "core/demand/compliance.hpp"
#include "core/quantity/constants.hpp"
#include "core/springs/chain.hpp"
#include "core/stops/formulas.hpp"
#include "support/axes.hpp"

#include <boost/math/quadrature/gauss_kronrod.hpp>
#include <boost/numeric/odeint.hpp>
#include <catch2/catch.hpp>

#include <array>
#include <cmath>
#include <random>

using namespace fulmox;
using namespace fulmox::testing;

namespace ode = boost::numeric::odeint;

namespace {

using Pair = std::vector<double>; // angle, speed

/// Falls or coasts for the delay, then the brake; steps of a microsecond until it rests. Angle and brake
/// energy.
struct Rested {
  double angle = 0.0, energy = 0.0, bite = 0.0;
};
Rested by_steps(double inertia, double speed, double pull, double friction, double brake, double delay) {
  constexpr double h = 2e-6;
  Rested out;
  double w = speed, t = 0.0;
  const auto rest = [&](double opposing) { return w <= 0.0 && pull <= opposing; };
  for (; t < delay && !rest(friction); t += h) {
    const double a = (pull - friction) / inertia;
    out.angle += w * h + 0.5 * a * h * h;
    w = std::max(0.0, w + a * h);
  }
  out.bite = w;
  while (w > 0.0) {
    const double a = (pull - friction - brake) / inertia;
    const double d = w * h + 0.5 * a * h * h;
    out.angle += d;
    out.energy += brake * d;
    w += a * h;
  }
  return out;
}

/// Holzer's residual: torque left at the end of the chain when it swings at a frequency; 0 at a natural one.
/// Against a wall before the first node where the rotor is held.
double holzer(const SpringChain& c, double omega, bool rotor_held) {
  double angle = 1.0, torque = 0.0, largest = 0.0;
  std::size_t first = 0;
  if (rotor_held) { // unit torque in the first spring
    torque = -1.0;
    angle = 1.0 / c.stiffnesses[0];
    first = 1;
  }
  for (std::size_t i = first; i < c.inertias.size(); ++i) {
    torque += omega * omega * c.inertias[i] * angle;
    largest = std::max(largest, std::abs(omega * omega * c.inertias[i] * angle));
    if (i < c.stiffnesses.size()) angle -= torque / c.stiffnesses[i];
  }
  return torque / largest;
}

} // namespace

TEST_CASE("a drop, a stop, a brake that is too weak") {
  CHECK(speed_at_brake(5e-4, 0.0, 1.0, 0.0, 0.05) == Approx(100.0));
  const double before = angle_to_brake(5e-4, 0.0, 1.0, 0.0, 0.05),
               under = angle_under_brake(5e-4, 100.0, 1.0, 0.0, 3.0);
  CHECK(before + under == Approx(3.75));
  CHECK(brake_energy(3.0, under) == Approx(3.75));
  CHECK(std::isinf(angle_under_brake(5e-4, 100.0, 1.0, 0.0, 1.0)));
  CHECK(std::isinf(angle_under_brake(5e-4, 0.0, 1.0, 0.0, 0.5)));
  CHECK(angle_under_brake(5e-4, 0.0, 1.0, 0.0, 1.0) == 0.0);
}

TEST_CASE("stops on random numbers against small steps in time") {
  std::mt19937 random(7);
  std::uniform_real_distribution<double> unit(0.0, 1.0);
  for (int i = 0; i < 60; ++i) {
    const double inertia = 1e-4 + 1e-3 * unit(random), speed = i % 5 == 0 ? 0.0 : 300.0 * unit(random);
    const double pull = i % 3 == 0 ? 0.0 : unit(random), friction = i % 2 == 0 ? 0.0 : 0.6 * unit(random);
    const double brake = pull + 0.1 + 2.0 * unit(random), delay = 0.06 * unit(random);
    const Rested by_time = by_steps(inertia, speed, pull, friction, brake, delay);
    const double bite = speed_at_brake(inertia, speed, pull, friction, delay);
    const double under = angle_under_brake(inertia, bite, pull, friction, brake);
    INFO(i);
    CHECK(bite == Approx(by_time.bite).margin(0.02));
    if (speed == 0.0 && friction > pull) continue; // does not move at all
    CHECK(angle_to_brake(inertia, speed, pull, friction, delay) + under ==
          Approx(by_time.angle).epsilon(1e-3).margin(1e-3));
    CHECK(brake_energy(brake, under) == Approx(by_time.energy).epsilon(2e-3).margin(2e-3));
  }
}

TEST_CASE("a rotor that runs into a spring while its motor goes on") {
  const auto worst = [](double motor, double k, double j, double speed) {
    Pair x{0.0, speed};
    double most = 0.0;
    ode::integrate_const(
        ode::runge_kutta4<Pair>(),
        [&](const Pair& y, Pair& dy, double) {
          dy = {y[1], (motor - k * y[0]) / j};
        },
        x, 0.0, 0.02, 1e-7, [&](const Pair& y, double) { most = std::max(most, k * y[0]); });
    return most;
  };
  CHECK(jam_torque(2.0, 500.0, 1e-4, 100.0) == Approx(24.45).margin(0.01));
  CHECK(jam_torque(2.0, 500.0, 1e-4, 100.0) == Approx(worst(2.0, 500.0, 1e-4, 100.0)).epsilon(1e-5));
  CHECK(jam_torque(0.5, 80.0, 3e-4, 40.0) == Approx(worst(0.5, 80.0, 3e-4, 40.0)).epsilon(1e-5));
}

TEST_CASE("a shorted motor against its currents stepped in time") {
  const double k = 0.1, r = 0.5, l = 2e-3, p = 4.0, c = 1.5 * k * k * r, x = p * l;
  CHECK(r / x * 60.0 / constants::tau == Approx(596.83).margin(0.01)); // rpm of the peak
  CHECK(short_peak(c, r, x, x, 500.0) == Approx(0.9375));
  CHECK(short_peak(c, r, x, x, 30.0) == Approx(short_torque(c, r, x, x, 30.0))); // never gets there
  // dq currents and speed together; an independent program says 97.74 rad
  const auto angle_with = [&](double j, double speed, double friction) {
    std::vector<double> y{0.0, 0.0, speed, 0.0}; // i_d, i_q, speed, angle
    const auto rate = [&](const std::vector<double>& s, std::vector<double>& d, double) {
      const double we = p * s[2];
      d[0] = (-r * s[0] + we * l * s[1]) / l;
      d[1] = (-r * s[1] - we * l * s[0] - k * s[2]) / l;
      d[2] = (1.5 * k * s[1] - (s[2] > 0.0 ? friction : 0.0)) / j;
      d[3] = s[2];
    };
    ode::integrate_const(ode::runge_kutta4<std::vector<double>>(), rate, y, 0.0, 3.0, 2e-6);
    return y[3];
  };
  const double closed = short_angle(1e-3, 314.159, c, r, x, x), stepped = angle_with(1e-3, 314.159, 0.0);
  CHECK(stepped == Approx(97.74).margin(0.02));
  CHECK(closed == Approx(98.67).margin(0.01));
  CHECK(closed > stepped); // steady currents: a little long, the safe side
  CHECK(short_torque(c, r, x, x, short_creep(0.3, c, r, x, x)) == Approx(0.3));
  CHECK(short_creep(0.3, c, r, x, x) < r / x);
  CHECK(std::isinf(short_creep(1.0, c, r, x, x)));
  CHECK(short_creep(0.3, c, r, 0.0, 0.0) == Approx(0.3 * r * r / c));
}

TEST_CASE("a rotor with magnets inside, shorted, against its two currents stepped in time") {
  // the torque of steady currents from the voltage equations of both axes, by Cramer's rule
  std::mt19937 random(5);
  std::uniform_real_distribution<double> unit(0.0, 1.0);
  for (int n = 0; n < 50; ++n) {
    const double k = 0.02 + 0.5 * unit(random), r = 0.1 + 2.0 * unit(random), p = 3.0;
    const double ld = 1e-3 * (0.5 + 5.0 * unit(random)), lq = ld * (0.6 + 3.0 * unit(random));
    const double speed = 5.0 + 800.0 * unit(random), we = p * speed, c = 1.5 * k * k * r;
    // R·i_d − ω_e·L_q·i_q = 0, ω_e·L_d·i_d + R·i_q = −K·ω
    const double det = r * r + we * we * ld * lq;
    const double i_d = -we * lq * k * speed / det, i_q = -r * k * speed / det;
    const double torque = -1.5 * (k * i_q + p * (ld - lq) * i_d * i_q);
    CHECK(short_torque(c, r, p * ld, p * lq, speed) == Approx(torque).epsilon(1e-10));
    // its greatest by looking everywhere, the angle by quadrature, the creep by its torque
    double most = 0.0;
    for (int s = 1; s <= 20000; ++s)
      most = std::max(most, short_torque(c, r, p * ld, p * lq, speed * s / 20000.0));
    CHECK(short_peak(c, r, p * ld, p * lq, speed) >= most * (1.0 - 1e-12));
    CHECK(short_peak(c, r, p * ld, p * lq, speed) == Approx(most).epsilon(1e-6));
    const double angle = boost::math::quadrature::gauss_kronrod<double, 31>::integrate(
        [&](double w) { return 1e-3 * w / short_torque(c, r, p * ld, p * lq, w); }, 1e-9, speed, 12, 1e-12);
    CHECK(short_angle(1e-3, speed, c, r, p * ld, p * lq) == Approx(angle).epsilon(1e-8));
    const double pull = 0.9 * unit(random) * short_peak(c, r, p * ld, p * lq, 1e6);
    const double creep = short_creep(pull, c, r, p * ld, p * lq);
    CHECK(short_torque(c, r, p * ld, p * lq, creep) == Approx(pull));
    for (int s = 1; s < 100; ++s) CHECK(short_torque(c, r, p * ld, p * lq, creep * s / 100.0) < pull);
  }
  // rotor and currents together: steady currents are a little long
  const double k = 0.2, r = 0.8, p = 4.0, ld = 2e-3, lq = 4e-3, j = 1e-3;
  std::vector<double> y{0.0, 0.0, 300.0, 0.0};
  const auto rate = [&](const std::vector<double>& s, std::vector<double>& d, double) {
    const double we = p * s[2];
    d[0] = (-r * s[0] + we * lq * s[1]) / ld;
    d[1] = (-r * s[1] - we * ld * s[0] - k * s[2]) / lq;
    d[2] = 1.5 * (k * s[1] + p * (ld - lq) * s[0] * s[1]) / j;
    d[3] = s[2];
  };
  ode::integrate_const(ode::runge_kutta4<std::vector<double>>(), rate, y, 0.0, 3.0, 2e-6);
  const double closed = short_angle(j, 300.0, 1.5 * k * k * r, r, p * ld, p * lq);
  CHECK(closed > y[3]);
  CHECK(closed == Approx(y[3]).epsilon(0.04));
}

TEST_CASE("what a stop returns, against the stop stepped in time") {
  for (const double pull : {0.0, 0.4, 1.2}) {
    const double j = 4e-4, torque = 2.0, start = 250.0;
    // the motor brakes with 2 N·m while the load drives it on; what it takes up is torque times angle
    std::vector<double> y{start, 0.0};
    while (y[0] > 0.0) {
      const double dt = 1e-6, slow = (torque - pull) / j;
      y[1] += dt * torque * (y[0] - 0.5 * slow * dt);
      y[0] -= slow * dt;
    }
    CHECK(stop_return(j, start, torque, pull) == Approx(y[1]).epsilon(1e-4));
  }
  CHECK(std::isinf(stop_return(1e-3, 100.0, 1.0, 1.0)));
}

TEST_CASE("natural frequencies of random chains leave nothing over in Holzer's table") {
  std::mt19937 random(11);
  std::uniform_real_distribution<double> unit(0.0, 1.0);
  for (int i = 0; i < 200; ++i) {
    SpringChain chain;
    const int nodes = 2 + i % 5;
    for (int n = 0; n < nodes; ++n) {
      chain.inertias.push_back(std::pow(10.0, -5.0 + 2.0 * unit(random)));
      if (n > 0) chain.stiffnesses.push_back(std::pow(10.0, 1.0 + 2.0 * unit(random)));
    }
    const auto free = resonances(chain), held = antiresonances(chain);
    REQUIRE(free.size() == static_cast<std::size_t>(nodes - 1));
    REQUIRE(held.size() == free.size());
    INFO(i);
    for (const double w : free) CHECK(std::abs(holzer(chain, w, false)) < 1e-6);
    for (const double w : held) CHECK(std::abs(holzer(chain, w, true)) < 1e-6);
    // Cauchy: held still, the rotor lowers every frequency below that of the free chain
    for (std::size_t k = 0; k < free.size(); ++k) CHECK(held[k] <= free[k] * (1.0 + 1e-9));
  }
  const SpringChain two{{1e-4, 4e-4}, {100.0}};
  CHECK(antiresonances(two).front() == Approx(std::sqrt(100.0 / 4e-4)));
  CHECK(resonances(two).front() == Approx(std::sqrt(100.0 * (1.0 / 1e-4 + 1.0 / 4e-4))));
}

TEST_CASE("a screw axis swings softest with the load far out, its springs by hand") {
  Axis axis = plain_axis();
  axis["mechanism"].type("nut_stiffness", "80 N/um");
  axis["coupling"].type("stiffness", "1500 N.m/rad");
  axis["coupling"].type("inertia", "50 g.cm2");
  axis["motor"].type("inertia", "0.5 kg.cm2");
  const auto first = [&](const std::string& distance) {
    Axis moved = axis;
    moved.cycle.front().type("distance", distance);
    return value(evaluated(moved), "compliance.antiresonance");
  };
  CHECK(first("50 mm") > first("150 mm"));
  CHECK(first("150 mm") > first("300 mm"));
  // by hand: both coupling halves and the screw between the springs
  const Evaluation e = evaluated(axis);
  const SpringChain chain = spring_chain(*e.model, axis);
  const Section& screw = axis["mechanism"];
  const double d = 0.85 * screw.term("diameter"), lead = screw.term("lead"), length = screw.term("length");
  const double free = 0.5 * (length + 0.3);
  const double axial = 206e9 * constants::pi / 4.0 * d * d / free, nut = 80e6;
  const double at_shaft = axial * nut / (axial + nut) * std::pow(lead / constants::tau, 2);
  const double torsion = 79e9 * constants::pi / 32.0 * std::pow(d, 4) / free;
  REQUIRE(chain.stiffnesses.size() == 2);
  CHECK(chain.stiffnesses[0] == Approx(1500.0));
  CHECK(chain.stiffnesses[1] == Approx(at_shaft * torsion / (at_shaft + torsion)));
  const double screw_inertia = constants::pi / 32.0 * 7850.0 * length * std::pow(screw.term("diameter"), 4);
  CHECK(chain.inertias[0] == Approx(0.5e-4 + 25e-7));
  CHECK(chain.inertias[1] == Approx(25e-7 + screw_inertia));
  CHECK(chain.inertias[2] == Approx(10.0 * std::pow(lead / constants::tau, 2)));
}

TEST_CASE("gearhead, coupling and a gear pair in a row, each spring seen through the ratios after it") {
  Axis axis = plain_axis();
  axis["motor"].type("inertia", "0.5 kg.cm2");
  axis["gearhead"].type("ratio", "5");
  axis["gearhead"].type("inertia", "0.1 kg.cm2");
  axis["gearhead"].type("stiffness", "3 N.m/arcmin");
  axis["coupling"].type("stiffness", "4000 N.m/rad");
  axis["coupling"].type("inertia", "200 g.cm2");
  Section pair(*find_kind(axis, *find_list("stages"), "gear_pair"));
  pair.type("driving", "20");
  pair.type("driven", "40");
  pair.type("input_inertia", "2 kg.cm2");
  pair.type("output_inertia", "9 kg.cm2");
  pair.type("stiffness", "30 kN.m/rad");
  axis.stages.push_back(pair);
  number_sections(axis);
  REQUIRE(faults(axis).empty());
  const Evaluation e = evaluated(axis);
  const SpringChain chain = spring_chain(*e.model, axis);
  constexpr double pair_ratio = 2.0, all = 10.0;
  REQUIRE(chain.stiffnesses.size() == 4);
  CHECK(chain.stiffnesses[0] == Approx(3.0 * 3437.7467707849 * pair_ratio * pair_ratio)); // 1 N·m/arcmin
  CHECK(chain.stiffnesses[1] == Approx(4000.0 * pair_ratio * pair_ratio));
  CHECK(chain.stiffnesses[2] == Approx(30000.0));
  CHECK(chain.inertias[0] == Approx((0.5e-4 + 0.1e-4) * all * all));
  CHECK(chain.inertias[1] == Approx(100e-7 * pair_ratio * pair_ratio));
  CHECK(chain.inertias[2] == Approx((100e-7 + 2e-4) * pair_ratio * pair_ratio));
  CHECK(chain.inertias[3] > 9e-4); // with the screw
  for (const double w : antiresonances(chain)) CHECK(std::abs(holzer(chain, w, true)) < 1e-6);
  CHECK(value(e, "compliance.antiresonance") == Approx(antiresonances(chain).front() / constants::tau));
}

TEST_CASE("the accuracy budget against random draws of its errors") {
  Axis axis = plain_axis();
  axis["motor"].type("inertia", "0.5 kg.cm2");
  axis["motor"].type("encoder", "8192");
  axis["requirements"].type("lead_error", "23 um");
  axis["requirements"].type("warming", "10 K");
  axis["requirements"].type("tolerance", "0.1 mm");
  const Evaluation e = evaluated(axis);
  Recorder silent(false);
  const AccuracyBudget budget = accuracy_budget(*e.model, axis, e.demand.peak_torque, silent);
  REQUIRE(budget.shares.size() == 5);
  std::mt19937 random(3);
  double squares = 0.0, most = 0.0;
  constexpr int draws = 200000;
  for (int i = 0; i < draws; ++i) {
    double sum = 0.0;
    for (const ErrorShare& share : budget.shares) sum += (random() % 2 == 0 ? 1.0 : -1.0) * share.size;
    squares += sum * sum;
    most = std::max(most, std::abs(sum));
  }
  CHECK(std::sqrt(squares / draws) == Approx(budget.root).epsilon(0.01));
  CHECK(most == Approx(budget.worst).epsilon(1e-9)); // with five, some draw has all the same way
  const double lever = 0.01 / constants::tau;
  CHECK(value(e, "accuracy.resolution") == Approx(constants::tau / 8192.0 * lever));
  CHECK(value(e, "accuracy.encoder") == Approx(5.0 / 60.0 * constants::degree * lever));
  CHECK(value(e, "accuracy.growth") == Approx(11.5e-6 * 0.5 * 10.0));
  CHECK(limit(e, "accuracy").used == Approx(budget.worst / 1e-4));
  Section rules = house_rules();
  rules.type("error_sum", "root");
  const auto by_root = evaluate(axis, rules);
  REQUIRE(by_root);
  CHECK(limit(*by_root, "accuracy").used == Approx(budget.root / 1e-4));
}
