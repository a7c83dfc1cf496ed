// Single numbers worked out by hand from closed forms, each so chosen that a wrong sign, factor or branch at
// its place shows. Sources are named where they are more than mechanics.

#include "core/demand/course.hpp"
#include "core/study/law_study.hpp"
#include "core/study/ratio_study.hpp"
#include "support/axes.hpp"

#include <boost/math/quadrature/gauss.hpp>
#include <catch2/catch.hpp>

#include <algorithm>
#include <cmath>

using namespace fulmox;
using namespace fulmox::testing;
using Catch::Contains;

namespace {

constexpr double load_inertia = 9e-3, rotor = 1e-3, friction = 0.1; // kg·m², N·m
constexpr double kt = 0.3, resistance = 1.0, inductance = 4e-3;     // N·m/A rms, line-line
constexpr int pole_pairs = 4;
// T = 3/2·K·i with i the peak of the phase current, √2 times the rms
const double k = kt / (1.5 * std::sqrt(2.0));

/// An inertia with friction straight on a motor without iron loss; 40 rad and back, no dwell.
Axis bare_axis(const std::string& accel, const std::string& decel) {
  Axis axis = axis_on("general");
  axis["load"].type("inertia", "9e-3 kg.m2");
  axis["load"].type("friction_torque", "0.1 N.m");
  Section& motor = axis["motor"];
  motor.type("inertia", "1e-3 kg.m2");
  motor.type("kt", "0.3 N.m/A");
  motor.type("kt_per", "rms");
  motor.type("resistance", "1 Ohm");
  motor.type("inductance", "4 mH");
  motor.type("winding_as", "terminal");
  motor.type("pole_pairs", "4");
  motor.type("max_speed", "6000 rpm");
  axis["surroundings"].type("bus", "48 V");
  axis["drive"].type("voltage_use", "0.95");
  for (const char* distance : {"40 rad", "-40 rad"})
    add_segment(axis, "move",
                {{"distance", distance},
                 {"time", "1 s"},
                 {"acceleration_share", accel},
                 {"deceleration_share", decel}});
  return axis;
}

/// Top speed and torques of it.
struct Bare {
  Bare(double accel, double decel, double ratio = 1.0)
      : top(40.0 / (1.0 - 0.5 * (accel + decel)) * ratio),
        driving((load_inertia / ratio / ratio + rotor) * top / accel + friction / ratio),
        braking((load_inertia / ratio / ratio + rotor) * top / decel - friction / ratio) {}
  double top, driving, braking; ///< rad/s, N·m
};

} // namespace

TEST_CASE("voltage at the worst moment: phasors of one phase of the wye, driving and braking") {
  // (R·i ± K·ω)² + (p·ω·L·i)², R and L of one phase: half of what two leads measure
  const auto volts = [](double torque, double speed, double sense) {
    const double i = torque / (1.5 * k);
    return std::hypot(0.5 * resistance * i + sense * k * speed, pole_pairs * speed * 0.5 * inductance * i);
  };
  const Bare even(0.3, 0.3);
  CHECK(limit(evaluated(bare_axis("0.3", "0.3")), "drive.voltage").demand ==
        Approx(volts(even.driving, even.top, 1.0)).epsilon(1e-9));
  // braking six times as hard: its reactance takes more than driving, though its resistance helps
  const Bare hard(0.6, 0.1);
  REQUIRE(volts(hard.braking, hard.top, -1.0) > volts(hard.driving, hard.top, 1.0));
  CHECK(limit(evaluated(bare_axis("0.6", "0.1")), "drive.voltage").demand ==
        Approx(volts(hard.braking, hard.top, -1.0)).epsilon(1e-9));
}

TEST_CASE("a warm winding takes more voltage driving, a cold one helps less braking") {
  Axis axis = bare_axis("0.3", "0.3");
  axis["motor"].type("winding_limit", "145 degC");
  const Bare even(0.3, 0.3);
  const double i = even.driving / (1.5 * k), warm = 1.0 + 0.00393 * (145.0 - 20.0); // IEC 60028
  CHECK(limit(evaluated(axis), "drive.voltage").demand ==
        Approx(std::hypot(0.5 * resistance * warm * i + k * even.top,
                          pole_pairs * even.top * 0.5 * inductance * i))
            .epsilon(1e-9));
}

