// The thermal network against Boost.odeint (adaptive Dormand-Prince, 1e-10), closed cases worked by an
// independent program, and IEC 60034-1 S3 (intermittent duty). Nothing of the program's matrix exponential is
// used for that.

#include "core/demand/heat.hpp"
#include "core/heat/formulas.hpp"
#include "core/heat/network.hpp"
#include "core/quantity/constants.hpp"
#include "support/axes.hpp"

#include <boost/numeric/odeint.hpp>
#include <catch2/catch.hpp>

#include <array>
#include <cmath>
#include <random>
#include <utility>

using namespace fulmox;
using namespace fulmox::testing;

namespace {

constexpr double melting_ice = constants::zero_celsius;
constexpr double alpha = 0.00393; // IEC 60028

/// 0.4 and 0.6 K/W, 100 and 1500 J/K, air at 40 °C.
ThermalNetwork usual(double ambient = 40.0) { return {100.0, 1500.0, 0.4, 0.6, melting_ice + ambient, 1.0}; }
HeatSpan even(double time, double copper, double body) { return {time, copper, copper, body, false}; }

using State = std::vector<double>; // every phase by itself, then the case

/// Each phase as a node of its own, the losses of the phases given one by one.
void warm_up(const ThermalNetwork& n, const std::vector<double>& losses, double body, const State& t,
             State& rate) {
  const double phases = n.phases;
  double into_case = body - (t.back() - n.ambient) / n.case_to_ambient;
  for (std::size_t k = 0; k < losses.size(); ++k) {
    const double flow = (t[k] - t.back()) / (phases * n.winding_to_case);
    rate[k] =
        (losses[k] * (1.0 + alpha * (t[k] - melting_ice - 20.0)) - flow) / (n.winding_capacity / phases);
    into_case += flow;
  }
  rate.back() = into_case / n.case_capacity;
}

/// The first phase takes what the span's worst does, the rest share what is left.
std::vector<double> losses_of(const ThermalNetwork& n, const HeatSpan& s) {
  const auto count = static_cast<std::size_t>(n.phases);
  std::vector<double> out(count, s.worst_phase / n.phases);
  for (std::size_t k = 1; k < count; ++k) out[k] = (s.copper - out[0]) / (n.phases - 1.0);
  return out;
}

/// Integrates over the cycle; gives the greatest of the first phase.
double integrate_cycle(const ThermalNetwork& n, const std::vector<HeatSpan>& cycle, State& t) {
  namespace ode = boost::numeric::odeint;
  double most = t[0];
  for (const HeatSpan& s : cycle) {
    const auto losses = losses_of(n, s);
    const auto stepper = ode::make_controlled(1e-10, 1e-10, ode::runge_kutta_dopri5<State>());
    ode::integrate_adaptive(
        stepper, [&](const State& x, State& dx, double) { warm_up(n, losses, s.body, x, dx); }, t, 0.0,
        s.time, s.time / 50.0, [&](const State& x, double) { most = std::max(most, x[0]); });
  }
  return most;
}

State state_of(const ThermalNetwork& n, const HeatState& y) {
  State t(static_cast<std::size_t>(n.phases) + 1, y.others);
  t[0] = y.worst_phase;
  t.back() = y.body;
  return t;
}

} // namespace

TEST_CASE("the steady swing of a hot and a cool stretch") {
  const std::vector<HeatSpan> cycle{even(30.0, 300.0, 10.0), even(120.0, 20.0, 10.0)};
  const PeriodicHeat heat = periodic_heat(usual(), cycle);
  REQUIRE_FALSE(heat.runs_away);
  CHECK(heat.hottest - melting_ice == Approx(235.62).margin(0.01));
  CHECK(heat.coldest - melting_ice == Approx(138.17).margin(0.01));
  CHECK(heat.growth == Approx(0.8864).margin(1e-4));
  const PeriodicHeat mean = periodic_heat(usual(), std::vector{even(150.0, 76.0, 10.0)});
  CHECK(mean.hottest - melting_ice == Approx(165.44).margin(0.01)); // what the mean loss would have told
}

