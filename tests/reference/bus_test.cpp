// The bus against Boost.odeint (Dormand–Prince, 1e-10), closed forms, balances, and numbers worked by an
// independent program.

#include "core/bus/bus_run.hpp"
#include "core/bus/formulas.hpp"
#include "reference/numbers.hpp"
#include "support/axes.hpp"
#include "support/power_lines.hpp"

#include <catch2/catch.hpp>

#include <boost/numeric/odeint.hpp>

#include <numbers>
#include <random>

using namespace fulmox;
using namespace fulmox::testing;

namespace {

BusModel regulated(double volts, double resistance, double limit, double capacitance) {
  BusModel bus;
  bus.supply.volts = volts;
  bus.supply.resistance = resistance;
  bus.supply.limit = limit;
  bus.capacitance = capacitance;
  return bus;
}

BusModel rectifier(double crest, double drop, double resistance, double capacitance, int phases = 1) {
  BusModel bus;
  bus.supply.kind = BusSupply::Kind::rectifier;
  bus.supply.crest = crest;
  bus.supply.drop = drop;
  bus.supply.resistance = resistance;
  bus.supply.frequency = 50.0;
  bus.supply.phases = phases;
  bus.capacitance = capacitance;
  return bus;
}

PowerCurve staggered() {
  const PowerCurve a = axis_a(), b = delayed(axis_b(), 0.83), c = delayed(axis_c(), 1.0);
  return sum_of(std::array{&a, &b, &c});
}

struct Looked {
  double lowest = HUGE_VAL, highest = -HUGE_VAL, supplied = 0.0, burnt = 0.0, end = 0.0;
};

/// What the supply makes without load: the greatest of the magnitudes of three sines 120° apart, or of one.
double open_volts(const BusSupply& s, double t) {
  if (s.kind == BusSupply::Kind::regulated) return s.volts;
  double most = 0.0;
  for (int phase = 0; phase < s.phases; ++phase)
    most = std::max(most, std::abs(std::sin(2.0 * pi * s.frequency * t + s.phase + phase * pi / 3.0)));
  return s.crest * most - s.drop;
}

/// The same bus by an ODE library, piece by piece, with the chopper's state held over steps of `h`.
Looked by_odeint(const BusModel& bus, const PowerCurve& power, double volts, int periods, double h) {
  namespace ode = boost::numeric::odeint;
  using State = std::array<double, 3>; // V, J supplied, J burnt
  State state{volts, 0.0, 0.0};
  bool chopper = false;
  Looked out;
  for (int round = 0; round < periods; ++round) {
    if (round + 1 == periods) out = {}, state[1] = state[2] = 0.0;
    for (const PowerPiece& piece : power.pieces) {
      const auto steps = static_cast<int>(std::ceil(piece.length() / h));
      for (int k = 0; k < steps; ++k) {
        const double from = piece.from + piece.length() * k / steps;
        const auto rate = [&](const State& x, State& dx, double t) {
          const double amps = std::max(
              0.0, std::min((open_volts(bus.supply, t) - x[0]) / bus.supply.resistance, bus.supply.limit));
          const double g = chopper ? 1.0 / bus.chopper->resistance : 0.0;
          dx[0] = (amps - piece.at(t) / x[0] - x[0] * (g + 1.0 / bus.bleeder)) / bus.capacitance;
          dx[1] = amps * x[0];
          dx[2] = x[0] * x[0] * g;
        };
        ode::integrate_adaptive(ode::make_controlled(1e-10, 1e-10, ode::runge_kutta_dopri5<State>()), rate,
                                state, from, from + piece.length() / steps, 1e-5);
        if (bus.chopper) chopper = chopper ? state[0] > bus.chopper->off : state[0] >= bus.chopper->on;
        out.lowest = std::min(out.lowest, state[0]);
        out.highest = std::max(out.highest, state[0]);
      }
    }
  }
  out.supplied = state[1];
  out.burnt = state[2];
  out.end = state[0];
  return out;
}

} // namespace