TEST_CASE("peak torque left by the bus at its lowest, solved for the current") {
  Axis axis = bare_axis("0.3", "0.3");
  axis["motor"].type("peak_curve", "0 rpm: 50 N.m; 6000 rpm: 50 N.m");
  axis["drive"].type("peak_current", "100 A");
  axis["motor"].type("peak_current", "100 A");
  axis["surroundings"].type("bus_low", "36 V");
  const Bare even(0.3, 0.3);
  const auto torque_at = [&](double bus) { // (R·i + K·ω)² + (x·i)² = V²
    const double v = 0.95 * bus / std::sqrt(3.0), r = 0.5 * resistance;
    const double x = pole_pairs * even.top * 0.5 * inductance, a = r * r + x * x, b = r * k * even.top;
    const double c = k * k * even.top * even.top - v * v;
    return 1.5 * k * (std::sqrt(b * b - a * c) - b) / a;
  };
  const Evaluation e = evaluated(axis);
  CHECK(limit(e, "motor.peak").capacity == Approx(torque_at(48.0)).epsilon(1e-9));
  CHECK(limit(e, "motor.peak_low").capacity == Approx(torque_at(36.0)).epsilon(1e-9));
  CHECK(limit(e, "motor.peak_low").used == Approx(even.driving / torque_at(36.0)).epsilon(1e-9));
}

TEST_CASE("the plane's curves: least of catalogue, current and voltage at every speed") {
  Axis axis = bare_axis("0.3", "0.3");
  axis["motor"].type("peak_curve", "0 rad/s: 8 N.m; 100 rad/s: 8 N.m; 200 rad/s: 1 N.m");
  axis["motor"].type("continuous_curve", "0 rad/s: 3 N.m; 200 rad/s: 2 N.m");
  axis["motor"].type("peak_current", "25 A");
  axis["drive"].type("peak_current", "25 A");
  axis["surroundings"].type("ambient", "20 degC");
  axis["surroundings"].type("bus_low", "40 V");
  const auto least = [&](double speed, double bus) {
    const double i = std::sqrt(2.0) * 25.0, x = pole_pairs * speed * 0.5 * inductance, r = 0.5 * resistance;
    const double v = 0.95 * bus / std::sqrt(3.0), a = r * r + x * x, b = r * k * speed,
                 c = std::pow(k * speed, 2) - v * v;
    const double by_voltage = c > 0.0 ? 0.0 : 1.5 * k * std::min(i, (std::sqrt(b * b - a * c) - b) / a);
    return std::min(by_voltage, speed <= 100.0 ? 8.0 : 8.0 - 0.07 * (speed - 100.0));
  };
  const auto envelope = plots_of(evaluated(axis)).envelope;
  REQUIRE(envelope.size() > 50);
  bool by_current = false;
  for (const EnvelopePoint& point : envelope) {
    CHECK(point.peak == Approx(least(point.speed, 48.0)).epsilon(1e-9).margin(1e-12));
    CHECK(point.peak_low == Approx(least(point.speed, 40.0)).epsilon(1e-9).margin(1e-12));
    CHECK(point.continuous == Approx(std::min(3.0 - 0.005 * point.speed, point.peak)).margin(1e-12));
    by_current = by_current || std::abs(point.peak - 25.0 * kt) < 1e-9;
  }
  CHECK(by_current); // and elsewhere by voltage
  CHECK(envelope.back().speed == Approx(200.0));
}

TEST_CASE("braking is judged by the curve's standstill value: voltage does not stand in its way") {
  Axis axis = bare_axis("0.4", "0.2");
  for (const char* field : {"resistance", "inductance", "pole_pairs"}) axis["motor"].type(field, "");
  axis["motor"].type("peak_curve", "0 rad/s: 10 N.m; 100 rad/s: 2 N.m");
  const Bare hard(0.4, 0.2);
  const double driving = hard.driving / (10.0 - 0.08 * hard.top), braking = hard.braking / 10.0;
  REQUIRE(hard.braking / (10.0 - 0.08 * hard.top) > driving); // what the curve would say
  CHECK(limit(evaluated(axis), "motor.peak").used == Approx(std::max(driving, braking)).epsilon(1e-9));
}

