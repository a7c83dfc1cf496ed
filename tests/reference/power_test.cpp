// Power summed over axes, measured and aligned: against numbers worked by an independent program, dense
// sampling, and plain searches.

#include "core/power/alignment.hpp"
#include "core/power/axis_power.hpp"
#include "support/axes.hpp"
#include "support/power_lines.hpp"

#include <catch2/catch.hpp>

#include <algorithm>
#include <numeric>

using namespace fulmox;
using namespace fulmox::testing;

namespace {

struct Three {
  PowerCurve a = axis_a(), b = axis_b(), c = axis_c();
  std::array<const PowerCurve*, 3> all{&a, &b, &c};
};

/// ∫ over a stretch by many small steps of the midpoint rule.
double energy_between(const PowerCurve& curve, double from, double to) {
  constexpr int steps = 20000;
  double sum = 0.0;
  for (int i = 0; i < steps; ++i) sum += curve.at(from + (to - from) * (i + 0.5) / steps);
  return sum * (to - from) / steps;
}

} // namespace

TEST_CASE("the example machine has the powers that were worked independently") {
  const Three three;
  CHECK(mean_power(three.a) == Approx(46.5));
  CHECK(mean_power(three.b) == Approx(22.875));
  CHECK(mean_power(three.c) == Approx(46.75));
  CHECK(drawn_energy(three.a) == Approx(115.59).epsilon(1e-4));
  CHECK(returned_energy(three.c) == Approx(64.563).epsilon(1e-4));
  CHECK(greatest_power(three.a).watts == Approx(630.0));
  CHECK(greatest_power(three.a).time == Approx(0.15));

  const PowerCurve sum = sum_of(three.all);
  CHECK(mean_power(sum) == Approx(116.125));
  CHECK(drawn_energy(sum) == Approx(298.98).epsilon(1e-4));
  CHECK(returned_energy(sum) == Approx(66.727).epsilon(1e-4));
  CHECK(drawn_energy(sum) - returned_energy(sum) == Approx(232.25));
  CHECK(greatest_power(sum).watts == Approx(1350.0));
  CHECK(least_power(sum).watts < -300.0);
  CHECK(rms_power(sum) == Approx(296.97).epsilon(1e-4));
  CHECK(percentile(sum, 0.5) == Approx(75.0).epsilon(1e-4));
  CHECK(percentile(sum, 0.95) == Approx(720.0).epsilon(1e-4));
  CHECK(percentile(sum, 0.99) == Approx(1098.0).epsilon(1e-4));
  CHECK(greatest_window(sum, 0.01).watts == Approx(1287.0).epsilon(1e-4));
  CHECK(greatest_window(sum, 0.1).watts == Approx(1007.5).epsilon(1e-4));
  CHECK(greatest_window(sum, 1.0).watts == Approx(260.25).epsilon(1e-4));
  CHECK(reflected_energy(sum).greatest == Approx(53.236).epsilon(1e-4));
  CHECK(reflected_energy(three.a).greatest == Approx(22.588).epsilon(1e-4));
  CHECK(reflected_energy(three.c).greatest == Approx(64.563).epsilon(1e-4));
}

TEST_CASE("the worst alignment is a sum, as a search finds it") {
  const Three three;
  CHECK(worst_peak(three.all) == Approx(1550.0));
  CHECK(worst_window(three.all, 0.01) == Approx(1487.0).epsilon(1e-4));
  CHECK(worst_window(three.all, 0.1) == Approx(1032.5).epsilon(1e-4));
  CHECK(worst_window(three.all, 1.0) == Approx(275.5).epsilon(1e-4));
  CHECK(worst_return(three.all) == Approx(91.99).epsilon(1e-3));
  double met = 0.0;
  for (double b = 0.0; b < 2.0; b += 0.05)
    for (double c = 0.0; c < 2.0; c += 0.05) {
      const PowerCurve later_b = delayed(three.b, b), later_c = delayed(three.c, c);
      const double peak = greatest_power(sum_of(std::array{&three.a, &later_b, &later_c})).watts;
      met = std::max(met, peak);
      CHECK(peak <= worst_peak(three.all) + 1e-9);
    }
  CHECK(met == Approx(1550.0)); // 0.15 − 0.1 s is on that net
}

TEST_CASE("measures of random powers agree with dense sampling") {
  std::mt19937 engine(20);
  for (int round = 0; round < 60; ++round) {
    const double period = 0.5 + 0.01 * static_cast<double>(engine() % 300);
    const PowerCurve power = random_power(engine, period, 3 + engine() % 12);
    CAPTURE(round, period);
    CHECK(mean_power(power) * period == Approx(energy_between(power, 0.0, period)).margin(0.2));
    CHECK(drawn_energy(power) - returned_energy(power) == Approx(mean_power(power) * period).margin(1e-9));
    double most = -1e9;
    for (int i = 0; i < 4000; ++i) most = std::max(most, power.at(period * i / 4000.0));
    CHECK(greatest_power(power).watts >= most - 1e-9);
    CHECK(greatest_power(power).watts <= most + 120.0); // between two looks at a jump
  }
}