TEST_CASE("a bus behind a regulated supply as an ODE library integrates it") {
  const PowerCurve power = staggered();
  for (const double resistance : {0.01, 0.05, 0.3})
    for (const double capacitance : {1e-3, 10e-3, 50e-3}) {
      const BusModel bus = regulated(48.0, resistance, 20.0, capacitance);
      const BusRun run = run_bus(bus, power);
      const Looked other = by_odeint(bus, power, 48.0, 3, 2e-4);
      CAPTURE(resistance, capacitance);
      CHECK(run.settled);
      CHECK(run.lowest == Approx(other.lowest).epsilon(2e-5));
      CHECK(run.highest == Approx(other.highest).epsilon(2e-5));
      CHECK(run.lowest <= other.lowest + 1e-5);
      CHECK(run.supplied == Approx(other.supplied).epsilon(1e-6));
      CHECK(std::abs(run.balance) < 1e-6 * run.supplied);
      for (const double t : {0.1, 0.4, 0.95, 1.3, 1.99}) CHECK(run.volts_at(t) > 0.0);
    }
}

TEST_CASE("a chopper as an ODE library switches it") {
  BusModel bus = regulated(48.0, 0.05, 20.0, 10e-3);
  bus.chopper = Chopper{56.0, 54.0, 4.0};
  const PowerCurve power = staggered();
  const BusRun run = run_bus(bus, power);
  const Looked other = by_odeint(bus, power, 48.0, 3, 1e-6);
  CHECK(run.burnt == Approx(other.burnt).epsilon(1e-3));
  CHECK(run.supplied == Approx(other.supplied).epsilon(1e-3));
  CHECK(run.highest == Approx(56.0).epsilon(1e-6));
  CHECK(run.burnt == Approx(30.85).epsilon(0.01));
  CHECK(std::abs(run.balance) < 1e-6 * run.supplied);
  // less than what comes back: the part below the threshold is used again, other axes use some at once
  CHECK(run.burnt < returned_energy(power));
  CHECK(run.supplied / 2.0 > mean_power(power));
  CHECK(run.supplied / 2.0 < drawn_energy(power) / 2.0);
  CHECK(run.most_current == Approx(10.06).epsilon(0.01));
  CHECK(run.lowest == Approx(47.50).epsilon(2e-4));
  // a fine tolerance changes nothing that matters
  const BusRun finer = run_bus(bus, power, 1e-8);
  CHECK(run.burnt == Approx(finer.burnt).epsilon(1e-4));
  CHECK(run.lowest == Approx(finer.lowest).epsilon(1e-7));
}

TEST_CASE("the example aligned at 0 collapses on 20 A, with its starts apart it does not") {
  const PowerCurve a = axis_a(), b = axis_b(), c = axis_c();
  const BusRun run = run_bus(regulated(48.0, 0.05, 20.0, 10e-3), sum_of(std::array{&a, &b, &c}));
  CHECK(run.collapsed);
  CHECK(run.collapsed_at == Approx(0.098).epsilon(0.03));
  CHECK_FALSE(run_bus(regulated(48.0, 0.05, 20.0, 10e-3), staggered()).collapsed);
  // without a limit it carries them
  CHECK_FALSE(run_bus(regulated(48.0, 0.05, 1e9, 10e-3), sum_of(std::array{&a, &b, &c})).collapsed);
}

TEST_CASE("an overload is survived or not by the power after it at the voltage it sagged to") {
  const auto run_with = [](double after) {
    const PowerCurve power =
        lines({{0, 0}, {.5, 0}, {.5, 1500}, {.512, 1500}, {.512, after}, {.8, after}, {.8, 0}, {2, 0}});
    return run_bus(regulated(48.0, 0.02, 20.0, 20e-3), power);
  };
  const BusRun good = run_with(750.0);
  CHECK_FALSE(good.collapsed);
  CHECK(good.lowest == Approx(39.2).epsilon(0.02));
  // the closed form from where the limit begins
  CHECK(good.lowest_at == Approx(0.512).margin(1e-3));
  CHECK(run_with(850.0).collapsed); // though 850 W are below 48 V · 20 A
}