TEST_CASE(
    "the motor's own drag takes from the torque of a current when driving and adds to it when braking") {
  Axis axis = bare_axis("0.3", "0.3");
  axis["motor"].type("peak_curve", "0 rpm: 50 N.m; 6000 rpm: 50 N.m");
  axis["motor"].type("hysteresis", "0.2 N.m");
  axis["motor"].type("peak_current", "10 A");
  axis["drive"].type("peak_current", "10 A");
  axis["surroundings"].type("bus", "400 V");
  CHECK(limit(evaluated(axis), "motor.peak").capacity == Approx(10.0 * kt - 0.2).epsilon(1e-9));
  axis = bare_axis("0.6", "0.1");
  axis["motor"].type("peak_curve", "0 rpm: 50 N.m; 6000 rpm: 50 N.m");
  axis["motor"].type("hysteresis", "0.2 N.m");
  axis["motor"].type("peak_current", "10 A");
  axis["drive"].type("peak_current", "10 A");
  axis["surroundings"].type("bus", "400 V");
  CHECK(limit(evaluated(axis), "motor.peak").capacity == Approx(10.0 * kt + 0.2).epsilon(1e-9));
  // and the current of a torque: driving against it
  const Bare even(0.3, 0.3);
  axis = bare_axis("0.3", "0.3");
  axis["motor"].type("hysteresis", "0.2 N.m");
  CHECK(value(evaluated(axis), "drive.peak_current") == Approx((even.driving + 0.2) / kt).epsilon(1e-9));
}

TEST_CASE("gearhead: its mean input speed, starts with repeats, life by any exponent") {
  Axis axis = bare_axis("0.3", "0.3");
  Section& gear = axis["gearhead"];
  gear.type("ratio", "5");
  gear.type("efficiency", "1");
  gear.type("mean_speed", "3000 rpm");
  gear.type("max_speed", "6000 rpm");
  gear.type("peak_torque", "20 N.m");
  gear.type("nominal_torque", "10 N.m");
  const Evaluation e = evaluated(axis);
  CHECK(limit(e, "gear.speed_mean").demand == Approx(5.0 * 40.0).epsilon(1e-9)); // 40 rad a second
  CHECK(limit(e, "gear.speed_max").demand == Approx(5.0 * Bare(0.3, 0.3).top).epsilon(1e-9));
  // two starts in 2 s make 3600 an hour: factor 1.8; the head sees the load alone
  const double ramp = load_inertia * Bare(0.3, 0.3).top / 0.3;
  const double shock = limit(e, "gear.peak").demand / (ramp + friction);
  Axis group = axis_on("general");
  group = axis;
  group.cycle.clear();
  add_segment(group, "repeat", {{"count", "10"}});
  for (const Section& move : axis.cycle) group.cycle.push_back(move);
  add_segment(group, "end", {});
  CHECK(limit(evaluated(group), "gear.peak").demand == Approx(shock * (ramp + friction)).epsilon(1e-9));
  // ∫|T|^k·ω dt over ramp, run and ramp: the mean speed of a ramp is half the top speed
  for (const char* exponent : {"3", "10", "3.3333333333333335"}) {
    Section rules = house_rules();
    rules.type("gear_exponent", exponent);
    const double power = std::strtod(exponent, nullptr), top = Bare(0.3, 0.3).top;
    const double turns = 0.3 * 0.5 * top + 0.4 * top + 0.3 * 0.5 * top;
    const double sum = 0.15 * top * (std::pow(ramp + friction, power) + std::pow(ramp - friction, power)) +
                       0.4 * top * std::pow(friction, power);
    const auto judged = evaluate(axis, rules);
    REQUIRE(judged);
    CHECK(limit(*judged, "gear.equivalent").demand ==
          Approx(std::pow(sum / turns, 1.0 / power)).epsilon(1e-9));
  }
}

TEST_CASE("an emergency stop through the head: the share of the torque that slows the load") {
  Axis axis = bare_axis("0.3", "0.3");
  Section& gear = axis["gearhead"];
  gear.type("ratio", "5");
  gear.type("efficiency", "0.9");
  gear.type("back_efficiency", "0.8");
  gear.type("emergency_torque", "30 N.m");
  axis["motor"].type("peak_current", "10 A");
  // 10 A make 3 N·m, 15 N·m behind 5:1 over 0.8; the load takes 9e-3 of 9e-3 + 25·1e-3
  const Limit stop = limit(evaluated(axis), "gear.estop");
  CHECK(stop.demand == Approx(3.0 * 5.0 / 0.8 * 9.0 / 34.0).epsilon(1e-9));
  CHECK(stop.capacity == 30.0);
  gear.type("emergency_torque", "");
  for (const Limit& each : evaluated(axis).limits) CHECK(each.id != "gear.estop");
}

TEST_CASE("breakaway goes through every stage's efficiency") {
  Axis axis = bare_axis("0.3", "0.3");
  Section pair(*find_kind(axis, *find_list("stages"), "gear_pair"));
  pair.type("driving", "20");
  pair.type("driven", "40");
  pair.type("efficiency", "0.8");
  axis.stages.push_back(pair);
  number_sections(axis);
  CHECK(value(evaluated(axis), "breakaway.torque") == Approx(0.1 / (2.0 * 0.8)).epsilon(1e-12));
}

