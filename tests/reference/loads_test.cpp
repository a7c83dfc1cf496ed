// Load pieces, mechanisms and stages against handbooks, worked examples and plain numerics.

#include "core/load/piece.hpp"
#include "core/mechanism/crank.hpp"
#include "core/mechanism/screw_formulas.hpp"
#include "core/stage/stage.hpp"
#include "core/study/ratio_study.hpp"
#include "support/axes.hpp"

#include <boost/math/quadrature/gauss_kronrod.hpp>
#include <catch2/catch.hpp>

#include <cmath>
#include <functional>

using namespace fulmox;
using namespace fulmox::testing;
using Catch::Contains;

namespace {

constexpr double g = 9.80665;

LoadBody built(std::string_view kind,
               std::initializer_list<std::pair<std::string_view, std::string>> values) {
  Section piece(find_piece_spec(kind)->section);
  for (const auto& [field, text] : values) piece.type(field, text);
  Recorder silent(false);
  const std::vector<Section> pieces{piece};
  return put_together(pieces, silent);
}

/// Mass and inertia about z of a body of density 1000 by counting small cubes; `inside` in metres.
std::pair<double, double> counted(double half, const std::function<bool(double, double, double)>& inside) {
  constexpr int n = 160;
  const double h = 2.0 * half / n;
  double mass = 0.0, inertia = 0.0;
  for (int i = 0; i < n; ++i)
    for (int j = 0; j < n; ++j)
      for (int k = 0; k < n; ++k) {
        const double x = -half + (i + 0.5) * h, y = -half + (j + 0.5) * h, z = -half + (k + 0.5) * h;
        if (!inside(x, y, z)) continue;
        mass += 1000.0 * h * h * h;
        inertia += 1000.0 * h * h * h * (x * x + y * y);
      }
  return {mass, inertia};
}

} // namespace

TEST_CASE("pieces weigh and turn like the sum of their smallest parts") {
  const auto check = [](const LoadBody& body, std::pair<double, double> sum, double within) {
    CHECK(body.mass == Approx(sum.first).epsilon(within));
    CHECK(body.inertia == Approx(sum.second).epsilon(within));
  };
  constexpr double close = 0.01; // the small cubes round off edges
  check(built("cylinder", {{"diameter", "160 mm"}, {"length", "100 mm"}, {"density", "1000 kg/m3"}}),
        counted(0.1,
                [](double x, double y, double z) { return std::hypot(x, y) < 0.08 && std::abs(z) < 0.05; }),
        close);
  check(built("cylinder",
              {{"diameter", "60 mm"}, {"length", "180 mm"}, {"density", "1000 kg/m3"}, {"lies", "across"}}),
        counted(0.1,
                [](double x, double y, double z) { return std::hypot(y, z) < 0.03 && std::abs(x) < 0.09; }),
        close);
  check(built("hollow_cylinder",
              {{"outer", "180 mm"}, {"inner", "120 mm"}, {"length", "80 mm"}, {"density", "1000 kg/m3"}}),
        counted(0.1,
                [](double x, double y, double z) {
                  const double r = std::hypot(x, y);
                  return r < 0.09 && r > 0.06 && std::abs(z) < 0.04;
                }),
        close);
  check(built("hollow_cylinder", {{"outer", "80 mm"},
                                  {"inner", "40 mm"},
                                  {"length", "180 mm"},
                                  {"density", "1000 kg/m3"},
                                  {"lies", "across"}}),
        counted(0.1,
                [](double x, double y, double z) {
                  const double r = std::hypot(y, z);
                  return r < 0.04 && r > 0.02 && std::abs(x) < 0.09;
                }),
        close);
  check(built("cuboid", {{"a", "160 mm"}, {"b", "100 mm"}, {"c", "60 mm"}, {"density", "1000 kg/m3"}}),
        counted(0.1, [](double x, double y,
                        double z) { return std::abs(x) < 0.08 && std::abs(y) < 0.05 && std::abs(z) < 0.03; }),
        close);
  check(built("sphere", {{"diameter", "180 mm"}, {"density", "1000 kg/m3"}}),
        counted(0.1, [](double x, double y, double z) { return x * x + y * y + z * z < 0.0081; }), close);
  check(built("cone", {{"diameter", "180 mm"}, {"height", "180 mm"}, {"density", "1000 kg/m3"}}),
        counted(0.1, [](double x, double y,
                        double z) { return z > -0.09 && std::hypot(x, y) < 0.5 * (0.09 - z); }),
        close);
}