TEST_CASE("a chopper alone is an exponential, and switches as its closed form says") {
  // nothing flows in: 100 W come back for a while, from a supply that stands far below
  BusModel bus = regulated(300.0, 1.0, 10.0, 2e-3);
  bus.chopper = Chopper{390.0, 380.0, 40.0};
  const PowerCurve power = lines({{0, 200}, {1.0, 200}, {1.0, -2000}, {1.2, -2000}, {1.2, 200}, {4, 200}});
  const BusRun run = run_bus(bus, power);
  CHECK(run.highest == Approx(390.0).epsilon(1e-9));
  CHECK(run.settled);
  CHECK(std::abs(run.balance) < 1e-6 * run.supplied);
  const double first = 2e-3 * (390.0 * 390.0 - 300.0 * 300.0) / (2.0 * 2000.0); // s until it goes on
  const double frequency = chopper_frequency(2e-3, 390.0, 380.0, 40.0, 2000.0);
  CHECK(frequency == Approx(119.5).epsilon(1e-3));
  CHECK(chopper_duty(2e-3, 390.0, 380.0, 40.0, 2000.0) == Approx(0.540).epsilon(1e-3));
  CHECK(run.switched == Approx(1.0 + std::floor((0.2 - first) * frequency)).margin(1.0));
  // a resistor that cannot hold it: it stays on, and V tends to √(P·R)
  CHECK(chopper_frequency(2e-3, 390.0, 380.0, 80.0, 2000.0) == 0.0);
  CHECK(chopper_duty(2e-3, 390.0, 380.0, 80.0, 2000.0) == 1.0);
  bus.chopper->resistance = 1e12;
  BusModel without = bus;
  without.chopper.reset();
  CHECK(run_bus(bus, power).highest == Approx(run_bus(without, power).highest).epsilon(2e-6));
}

TEST_CASE("V² rises exactly with what comes back") {
  const BusModel bus = regulated(320.0, 0.1, 100.0, 2.2e-3);
  // ∫ of the returning parabola: 45 J
  PowerCurve power = lines({{0, 50}, {1, 50}, {1, 0}, {1.3, 0}, {1.3, 50}, {3, 50}});
  const std::array back{-150.0 - 0.0, -150.0, -150.0};
  power.pieces[1].watts = Series::through(back);
  const BusRun run = run_bus(bus, power);
  const double rest = rest_voltage(320.0, 0.1, 50.0);
  CHECK(run.highest ==
        Approx(std::sqrt(rest * rest + 2.0 * 45.0 / 2.2e-3)).epsilon(1e-5)); // a last drop is fed in
  CHECK(run.highest_at == Approx(1.3).margin(1e-9));
  CHECK(run.supplied == Approx(mean_power(power) * 3.0).epsilon(1e-6)); // all of it is used again
}

TEST_CASE("moving all starts together moves the voltage and changes no extreme") {
  const PowerCurve power = staggered();
  const BusModel bus = regulated(48.0, 0.05, 20.0, 4.7e-3);
  const BusRun run = run_bus(bus, power), moved = run_bus(bus, delayed(power, 0.37));
  CHECK(moved.lowest == Approx(run.lowest).epsilon(1e-7));
  CHECK(moved.highest == Approx(run.highest).epsilon(1e-7));
  CHECK(moved.supplied == Approx(run.supplied).epsilon(1e-6));
  CHECK(std::fmod(run.lowest_at + 0.37, 2.0) == Approx(moved.lowest_at).margin(1e-4));
  CHECK(moved.volts_at(std::fmod(1.2 + 0.37, 2.0)) == Approx(run.volts_at(1.2)).epsilon(1e-3));
  CHECK(run.lowest_within(0.0, 2.0) == Approx(run.lowest).epsilon(1e-9));
  CHECK(run.lowest_within(0.3, 0.1) > run.lowest);
}

TEST_CASE("large capacitors hold the voltage, a stiff source never sags") {
  const PowerCurve power = staggered();
  CHECK(run_bus(regulated(48.0, 0.05, 50.0, 20.0), power).highest == Approx(48.0).epsilon(2e-3));
  const BusRun stiff = run_bus(regulated(48.0, 1e-6, 50.0, 10e-3), power);
  CHECK(stiff.lowest == Approx(48.0).epsilon(1e-6));
}

TEST_CASE("a supply that takes back keeps the bus down and returns the energy") {
  BusModel bus = regulated(48.0, 0.05, 50.0, 10e-3);
  const PowerCurve power = staggered();
  const double alone = run_bus(bus, power).highest;
  bus.supply.sink = 30.0;
  const BusRun run = run_bus(bus, power);
  CHECK(alone > 60.0);
  CHECK(run.highest < 48.6);
  CHECK(run.taken_back > 35.0);
  CHECK(run.supplied == Approx(mean_power(power) * 2.0).epsilon(1e-3));
}