TEST_CASE("windows are means of the power, the greatest of all") {
  std::mt19937 engine(21);
  for (int round = 0; round < rounds(40); ++round) {
    const double period = 1.0;
    const PowerCurve power = random_power(engine, period, 2 + engine() % 9);
    for (const double length : {0.03, 0.2, 0.77, 1.0, 2.4}) {
      const PowerAt found = greatest_window(power, length);
      CAPTURE(round, length, found.time);
      CHECK(found.watts ==
            Approx(energy_between(power, found.time - length, found.time) / length).margin(0.3));
      for (int i = 0; i < 40; ++i) {
        const double end = period * i / 40.0;
        CHECK(energy_between(power, end - length, end) / length <= found.watts + 0.3);
      }
      CHECK(found.watts <= greatest_power(power).watts + 1e-9);
    }
    CHECK(greatest_window(power, period).watts == Approx(mean_power(power)));
    CHECK(greatest_window(power, 1e-6).watts == Approx(greatest_power(power).watts).epsilon(1e-3));
  }
}

TEST_CASE("the share of time at most a power counts a constant stretch whole") {
  const PowerCurve steps = lines({{0, 10}, {1, 10}, {1, 50}, {2, 50}, {2, 20}, {4, 20}});
  CHECK(share_at_most(steps, 9.9) == 0.0);
  CHECK(share_at_most(steps, 10.0) == Approx(0.25));
  CHECK(share_at_most(steps, 20.0) == Approx(0.75));
  CHECK(percentile(steps, 0.25) == Approx(10.0));
  CHECK(percentile(steps, 0.26) == Approx(20.0).epsilon(1e-5));
  CHECK(percentile(steps, 1.0) == Approx(50.0).epsilon(1e-5));
}

TEST_CASE("a resistor feels its power through its own time constant") {
  // 2 kW for 1 s in 30 s, 40 s: worked by an independent program
  const PowerCurve pulse = lines({{0, 2000}, {1, 2000}, {1, 0}, {30, 0}});
  CHECK(mean_power(pulse) == Approx(66.67).epsilon(1e-3));
  CHECK(greatest_heat(pulse, 40.0).watts == Approx(93.6).epsilon(1e-3));
  CHECK(greatest_heat(pulse, 40.0).time == Approx(1.0));
  // the steady state in closed form: u1 = P(1 − a)/(1 − ab), a over the pulse, b over the rest
  for (const double tau : {0.3, 2.0, 15.0, 500.0}) {
    const double a = std::exp(-1.0 / tau), b = std::exp(-29.0 / tau);
    CHECK(greatest_heat(pulse, tau).watts == Approx(2000.0 * (1.0 - a) / (1.0 - a * b)));
  }
  CHECK(greatest_heat(pulse, 1e7).watts == Approx(mean_power(pulse)).epsilon(1e-4));
  CHECK(greatest_heat(pulse, 1e-4).watts == Approx(2000.0));
}

TEST_CASE("a sum does not depend on its order, on whole periods, or on where a machine is cut") {
  std::mt19937 engine(22);
  for (int round = 0; round < 20; ++round) {
    std::vector<PowerCurve> curves;
    for (int i = 0; i < 4; ++i) curves.push_back(random_power(engine, 1.5, 2 + engine() % 6));
    const PowerCurve all =
        sum_of(std::array<const PowerCurve*, 4>{&curves[0], &curves[1], &curves[2], &curves[3]});
    const PowerCurve other =
        sum_of(std::array<const PowerCurve*, 4>{&curves[3], &curves[1], &curves[0], &curves[2]});
    const PowerCurve one = sum_of(std::array<const PowerCurve*, 2>{&curves[0], &curves[1]});
    const PowerCurve two = sum_of(std::array<const PowerCurve*, 2>{&curves[2], &curves[3]});
    const PowerCurve merged = sum_of(std::array<const PowerCurve*, 2>{&one, &two});
    const PowerCurve turned = delayed(all, 3.0);
    for (const PowerCurve* summed : {&other, &merged, &turned}) {
      CHECK(greatest_power(*summed).watts == Approx(greatest_power(all).watts).epsilon(1e-12));
      CHECK(mean_power(*summed) == Approx(mean_power(all)).epsilon(1e-12));
      CHECK(drawn_energy(*summed) == Approx(drawn_energy(all)).epsilon(1e-10));
    }
    const PowerCurve later = delayed(all, 0.4321);
    CHECK(later.at(0.4321 + 0.2) == Approx(all.at(0.2)).margin(1e-9));
    CHECK(returned_energy(later) == Approx(returned_energy(all)).margin(1e-9));
    CHECK(greatest_window(later, 0.3).watts == Approx(greatest_window(all, 0.3).watts));
  }
}