TEST_CASE("parallel axis: a shifted piece turns like the sum of its parts about the far axis") {
  const LoadBody body = built("cuboid", {{"a", "40 mm"},
                                         {"b", "60 mm"},
                                         {"c", "100 mm"},
                                         {"density", "1000 kg/m3"},
                                         {"offset", "50 mm"},
                                         {"offset_angle", "0 deg"}});
  const auto sum = counted(0.08, [](double x, double y, double z) {
    return std::abs(x - 0.05) < 0.02 && std::abs(y) < 0.03 && std::abs(z) < 0.05;
  });
  CHECK(body.inertia == Approx(sum.second).epsilon(0.01));
  CHECK(body.moment_x == Approx(sum.first * 0.05).epsilon(0.01));
}

// WR² of round steel bar, handbook tables of shafting in inches: 12 in diameter about 4.0 lb·ft² per inch of
// length (from memory; the table rounds 3.98).
TEST_CASE("steel disc against the WR² table of shafting") {
  const LoadBody body =
      built("cylinder", {{"diameter", "12 in"}, {"length", "1 in"}, {"density", "0.282 lb/in3"}});
  const double pound_square_foot = 0.45359237 * 0.3048 * 0.3048;
  CHECK(body.inertia / pound_square_foot == Approx(3.98).epsilon(2e-3));
}

TEST_CASE("a hole takes away what fills it, and a disc with a filled hole is a disc") {
  const auto disc = [](const char* diameter, const char* counts) {
    Section piece(find_piece_spec("cylinder")->section);
    piece.type("diameter", diameter);
    piece.type("length", "10 mm");
    piece.type("counts", counts);
    piece.type("offset", "80 mm");
    return piece;
  };
  Recorder silent(false);
  const std::vector<Section> whole{disc("200 mm", "body")};
  const std::vector<Section> filled{disc("200 mm", "body"), disc("50 mm", "hole"), disc("50 mm", "body")};
  CHECK(put_together(filled, silent).inertia == Approx(put_together(whole, silent).inertia.value));
  CHECK(put_together(filled, silent).mass == Approx(put_together(whole, silent).mass.value));
  const std::vector<Section> nothing{disc("50 mm", "hole")};
  REQUIRE(misfit(nothing));
  CHECK_THAT(misfit(nothing)->what, Contains("holes"));
}

// Square-thread power screw of a machine-design textbook (Shigley, "Mechanical Engineering Design", example
// on power screws): 32 mm nominal, pitch 4 mm double thread, d_m = 30 mm, f = f_c = 0.08, d_c = 40 mm, 6.4 kN
// per screw. Printed: raising 26.18 N·m, lowering 9.77 N·m, efficiency 0.311. From memory.
TEST_CASE("power screw against a textbook example") {
  Axis axis = axis_on("power_screw");
  Section& load = axis["load"];
  load.type("moved_mass", "1 g");
  load.type("friction", "0");
  load.type("process_force", "6400 N");
  Section& screw = axis["mechanism"];
  const std::pair<const char*, const char*> fields[] = {{"lead", "8 mm"},
                                                        {"diameter", "32 mm"},
                                                        {"mean_diameter", "30 mm"},
                                                        {"flank", "0 deg"},
                                                        {"thread_friction", "0.08"},
                                                        {"collar_friction", "0.08"},
                                                        {"collar_diameter", "40 mm"},
                                                        {"length", "1 um"}};
  for (const auto& [field, text] : fields) screw.type(field, text);
  add_segment(axis, "move", {{"distance", "100 mm"}, {"time", "100 s"}});
  add_segment(axis, "move", {{"distance", "-100 mm"}, {"time", "100 s"}});
  const Evaluation e = evaluated(axis);
  const double up = e.at(50.0).torque, down = e.at(150.0).torque;
  CHECK(up == Approx(26.18).epsilon(1e-3));
  CHECK(-down == Approx(9.77).epsilon(1e-3));
  CHECK(6400.0 * 0.008 / (2.0 * M_PI * up) == Approx(0.311).epsilon(2e-3));
}

TEST_CASE("self-locking begins where friction reaches the slope of the thread") {
  // square thread: η_b = 0 at μ = tanλ
  const double slope = 5.0 / (M_PI * 18.0);
  CHECK(power_screw_back_efficiency(slope, 0.005, 0.018, 0.0) == Approx(0.0).margin(1e-12));
  CHECK(power_screw_back_efficiency(1.01 * slope, 0.005, 0.018, 0.0) < 0.0);
  CHECK(power_screw_back_efficiency(0.99 * slope, 0.005, 0.018, 0.0) > 0.0);
  // just locking, the driving efficiency lies just below one half
  CHECK(power_screw_efficiency(slope, 0.005, 0.018, 0.0) ==
        Approx(0.5 * (1.0 - slope * slope)).epsilon(1e-9));
  RandomAxes random(310);
  for (int i = 0; i < 200; ++i) {
    const double mu = random.between(0.02, 0.3), lead = random.between(0.002, 0.05),
                 d = random.between(0.01, 0.05);
    const double flank = random.between(0.0, 0.3);
    const double eta = power_screw_efficiency(mu, lead, d, flank),
                 back = power_screw_back_efficiency(mu, lead, d, flank);
    CHECK(eta < 1.0);
    CHECK(back < 1.0);
    if (eta < 0.5 - 0.1) CHECK(back < 0.1); // calculation rule: below one half it locks, to 10 %
  }
}