TEST_CASE("a crank's load inertia: slider, rod and payload at the steepest place") {
  Axis axis = axis_on("crank");
  axis["mechanism"].type("radius", "40 mm");
  axis["mechanism"].type("rod", "140 mm");
  axis["mechanism"].type("rod_mass", "1 kg");
  axis["load"].type("moved_mass", "2 kg");
  add_segment(axis, "move", {{"distance", "360 deg"}, {"time", "1 s"}, {"payload", "3 kg"}});
  double steepest = 0.0; // dx/dφ, searched on a fine grid
  for (int i = 0; i < 400000; ++i) {
    const double s = std::sin(i * M_PI / 400000.0), c = std::cos(i * M_PI / 400000.0);
    steepest = std::max(steepest, 0.04 * s + 0.0016 * s * c / std::sqrt(0.0196 - 0.0016 * s * s));
  }
  CHECK(value(evaluated(axis), "inertia.load") ==
        Approx((2.0 + 1.0 + 3.0) * steepest * steepest).epsilon(1e-8));
  axis["mechanism"].type("rod", "40.02 mm"); // 1.0005 times the crank
  const auto refused = evaluate(axis, house_rules());
  REQUIRE_FALSE(refused);
  CHECK(refused.problem().where == "mechanism.rod");
}

TEST_CASE("the rope of a counterweight goes slack when the load outruns its fall, upwards only") {
  Axis axis = axis_on("drum");
  axis["load"].type("moved_mass", "10 kg");
  axis["load"].type("counterweight", "8 kg");
  axis["load"].type("angle", "90 deg");
  const auto cycle = [&](const char* start_up, const char* stop_up) {
    axis.cycle.clear();
    add_segment(axis, "move",
                {{"distance", "400 mm"},
                 {"time", "0.5 s"},
                 {"acceleration_share", start_up},
                 {"deceleration_share", stop_up}});
    // down, starting hard and stopping softly: that the counterweight goes up with
    add_segment(axis, "move",
                {{"distance", "-400 mm"},
                 {"time", "0.5 s"},
                 {"acceleration_share", "0.2"},
                 {"deceleration_share", "0.7"}});
    return evaluate(axis, house_rules());
  };
  // 1.45 m/s in 0.1 s are more than g, in 0.35 s less
  CHECK(cycle("0.7", "0.2"));
  const auto slack = cycle("0.2", "0.7");
  REQUIRE_FALSE(slack);
  CHECK(slack.problem().where == "load.counterweight");
}

TEST_CASE("a speed that jumps from the cycle's end to its start is refused") {
  Axis axis = axis_on("table");
  axis["load"].type("inertia", "0.01 kg.m2");
  axis["load"].type("friction_torque", "0.1 N.m");
  add_segment(axis, "run", {{"speed", "2 rad/s"}, {"distance", ""}, {"time", "1 s"}});
  CHECK(evaluate(axis, house_rules())); // turns for ever
  add_segment(axis, "move", {{"distance", "1 rad"}, {"time", "1 s"}, {"end_speed", "0 rad/s"}});
  const auto refused = evaluate(axis, house_rules());
  REQUIRE_FALSE(refused);
  CHECK(refused.problem().where == "cycle[0]");
}