TEST_CASE("a rectifier's forms against the run, ripple and current factor") {
  struct Row {
    double capacitance, amps, volts, ripple, factor;
  };
  // constant current on 48 V crest, 0.3 Ω, 50 Hz: values worked by an independent program; the run draws
  // constant power, close to constant current at that ripple
  for (const Row& row : {Row{22e-3, 5.0, 41.31, 1.55, 1.88}, Row{10e-3, 5.0, 41.18, 3.39, 1.88}}) {
    const BusRun run =
        run_bus(rectifier(48.0, 0.0, 0.3, row.capacitance), constant_power(row.amps * row.volts, 0.2));
    CAPTURE(row.capacitance);
    const double swing = run.highest - run.lowest;
    CHECK(swing == Approx(row.ripple).epsilon(0.06));
    CHECK(0.5 * (run.highest + run.lowest) == Approx(row.volts).epsilon(0.01));
    CHECK(run.rms_current / row.amps == Approx(row.factor).epsilon(0.03));
    CHECK(rectifier_mean(48.0, 0.0, 0.3, 41.348, 1) == Approx(row.amps).epsilon(0.003)); // +0.1, +0.4 %
    CHECK(rectifier_rms(48.0, 0.0, 0.3, 41.348, 1) / row.amps == Approx(row.factor).epsilon(0.02));
    CHECK(rectifier_ripple(48.0, 0.0, 0.3, 41.348, row.amps, row.capacitance, 50.0, 1) ==
          Approx(row.ripple).epsilon(0.02));
    CHECK(ripple_bound(row.amps, 50.0, row.capacitance, 1) > swing);
    CHECK(std::abs(run.balance) < 1e-5 * run.supplied);
  }
  // x = R·I/V_pk against V/V_pk and line over direct current, single and three phases
  for (const auto& [x, v1, f1, v3, f3] :
       {std::array{0.003, 0.971, 2.79, 0.986, 1.58}, std::array{0.02, 0.897, 2.03, 0.950, 1.15},
        std::array{0.10, 0.700, 1.54, 0.855, 0.88}}) {
    CHECK(rectifier_mean(1.0, 0.0, 1.0, v1, 1) == Approx(x).epsilon(0.03));
    CHECK(rectifier_rms(1.0, 0.0, 1.0, v1, 1) / x == Approx(f1).epsilon(0.03));
    CHECK(rectifier_mean(1.0, 0.0, 1.0, v3, 3) == Approx(x).epsilon(0.05));
    CHECK(std::sqrt(2.0 / 3.0) * rectifier_rms(1.0, 0.0, 1.0, v3, 3) / x == Approx(f3).epsilon(0.04));
  }
  // the series where the angle is narrow joins the closed form
  const double narrow = std::cos(0.0199), wide = std::cos(0.0201);
  CHECK(rectifier_mean(1.0, 0.0, 1.0, narrow, 1) ==
        Approx(rectifier_mean(1.0, 0.0, 1.0, wide, 1) * std::pow(0.0199 / 0.0201, 3)).epsilon(1e-3));
  CHECK(rectifier_rms(1.0, 0.0, 1.0, narrow, 1) ==
        Approx(rectifier_rms(1.0, 0.0, 1.0, wide, 1) * std::pow(0.0199 / 0.0201, 2.5)).epsilon(1e-3));
}

TEST_CASE("a bus behind a rectifier as an ODE library integrates it") {
  const std::array work{400.0}, back{-300.0}, rest{20.0};
  PowerCurve power; // its period is one of the pulses, so there is a periodic state
  power.pieces = {{0.0, 0.06, Series::through(work)},
                  {0.06, 0.09, Series::through(back)},
                  {0.09, 0.2, Series::through(rest)}};
  for (const int phases : {1, 3})
    for (const double bleeder : {std::numeric_limits<double>::infinity(), 3000.0, 500.0}) {
      BusModel bus = rectifier(325.0, 1.8, 0.5, 1e-3, phases);
      bus.bleeder = bleeder;
      CAPTURE(phases, bleeder);
      const BusRun run = run_bus(bus, power);
      const Looked other = by_odeint(bus, power, 320.0, 5, 1e-5);
      CHECK(run.lowest == Approx(other.lowest).epsilon(2e-5));
      CHECK(run.highest == Approx(other.highest).epsilon(2e-5));
      CHECK(run.supplied == Approx(other.supplied).epsilon(2e-4));
      const double net = 0.06 * 400.0 - 0.03 * 300.0 + 0.11 * 20.0;
      CHECK(run.supplied - run.bled == Approx(net).epsilon(1e-4)); // nothing else goes anywhere
      CHECK((run.bled > 0.0) == std::isfinite(bleeder));
      CHECK(std::abs(run.balance) < 1e-4 * run.supplied);
    }
  // without a load it rests, and the whole period is told
  const BusRun idle = run_bus(rectifier(325.0, 1.8, 0.5, 1e-3), constant_power(0.0, 2.0));
  CHECK(idle.samples.front().time == 0.0);
  CHECK(idle.samples.back().time == Approx(2.0));
  CHECK(idle.lowest == Approx(323.2).epsilon(1e-9));
}