TEST_CASE("planetary stage: ratio, assembly and room") {
  const auto stage = [](const char* sun, const char* ring, const char* planets) {
    Section section(find_stage_spec("planetary")->section);
    section.type("sun", sun);
    section.type("ring", ring);
    section.type("planets", planets);
    const std::vector<Section> all{section};
    Recorder silent(false);
    return build_stages(all, silent);
  };
  // 1 + 72/18 and 1 + 84/12: textbook planetary trains
  CHECK((*stage("18", "72", "3"))[0].ratio == 5.0);
  CHECK((*stage("12", "84", "3"))[0].ratio == 8.0);
  CHECK_THAT(stage("18", "72", "4").problem().what, Contains("22.5"));
  CHECK_THAT(stage("18", "73", "3").problem().what, Contains("even"));
  CHECK_THAT(stage("12", "84", "6").problem().what, Contains("touch"));
  CHECK_THAT(stage("18", "16", "3").problem().what, Contains("larger"));
}

TEST_CASE("optimum ratio of a pure inertia is √(J_load/J_motor)") {
  Axis axis = axis_on("general");
  axis["load"].type("inertia", "0.09 kg.m2");
  axis["load"].type("friction_torque", "0 N.m");
  axis["motor"].type("inertia", "1 kg.cm2");
  add_segment(axis, "move", {{"distance", "90 deg"}, {"time", "0.3 s"}});
  const auto sweep = sweep_ratio(axis, 1.0, 200.0, 20);
  REQUIRE(sweep);
  CHECK(sweep->inertia_match == Approx(30.0).epsilon(1e-9));
  CHECK(sweep->least_rms == Approx(30.0).epsilon(0.02));
  CHECK(sweep->least_peak == Approx(30.0).epsilon(0.02));
}

// Facts of the trade (common practice).
TEST_CASE("3000 rpm through 3:1 onto a pinion of 130 mm circumference gives 130 m/min") {
  Axis axis = axis_on("belt");
  axis["load"].type("moved_mass", "1 kg");
  axis["mechanism"].type("pulley_teeth", "26");
  axis["mechanism"].type("pitch", "5 mm");
  axis["gearhead"].type("ratio", "3");
  add_segment(axis, "run", {{"speed", "130/60 m/s"}, {"time", "1 s"}});
  CHECK(value(evaluated(axis), "demand.max_speed") == Approx(3000.0 * 2.0 * M_PI / 60.0).epsilon(1e-9));
}

TEST_CASE("conveyor: what moves its goods and when they slip") {
  Axis axis = axis_on("conveyor");
  axis["load"].type("moved_mass", "20 kg");
  axis["load"].type("friction", "0.3");
  Section& belt = axis["mechanism"];
  belt.type("efficiency", "1");
  belt.type("diameter", "100 mm");
  belt.type("belt_mass", "6 kg");
  belt.type("carried_belt", "4 kg");
  belt.type("grip", "0.5");
  add_segment(axis, "move",
              {{"distance", "1 m"}, {"time", ""}, {"peak_speed", "1 m/s"}, {"acceleration", "2 m/s2"}});
  const Evaluation e = evaluated(axis);
  // (20 + 6)·2 N to accelerate, 0.3·(20 + 4)·g to rub, on a lever of 50 mm
  CHECK(e.at(0.1).torque == Approx((52.0 + 0.3 * 24.0 * g) * 0.05).epsilon(1e-9));
  CHECK(limit(e, "load.slip").used == Approx(2.0 / (0.5 * g)).epsilon(1e-9));
  for (const auto& [speeding, slowing] : {std::pair{"0.5", "0.25"}, std::pair{"0.25", "0.5"}}) {
    Axis other = axis;
    other.cycle.clear();
    add_move(other, "1 m", "1 s", speeding, slowing); // 1.6 m/s within a quarter of a second
    CHECK(limit(evaluated(other), "load.slip").used == Approx(6.4 / (0.5 * g)).epsilon(1e-9));
  }
  axis["load"].type("angle", "20 deg");
  const double hold = g * (0.5 * std::cos(M_PI / 9.0) - std::sin(M_PI / 9.0));
  CHECK(limit(evaluated(axis), "load.slip").used == Approx(2.0 / hold).epsilon(1e-9));
}