TEST_CASE(
    "what a bus must swallow: three axes, a pause that does not empty it, a return over the cycle's end") {
  // power in straight lines through (s, W) over 2 s; drawn and returned are integrals by hand, the reflected
  // energy is ∫ of what comes back less what is drawn in between, worked out beside this program
  struct Corner {
    double time, power;
  };
  const auto swallowed = [](const std::vector<Corner>& line) {
    std::vector<double> gains, ends;
    const auto add = [&](double t0, double p0, double t1, double p1) {
      gains.push_back(-0.5 * (p0 + p1) * (t1 - t0));
      ends.push_back(t1);
    };
    for (std::size_t i = 1; i < line.size(); ++i) {
      const auto [t0, p0] = line[i - 1];
      const auto [t1, p1] = line[i];
      if (p0 * p1 < 0.0) {
        const double zero = t0 + (t1 - t0) * p0 / (p0 - p1);
        add(t0, p0, zero, 0.0);
        add(zero, 0.0, t1, p1);
      } else if (t1 > t0) {
        add(t0, p0, t1, p1);
      }
    }
    return reflected(gains, ends);
  };
  const std::vector<Corner> a{{0, 30}, {.15, 630}, {.15, 180}, {.35, 180}, {.35, -320}, {.5, 20}, {2, 20}};
  const std::vector<Corner> b{{0, 20}, {.1, 420}, {.1, 100}, {.2, 100}, {.2, -250}, {.3, 15}, {2, 15}};
  const std::vector<Corner> c{{0, 40},   {.1, 500},  {.1, 350},   {.3, 350},   {.3, 200}, {.4, 40}, {.8, 40},
                              {.9, -50}, {.9, -220}, {1.1, -220}, {1.1, -420}, {1.2, 40}, {2, 40}};
  CHECK(swallowed(a).greatest == Approx(22.588).epsilon(1e-4));
  CHECK(swallowed(b).greatest == Approx(11.792).epsilon(1e-4));
  CHECK(swallowed(c).greatest == Approx(64.563).epsilon(1e-4));
  // 10 J back, 2 J drawn, 10 J back: 18 J, and the same when the cycle starts between the two
  CHECK(reflected(std::vector{-30.0, 10.0, -2.0, 10.0}, std::vector{1.0, 2.0, 3.0, 4.0}).greatest == 18.0);
  CHECK(reflected(std::vector{10.0, -30.0, 10.0, -2.0}, std::vector{1.0, 2.0, 3.0, 4.0}).greatest == 18.0);
  CHECK(std::isinf(reflected(std::vector{10.0, -9.0}, std::vector{1.0, 2.0}).greatest));
  CHECK(reflected(std::vector{-1.0, -9.0}, std::vector{1.0, 2.0}).greatest == 0.0);
}

TEST_CASE("bus rise starts at the highest bus and takes all that is reflected") {
  Axis axis = bare_axis("0.6", "0.1");
  axis["surroundings"].type("bus_high", "52 V");
  axis["motor"].type("resistance", "0.1 Ohm");
  choose_part(axis, "drive", library().of("drive").front());
  axis["drive"].type("standby", "0 W");
  axis["drive"].type("device_drop", "0 V");
  axis["drive"].type("overvoltage", "90 V");
  axis["drive"].type("capacitance", "1 mF");
  // each stop gives T·ω less 1.5·I²·R while ω falls evenly: a triangle; the next move draws more than that
  const Bare hard(0.6, 0.1);
  const double copper = 1.5 * std::pow(hard.braking / kt, 2) * 0.1, most = hard.braking * hard.top - copper;
  const double energy = 0.5 * most * most / (hard.braking * hard.top / 0.1);
  CHECK(limit(evaluated(axis), "supply.overvoltage").demand ==
        Approx(std::sqrt(52.0 * 52.0 + 2.0 * energy / 1e-3)).epsilon(1e-9));
}

TEST_CASE("inertia match: the load at the head's output over rotor and head together") {
  Axis axis = bare_axis("0.3", "0.3");
  axis["gearhead"].type("ratio", "2");
  axis["gearhead"].type("inertia", "2e-3 kg.m2");
  const auto sweep = sweep_ratio(axis, 0.5, 20.0, 20);
  REQUIRE(sweep);
  CHECK(sweep->inertia_match == Approx(std::sqrt(load_inertia / (rotor + 2e-3))).epsilon(1e-9));
}

TEST_CASE("the marks of the compared laws are on the least of each") {
  Axis axis = bare_axis("0.3", "0.3");
  for (const char* share : {"acceleration_share", "deceleration_share"}) axis.cycle[1].type(share, "");
  axis.cycle[1].type("law",
                     "4567"); // starts and ends without a jump, so the jerk of the first move is its own
  const auto laws = compare_laws(axis, 0);
  REQUIRE(laws);
  const auto least = [&](double QuickNumbers::*what) {
    return std::min_element(
               laws->begin(), laws->end(),
               [&](const LawChoice& x, const LawChoice& y) { return x.numbers.*what < y.numbers.*what; })
               ->numbers.*
           what;
  };
  int marks = 0;
  for (const LawChoice& choice : *laws) {
    if (choice.least_jerk) CHECK(choice.numbers.peak_jerk == Approx(least(&QuickNumbers::peak_jerk)));
    if (choice.least_rms) CHECK(choice.numbers.rms_torque == Approx(least(&QuickNumbers::rms_torque)));
    if (choice.least_peak) CHECK(choice.numbers.peak_torque == Approx(least(&QuickNumbers::peak_torque)));
    marks += choice.least_jerk + choice.least_rms + choice.least_peak;
  }
  CHECK(marks == 3);
}