TEST_CASE("times to the limit and of an overload") {
  const ThermalNetwork n = usual();
  const HeatState cold{melting_ice + 40.0, melting_ice + 40.0, melting_ice + 40.0};
  CHECK(time_to(n, std::vector{even(1e5, 90.0, 10.0)}, cold, melting_ice + 155.0).value() ==
        Approx(1320.5).margin(0.1));
  CHECK(time_to(n, std::vector{even(1e5, 900.0, 10.0)}, cold, melting_ice + 155.0).value() ==
        Approx(11.165).margin(0.005));
  CHECK(adiabatic_time(100.0, 900.0, melting_ice + 155.0, melting_ice + 40.0) == Approx(9.894).margin(0.001));
  CHECK(adiabatic_time(100.0, 900.0, melting_ice + 155.0, melting_ice + 100.0) ==
        Approx(4.304).margin(0.001));
  CHECK_FALSE(time_to(n, std::vector{even(1e5, 60.0, 10.0)}, cold, melting_ice + 155.0).has_value());
  // the same cut into short cycles, and met inside one of the long ones
  CHECK(time_to(n, std::vector{even(0.7, 90.0, 10.0)}, cold, melting_ice + 155.0).value() ==
        Approx(1320.5).margin(0.1));
}

TEST_CASE("S3: the root of the duty holds only for short periods") {
  const std::array shares{0.15, 0.25, 0.4, 0.6}, long_ones{1.555, 1.384, 1.251, 1.139},
      short_ones{2.543, 1.973, 1.564, 1.282};
  for (std::size_t k = 0; k < shares.size(); ++k) {
    CHECK(intermittent_factor(usual(), melting_ice + 155.0, shares[k], 600.0) ==
          Approx(long_ones[k]).margin(0.002));
    CHECK(intermittent_factor(usual(), melting_ice + 155.0, shares[k], 10.0) ==
          Approx(short_ones[k]).margin(0.002));
  }
  CHECK(intermittent_factor(usual(), melting_ice + 155.0, 1.0, 600.0) == 1.0);
}

TEST_CASE("constant current runs away at the loss that its own resistance feeds") {
  const ThermalNetwork n = usual(); // 1 K/W in all: 1/α = 254.45 W
  CHECK_FALSE(periodic_heat(n, std::vector{even(60.0, 254.3, 0.0)}).runs_away);
  CHECK(periodic_heat(n, std::vector{even(60.0, 254.6, 0.0)}).runs_away);
  // hotter than any limit long before: 155 °C at 75.1 W
  CHECK(periodic_heat(n, std::vector{even(60.0, 75.1, 0.0)}).hottest - melting_ice ==
        Approx(155.0).margin(0.1));
}

TEST_CASE("held for ever: one phase at its crest, two beside each other") {
  const std::array shares{0.2, 0.4, 0.6}, one{0.9129, 0.8452, 0.7906}, two{0.9535, 0.9129, 0.8771};
  for (std::size_t k = 0; k < shares.size(); ++k) {
    CHECK(hold_factor(shares[k], 1.0 - shares[k], 2.0) == Approx(one[k]).margin(5e-5));
    CHECK(hold_factor(shares[k], 1.0 - shares[k], 1.5) == Approx(two[k]).margin(5e-5));
  }
  // what the network says of a hold for ever, resistance not rising: α enters both sides alike at the limit
  ThermalNetwork n = usual();
  n.phases = 3.0;
  const double factor = hold_factor(n.winding_to_case, n.case_to_ambient, 2.0);
  const double room = 115.0, warmth = 1.0 + alpha * 135.0;
  const double copper = room / (n.winding_to_case + n.case_to_ambient) / warmth * factor * factor;
  const PeriodicHeat held = periodic_heat(n, std::vector{HeatSpan{1e4, copper, 2.0 * copper, 0.0, false}});
  // the cooler phases have less resistance: a little below the limit
  CHECK(held.hottest - melting_ice < 155.0);
  CHECK(held.hottest - melting_ice > 148.0);
}