TEST_CASE("hoist lowering: the load drives, falls halve force and double turns") {
  Axis axis = axis_on("drum");
  axis["load"].type("moved_mass", "100 kg");
  axis["load"].type("angle", "90 deg");
  axis["load"].type("friction", "0");
  Section& drum = axis["mechanism"];
  drum.type("radius", "80 mm");
  drum.type("falls", "2");
  drum.type("efficiency", "0.9");
  add_segment(axis, "move", {{"distance", "1 m"}, {"time", "10 s"}});
  add_segment(axis, "move", {{"distance", "-1 m"}, {"time", "10 s"}});
  const Evaluation e = evaluated(axis);
  CHECK(e.at(5.0).torque == Approx(100.0 * g * 0.04 / 0.9).epsilon(1e-9));
  CHECK(e.at(15.0).torque == Approx(100.0 * g * 0.04 * 0.9).epsilon(1e-9));
  CHECK(e.at(15.0).shaft_power < 0.0);
  CHECK(e.at(5.0).speed == Approx(0.15 / 0.04).epsilon(1e-9));
  CHECK(value(e, "hold.torque") == Approx(100.0 * g * 0.04).epsilon(1e-9));
}

TEST_CASE("arm: gravity goes with the cosine, holding is worst where it lies level") {
  Axis axis = axis_on("arm");
  axis["load"].type("friction_torque", "0 N.m");
  Section& arm = axis["mechanism"];
  arm.type("mass", "4 kg");
  arm.type("centre", "250 mm");
  arm.type("start_angle", "-60 deg");
  add_segment(axis, "move", {{"distance", "120 deg"}, {"time", "100 s"}});
  const Evaluation e = evaluated(axis);
  for (const double t : {20.0, 40.0, 50.0, 80.0}) {
    const Instant now = e.at(t);
    CHECK(now.torque - 0.25 * now.acceleration ==
          Approx(4.0 * g * 0.25 * std::cos(now.load.position - M_PI / 3.0)).epsilon(1e-9));
  }
  CHECK(value(e, "hold.torque") == Approx(4.0 * g * 0.25).epsilon(1e-12));
  CHECK(warns(e, "vertical_without_brake"));
}

// Lagrange: without friction the power at the crank is the rate of the kinetic energy ½(J_c + m·x′²)·ω².
TEST_CASE("slider-crank against energy") {
  Axis axis = axis_on("crank");
  axis["load"].type("moved_mass", "3 kg");
  axis["load"].type("friction", "0");
  axis["mechanism"].type("efficiency", "1");
  axis["mechanism"].type("crank_inertia", "20 kg.cm2");
  add_segment(axis, "move", {{"distance", "720 deg"}, {"law", "345"}, {"time", "0.8 s"}});
  const Evaluation e = evaluated(axis);
  const auto energy = [&](double t) {
    const Instant now = e.at(t);
    const double slope = crank_slope(0.04, 0.14, now.load.position);
    return 0.5 * (20e-4 + 3.0 * slope * slope) * now.speed * now.speed;
  };
  for (int i = 1; i < 40; ++i) {
    const double t = 0.8 * i / 40.0, h = 1e-6;
    CHECK(e.at(t).shaft_power ==
          Approx((energy(t + h) - energy(t - h)) / (2.0 * h)).epsilon(1e-5).margin(1e-3));
  }
  CHECK(value(e, "energy.driven") == Approx(value(e, "energy.returned")).epsilon(1e-9));
}

TEST_CASE("slider-crank: position, slope and curvature belong together, and the stroke is twice the crank") {
  RandomAxes random(311);
  for (int i = 0; i < 300; ++i) {
    const double r = random.between(0.01, 0.2), l = r * random.between(1.05, 6.0),
                 phi = random.between(-7.0, 7.0);
    const double h = 1e-6;
    CHECK(crank_slope(r, l, phi) ==
          Approx((crank_position(r, l, phi + h) - crank_position(r, l, phi - h)) / (2.0 * h)).margin(1e-8));
    CHECK(crank_curvature(r, l, phi) ==
          Approx((crank_slope(r, l, phi + h) - crank_slope(r, l, phi - h)) / (2.0 * h)).margin(1e-6));
  }
  CHECK(crank_position(0.04, 0.14, 0.0) - crank_position(0.04, 0.14, M_PI) == Approx(0.08));
}