TEST_CASE("a pulse of power on a rectifier: the true lowest voltage at the worst phase of the mains") {
  // 400 W for 0.1 s on 48 V, 0.3 Ω, worked independently with eight phases
  for (const auto& [capacitance, lowest] :
       {std::array{22e-3, 35.38}, std::array{10e-3, 33.19}, std::array{4.7e-3, 27.86}}) {
    const PowerCurve power = lines({{0, 0}, {0.5, 0}, {0.5, 400}, {0.6, 400}, {0.6, 0}, {1, 0}});
    const BusRun run = run_worst_phase(rectifier(48.0, 0.0, 0.3, capacitance), power);
    CAPTURE(capacitance);
    CHECK(run.lowest == Approx(lowest).epsilon(0.012));
    CHECK(run.highest == Approx(48.0).epsilon(1e-3));
  }
  const PowerCurve steady = constant_power(400.0, 0.2);
  const BusRun one = run_worst_phase(rectifier(325.0, 1.8, 1.0, 1e-3, 1), steady);
  const BusRun three = run_worst_phase(rectifier(325.0, 1.8, 1.0, 1e-3, 3), steady);
  CHECK(three.highest - three.lowest < 0.4 * (one.highest - one.lowest));
  CHECK(three.highest - three.lowest <= 0.134 * 325.0);
}

TEST_CASE("closed forms of a bus") {
  CHECK(rest_voltage(48.0, 0.2, 1000.0) == Approx(43.391).epsilon(1e-5));
  CHECK(std::isnan(rest_voltage(48.0, 0.2, 2881.0))); // above V²/4R
  CHECK(constant_current_time(10e-3, 48.0, 30.0, 20.0, 1350.0) == Approx(13.07e-3).epsilon(1e-3));
  CHECK(std::isnan(constant_current_time(10e-3, 30.0, 48.0, 20.0, 1350.0))); // it only falls
  CHECK(constant_current_time(22e-3, 36.0, 48.0, 10.0, 300.0) ==
        Approx(22e-3 / 10.0 * (12.0 + 30.0 * std::log(18.0 / 6.0))));
  CHECK(wire_resistance(10.0, 1.5e-6, 293.15) == Approx(0.229).epsilon(2e-3));
  CHECK(wire_resistance(10.0, 1.5e-6, 343.15) == Approx(0.274).epsilon(2e-3));
  CHECK(transformer_resistance(36.0, 0.1, 10.0, 3.0) == Approx(2.0 * 0.36 / std::numbers::sqrt3));
  CHECK(1.1 * transformer_crest(30.0, 0.1) == Approx(51.3).epsilon(1e-3));
  const double loaded = rest_voltage(48.0, 0.05, 1096.0);
  CHECK(stable_power(loaded, 0.05, 20e-6, 0.2e-3, 0.0) == Approx(1096.0).epsilon(1e-3));
  for (const auto& [esr, siemens] : {std::array{0.01, 0.60}, std::array{0.02, 0.69}, std::array{0.05, 0.98}})
    CHECK(stable_power(48.0, 0.05, 20e-6, 0.2e-3, esr) / (48.0 * 48.0) == Approx(siemens).epsilon(0.01));
}

TEST_CASE("a bus starts or hovers by what its supply gives at the thresholds") {
  BusModel bus = regulated(48.0, 0.05, 10.0, 22e-3);
  const auto start = [&](double on, double watts) {
    const std::array load{ThresholdLoad{on, 20.0, watts}};
    return start_bus(bus, load);
  };
  const BusStart early = start(24.0, 300.0);
  CHECK_FALSE(early.up);
  CHECK(early.load_switches == Approx(285).margin(25)); // 28 times a second for ten seconds
  const BusStart late = start(36.0, 300.0);
  CHECK(late.up);
  CHECK(late.up_at == Approx(0.176).epsilon(0.02));
  // charge to 36 V at 10 A, then against 300 W
  CHECK(late.up_at ==
        Approx(22e-3 * 36.0 / 10.0 + constant_current_time(22e-3, 36.0, 47.6, 10.0, 300.0)).epsilon(0.01));
  bus.supply.short_current = 4.0; // folds back
  CHECK(start(36.0, 300.0).up);
  CHECK(start(36.0, 300.0).up_at == Approx(0.342).epsilon(0.02));
  const std::array held{ThresholdLoad{28.0, 20.0, 300.0}};
  CHECK_FALSE(start_bus(bus, held, 3.0).up);
}