TEST_CASE("random cycles repeat themselves in an integration, and are never hotter than told") {
  std::mt19937 random(20261126);
  std::uniform_real_distribution<double> unit(0.0, 1.0);
  for (int trial = 0; trial < 40; ++trial) {
    ThermalNetwork n{10.0 + 200.0 * unit(random),
                     300.0 + 3000.0 * unit(random),
                     0.1 + unit(random),
                     0.2 + unit(random),
                     melting_ice + 40.0 * unit(random),
                     trial % 3 == 0   ? 1.0
                     : trial % 3 == 1 ? 2.0
                                      : 3.0};
    std::vector<HeatSpan> cycle;
    const int spans = 2 + trial % 4;
    for (int k = 0; k < spans; ++k) {
      const double copper = 80.0 * unit(random) * unit(random);
      const double crest = n.phases == 1.0 ? 1.0 : 1.0 + unit(random) * std::min(1.0, n.phases - 1.0);
      cycle.push_back({5.0 + 200.0 * unit(random), copper, copper * crest, 10.0 * unit(random), false});
    }
    const PeriodicHeat heat = periodic_heat(n, cycle);
    if (heat.runs_away) continue;
    State t = state_of(n, heat.start);
    const double most = integrate_cycle(n, cycle, t);
    INFO("trial " << trial);
    CHECK(t[0] == Approx(heat.start.worst_phase).margin(1e-4));
    CHECK(t.back() == Approx(heat.start.body).margin(1e-4));
    CHECK(heat.hottest >= most - 1e-6);
    CHECK(heat.hottest <= most + 0.05);
    // what lies above the steady cycle shrinks by its growth, once the fast part has gone
    for (double& node : t) node += 1e3;
    double above = 0.0, before = 0.0;
    for (int cycles = 0; cycles < 8; ++cycles) {
      before = std::exchange(above, t.back() - heat.start.body);
      (void)integrate_cycle(n, cycle, t);
    }
    CHECK(heat.growth == Approx(above / before).epsilon(1e-3));
  }
}

TEST_CASE("a stretch cut into many short ones says the same") {
  ThermalNetwork n = usual();
  n.phases = 3.0;
  const std::vector<HeatSpan> whole{{300.0, 90.0, 150.0, 8.0, false}, {200.0, 5.0, 5.0, 2.0, false}};
  std::vector<HeatSpan> cut;
  for (const HeatSpan& span : whole)
    for (int k = 0; k < 500; ++k)
      cut.push_back({span.time / 500.0, span.copper, span.worst_phase, span.body, false});
  const PeriodicHeat one = periodic_heat(n, whole), many = periodic_heat(n, cut);
  CHECK(many.start.worst_phase == Approx(one.start.worst_phase).epsilon(1e-11));
  CHECK(many.start.others == Approx(one.start.others).epsilon(1e-11));
  CHECK(many.start.body == Approx(one.start.body).epsilon(1e-11));
  CHECK(many.hottest == Approx(one.hottest).epsilon(1e-11));
  CHECK(many.mean_copper == Approx(one.mean_copper).epsilon(1e-11));
  CHECK(many.growth == Approx(one.growth).epsilon(1e-11));
}