TEST_CASE("an axis's power holds the energies and the peak of its evaluation") {
  RandomAxes axes(31);
  int electric = 0;
  for (int i = 0; i < 40; ++i) {
    Axis axis = axes.next();
    const Evaluation e = evaluated(axis);
    const PowerCurve power = power_of(*e.model, e.course);
    const Sums sums = e.course.sums();
    CAPTURE(i);
    const double scale = std::max(1.0, e.demand.integrals.bus_drawn);
    CHECK(mean_power(power) * power.period() == Approx(sums.bus_work).margin(1e-5 * scale));
    CHECK(drawn_energy(power) == Approx(e.demand.integrals.bus_drawn).margin(2e-5 * scale));
    CHECK(returned_energy(power) == Approx(e.demand.integrals.bus_returned).margin(2e-5 * scale));
    if (!e.model->motor->electric()) continue;
    ++electric;
    CHECK(greatest_power(power).watts == Approx(e.demand.peak_power).epsilon(1e-5));
  }
  for (const Axis& axis : demo().axes) {
    const Evaluation e = evaluated(axis);
    const PowerCurve power = power_of(*e.model, e.course);
    CAPTURE(axis.name);
    CHECK(greatest_power(power).watts == Approx(e.demand.peak_power).epsilon(1e-5));
    CHECK(mean_power(power) * power.period() == Approx(e.course.sums().bus_work).epsilon(1e-5));
    CHECK(power.period() == e.model->load->cycle.duration);
    ++electric;
  }
  CHECK(electric > 6);
}

namespace {

StaggerAsked example_question() {
  StaggerAsked asked;
  asked.powers = {axis_a(), axis_b(), axis_c()};
  const std::array<double, 3> moving{0.5, 0.3, 1.2};
  for (std::size_t i = 0; i < 3; ++i) {
    std::vector<PowerPiece>& pieces = asked.powers[i].pieces;
    pieces.pop_back(); // it waits then
    REQUIRE(pieces.back().to == Approx(moving[i]));
    Block block;
    block.name = std::string(1, static_cast<char>('A' + i));
    block.axis = i;
    block.ends = {pieces.back().to};
    asked.blocks.push_back(block);
  }
  asked.waiting = {20.0, 15.0, 40.0};
  asked.base = 75.0;
  asked.pace.cycle = 2.0;
  return asked;
}

PowerCurve as_found(const Staggered& found) {
  const PowerCurve a = delayed(axis_a(), found.offsets[0]), b = delayed(axis_b(), found.offsets[1]),
                   c = delayed(axis_c(), found.offsets[2]);
  return sum_of(std::array{&a, &b, &c});
}

} // namespace

TEST_CASE(
    "starts with the least peak: to the bound when returns count as nothing, below it when they count") {
  StaggerAsked asked = example_question();
  const auto honest = stagger(asked);
  REQUIRE(honest);
  CHECK(honest->before == Approx(1350.0).epsilon(0.02));
  CHECK(honest->before >= 1350.0);
  CHECK(honest->peak == Approx(630.0).epsilon(1e-3)); // one axis's own peak: no offsets do better
  CHECK(honest->bound == Approx(630.0));
  CHECK(honest->with_jitter >= honest->peak);
  CHECK(greatest_power(as_found(*honest)).watts <= honest->peak + 1e-9);

  asked.count_on_returns = true;
  const auto counting = stagger(asked);
  REQUIRE(counting);
  CHECK(counting->peak == Approx(480.0).epsilon(0.01)); // braking of C laid under the peak of A
  CHECK(counting->with_jitter > counting->peak + 50.0);
  CHECK(greatest_power(as_found(*counting)).watts <= counting->peak + 1e-9);
  CHECK(counting->bound <= counting->peak);
}

TEST_CASE("worst, present and least peak stand in that order for any machine") {
  std::mt19937 engine(23);
  for (int round = 0; round < 15; ++round) {
    StaggerAsked asked;
    std::vector<PowerCurve> whole;
    for (std::size_t i = 0; i < 3; ++i) {
      const double length = 0.2 + 0.05 * static_cast<double>(engine() % 8);
      PowerCurve power = random_power(engine, length, 3);
      Block block;
      block.name = std::to_string(i);
      block.axis = i;
      block.ends = {length};
      block.offset = 0.05 * static_cast<double>(engine() % 5);
      asked.blocks.push_back(block);
      asked.waiting.push_back(5.0);
      asked.powers.push_back(power);
      const std::array rest{5.0};
      power.pieces.push_back({length, 1.0, Series::through(rest)});
      whole.push_back(power);
    }
    asked.base = 15.0;
    asked.pace.cycle = 1.0;
    asked.count_on_returns = true;
    const auto found = stagger(asked);
    REQUIRE(found);
    const double worst = worst_peak(std::array<const PowerCurve*, 3>{&whole[0], &whole[1], &whole[2]});
    CHECK(found->peak <= found->before + 1e-9);
    CHECK(found->bound <= found->peak + 1e-9);
    CHECK(found->before <= worst + 1e-9);
    std::vector<PowerCurve> moved;
    for (std::size_t i = 0; i < 3; ++i) moved.push_back(delayed(whole[i], found->offsets[i]));
    const double exact =
        greatest_power(sum_of(std::array<const PowerCurve*, 3>{&moved[0], &moved[1], &moved[2]})).watts;
    CHECK(exact <= found->peak + 1e-9); // greatest values of every tick: not below the truth
  }
}