TEST_CASE("a supply that switches off in overload climbs, starts at once, or never does") {
  BusModel bus = regulated(48.0, 0.05, 10.0, 22e-3);
  bus.supply.off_time = 0.5;
  bus.supply.trip_time = 0.05;
  const BusStart climbs = start_bus(bus, {}, 5.0);
  CHECK(climbs.up);
  CHECK(climbs.trips == 2);
  CHECK(climbs.up_at == Approx(1.1).epsilon(0.02));
  const std::array logic{ThresholdLoad{12.0, 10.0, 20.0}};
  CHECK_FALSE(start_bus(bus, logic, 5.0).up);
  bus.supply.trip_time = 0.12;
  const BusStart direct = start_bus(bus, logic, 5.0);
  CHECK(direct.up);
  CHECK(direct.trips == 0);
}

TEST_CASE("a loss of the mains is ridden through as the energy of the capacitors says") {
  const BusModel bus = regulated(320.0, 0.1, 100.0, 2e-3);
  const PowerCurve power = constant_power(500.0, 2.0);
  const BusRun run = run_bus(bus, power);
  double at = -1.0;
  CHECK(ride_through(run, power, 2e-3, 200.0, &at) ==
        Approx(holdup_time(2e-3, run.lowest, 200.0, 500.0)).epsilon(1e-6));
  // a burst: worst just before it
  const PowerCurve burst = lines({{0, 100}, {1, 100}, {1, 2000}, {1.1, 2000}, {1.1, 100}, {2, 100}});
  const BusRun with = run_bus(bus, burst);
  const double found = ride_through(with, burst, 2e-3, 200.0, &at);
  CHECK(found < holdup_time(2e-3, 320.0, 200.0, 2000.0));
  CHECK(found == Approx(holdup_time(2e-3, with.lowest, 200.0, 2000.0)).epsilon(0.03));
  CHECK(at >= 0.999);
  CHECK(at <= 1.1);
  CHECK(ride_through(with, burst, 2e-3, 330.0, &at) == 0.0);
}

TEST_CASE("a loss of the mains at any moment is ridden through as walking through it says") {
  std::mt19937 random(97);
  std::uniform_real_distribution<double> unit(0.0, 1.0);
  for (int round = 0; round < rounds(12); ++round) {
    std::vector<std::array<double, 2>> points{{0.0, 100.0}};
    while (points.size() < 12) { // ramps, jumps, returns
      const double from = points.back()[0];
      points.push_back({from + (unit(random) < 0.3 ? 0.0 : 0.05 + 0.4 * unit(random)),
                        -150.0 + 900.0 * unit(random) * unit(random)});
    }
    if (points.back()[0] == points[points.size() - 2][0]) points.back()[0] += 0.1;
    const PowerCurve power = lines(points);
    const double capacitance = 1e-3 + 4e-3 * unit(random), least = 150.0 + 100.0 * unit(random);
    BusRun run; // seen at some moments
    for (int k = 0; k < 40; ++k)
      run.samples.push_back({power.period() * k / 40.0, 290.0 + 30.0 * unit(random)});
    double at = -1.0;
    const double found = ride_through(run, power, capacitance, least, &at);
    double shortest = HUGE_VAL, worst = -1.0;
    constexpr double step = 2e-5;
    for (const BusSample& s : run.samples) {
      double stored = 0.5 * capacitance * (s.volts * s.volts - least * least);
      for (double t = 0.0; t < std::min(shortest, 2.0 * power.period() - s.time); t += step) {
        stored -= power.at(s.time + t + 0.5 * step) * step;
        if (stored > 0.0) continue;
        shortest = t + step, worst = s.time;
        break;
      }
    }
    INFO("round " << round << ", " << shortest << " s from " << worst);
    if (std::isinf(shortest)) {
      CHECK(std::isinf(found));
      continue;
    }
    CHECK(found == Approx(shortest).margin(2.0 * step + 1e-3 * shortest));
    CHECK(at == Approx(worst).margin(1e-12));
  }
}