TEST_CASE("a kept mean is the mean of the rise") {
  const std::vector<HeatSpan> cycle{even(30.0, 120.0, 10.0), even(120.0, 20.0, 4.0)};
  const PeriodicHeat heat = periodic_heat(usual(), cycle);
  // the network's own balance: what flows to the air is what is put in
  State t = state_of(usual(), heat.start);
  double area = 0.0;
  HeatState y = heat.start;
  for (const HeatSpan& s : cycle) {
    constexpr int steps = 2000; // Simpson
    for (int k = 0; k < steps; ++k) {
      const double h = s.time / steps;
      const HeatState middle = heated(usual(), y, s, 0.5 * h), end = heated(usual(), y, s, h);
      area += h / 6.0 * (y.worst_phase + 4.0 * middle.worst_phase + end.worst_phase);
      y = end;
    }
  }
  const double rise = area / 150.0 - usual().ambient;
  CHECK(mean_winding_rise(heat.mean_copper, 0.4, 0.6, heat.mean_body) == Approx(rise).epsilon(1e-6));
  CHECK(heat.mean_body == Approx((30.0 * 10.0 + 120.0 * 4.0) / 150.0));
}

TEST_CASE("held against a force that rises by next to nothing, one phase gets as hot as against that force") {
  Axis axis = demo().axes[2];
  const auto hottest = [&](const char* first, const char* last) {
    for (Section& segment : axis.cycle)
      if (segment.spec().id == "dwell") {
        segment.type("process", first);
        segment.type("process_end", last);
        segment.type("time", "0.2 s");
      }
    const Evaluation e = evaluated(axis);
    REQUIRE_FALSE(e.demand.heat.gap);
    return e.demand.heat.hottest.value;
  };
  const double steady = hottest("150 N", ""), rising = hottest("149.999 N", "150.001 N");
  CHECK(rising == Approx(steady).margin(0.3)); // cut into spans of a quarter of a kelvin
  CHECK(steady > hottest("0 N", "") + 3.0);
}

TEST_CASE("the axes of the demo, losses following every moment, close and are never hotter than told") {
  namespace ode = boost::numeric::odeint;
  for (const Axis& axis : demo().axes) {
    const Evaluation e = evaluated(axis);
    const MotorHeat& heat = e.demand.heat;
    INFO(axis.name);
    REQUIRE_FALSE(heat.gap);
    const Motor& motor = *e.model->motor;
    const double warm = 1.0 + alpha * (motor.winding_limit - melting_ice - 20.0);
    const double coil = e.model->brake.fitted ? e.model->brake.power.value : 0.0;
    double time = 0.0, copper = 0.0, most = 0.0;
    for (const HeatSpan& s : heat.cycle) {
      time += s.time;
      copper += s.copper * s.time;
    }
    const auto& pieces = e.model->load->cycle.pieces;
    CHECK(time == Approx(e.model->load->cycle.duration).epsilon(1e-9));
    double squares = 0.0;
    for (const Stretch& s : e.course.stretches)
      if (!s.braked) squares += s.sums.current_squared;
    if (motor.phases().number > 1.0) // brushes lose besides
      CHECK(copper == Approx(motor.copper(1.0) * squares / warm).epsilon(1e-6));
    State t = state_of(heat.network, heat.steady.start);
    Recorder silent(false);
    for (std::size_t k = 0; k < pieces.size(); ++k) {
      const auto rate = [&](const State& x, State& dx, double tau) {
        const Instant now = e.model->at(k, std::min(tau, pieces[k].duration), silent);
        const double loss = pieces[k].braked ? 0.0 : motor.copper(now.current) / warm;
        const HeatSpan s{0.0, loss, loss * (pieces[k].rest() ? motor.phases().at_crest : 1.0),
                         motor.drag(now.speed) * std::abs(now.speed) + (pieces[k].braked ? 0.0 : coil)};
        warm_up(heat.network, losses_of(heat.network, s), s.body, x, dx);
      };
      ode::integrate_const(ode::runge_kutta4<State>(), rate, t, 0.0, pieces[k].duration,
                           pieces[k].duration / 400.0,
                           [&](const State& x, double) { most = std::max(most, x[0]); });
    }
    CHECK(t[0] == Approx(heat.steady.start.worst_phase).margin(0.02));
    CHECK(t.back() == Approx(heat.steady.start.body).margin(0.002));
    CHECK(heat.hottest >= most - 1e-3);
    CHECK(heat.hottest <= most + 0.6);
  }
}
