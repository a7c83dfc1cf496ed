// Cycles whose worst moment is easily missed, each with its number in closed form.

#include "reference/numbers.hpp"
#include "support/axes.hpp"

#include <catch2/catch.hpp>

#include <cmath>

using namespace fulmox;
using namespace fulmox::testing;
using Catch::Contains;

namespace {

Axis general(const char* inertia, const char* friction, const char* rotor) {
  Axis axis = axis_on("general");
  axis["load"].type("inertia", inertia);
  axis["load"].type("friction_torque", friction);
  axis["mechanism"].type("efficiency", "1");
  axis["motor"].type("inertia", rotor);
  return axis;
}

const ResultValue* braked_dwell(const Evaluation& e) {
  for (const ResultValue& result : e.results)
    if (result.label.starts_with("Brake, segment")) return &result;
  return nullptr;
}

} // namespace

TEST_CASE("a force over 80 mm of a metre is met at its very top, on both ways") {
  Axis axis = axis_on("belt");
  axis["load"].type("moved_mass", "0.1 kg");
  axis["load"].type("friction", "0");
  axis["mechanism"].type("pulley_teeth", "20");
  axis["mechanism"].type("pitch", "5 mm");
  axis["mechanism"].type("efficiency", "1");
  for (const char* distance : {"1 m", "-1 m"})
    add_segment(axis, "move",
                {{"distance", distance},
                 {"time", "1 s"},
                 {"process_curve", "0 mm: 0 N; 680 mm: 0 N; 720 mm: 1000 N; 760 mm: 0 N"}});
  // the run reaches from 250 to 750 mm: nothing but the force pulls there
  const double radius = 0.1 / (2.0 * M_PI);
  CHECK(value(evaluated(axis), "demand.peak_torque") == Approx(1000.0 * radius).epsilon(1e-9));
}

TEST_CASE("a short curved move among long gentle ones holds the peak") {
  Axis axis = general("1e-3 kg.m2", "0 N.m", "1e-4 kg.m2");
  add_segment(axis, "move", {{"distance", "1 rad"}, {"time", "30 s"}});
  add_segment(axis, "move", {{"distance", "-1 rad"}, {"law", "triangle"}, {"time", "0.769 s"}});
  add_segment(axis, "move", {{"distance", "1 rad"}, {"law", "4567"}, {"time", "1 s"}});
  add_segment(axis, "move", {{"distance", "-1 rad"}, {"time", "30 s"}});
  // 420u² − 1680u³ + 2100u⁴ − 840u⁵ is greatest at u = (5 − √5)/10 with 84√5/25 = 7.5132 (VDI 2143)
  CHECK(value(evaluated(axis), "demand.peak_torque") ==
        Approx(1.1e-3 * 84.0 * std::sqrt(5.0) / 25.0).epsilon(1e-9));
}

TEST_CASE("a rotor on a load that asks the same all along has the law's own peaks") {
  // what the load asks is fitted by one value; how it speeds up still takes its curve
  struct Law {
    const char* name;
    double velocity, acceleration;
  };
  for (const Law& law : {Law{"cycloidal", 2.0, 2.0 * pi},
                         Law{"modified_sine", 4.0 * pi / (4.0 + pi), 4.0 * pi * pi / (4.0 + pi)}}) {
    Axis axis = general("1e-15 kg.m2", "1 N.m", "1e-3 kg.m2");
    add_segment(axis, "move", {{"distance", "1 rad"}, {"law", law.name}, {"time", "0.05 s"}});
    add_segment(axis, "move", {{"distance", "-1 rad"}, {"law", law.name}, {"time", "0.05 s"}});
    INFO(law.name);
    const Evaluation e = evaluated(axis);
    CHECK(value(e, "demand.peak_torque") == Approx(1.0 + 1e-3 * law.acceleration / 0.0025).epsilon(1e-10));
    CHECK(value(e, "demand.max_speed") == Approx(law.velocity / 0.05).epsilon(1e-10));
  }
}

TEST_CASE("energy where torque and power are nothing at the very moment of a look") {
  Axis axis = general("0.009 kg.m2", "0 N.m", "1e-3 kg.m2");
  axis["mechanism"].type("efficiency", "0.9");
  add_segment(axis, "move", {{"distance", "1 rad"}, {"law", "4567"}, {"time", "1 s"}});
  // all the kinetic energy at 2.1875 rad/s, the load's through its efficiency
  const Evaluation e = evaluated(axis);
  CHECK(value(e, "energy.driven") == Approx(0.5 * (0.009 / 0.9 + 1e-3) * 2.1875 * 2.1875).epsilon(1e-9));
  CHECK(value(e, "energy.returned") == Approx(0.5 * (0.009 * 0.9 + 1e-3) * 2.1875 * 2.1875).epsilon(1e-9));
}

TEST_CASE("runs backwards, told by speed, by distance or by both") {
  const auto turned = [](const char* speed, const char* distance, const char* process) {
    Axis axis = general("1e-3 kg.m2", "0.1 N.m", "1e-4 kg.m2");
    const auto joined = [&] {
      add_segment(
          axis, "move",
          {{"distance", "-1 rad"}, {"time", ""}, {"peak_speed", "2 rad/s"}, {"acceleration", "10 rad/s2"}});
    };
    joined();
    add_segment(axis, "run",
                {{"speed", speed},
                 {"time", ""},
                 {"distance", distance},
                 {"process", process},
                 {"process_end", "1 N.m"}});
    joined();
    add_segment(axis, "dwell", {{"time", "1 s"}});
    return axis;
  };
  for (const auto& [speed, distance] : {std::pair{"-2 rad/s", "3 rad"}, {"-2 rad/s", "-3 rad"}}) {
    const Evaluation e = evaluated(turned(speed, distance, "-1 N.m"));
    INFO(speed << " " << distance);
    // 1 rad at 2 rad/s with one ramp of 0.2 s takes 0.6 s
    CHECK(e.model->load->cycle.duration == Approx(0.6 + 1.5 + 0.6 + 1.0));
    CHECK(e.model->load->cycle.lowest == Approx(-5.0));
    CHECK(value(e, "demand.rms_torque") <= value(e, "demand.peak_torque"));
    CHECK(value(e, "demand.mean_speed") == Approx(5.0 / 3.7));
  }
  CHECK(evaluated(turned("-2 rad/s", "1 rad", "-1 N.m")).model->load->cycle.duration == Approx(2.7));
}

TEST_CASE("holding looks at every place, every payload and every process force") {
  SECTION("an arm at both ends of its turn, pushed") {
    Axis axis = axis_on("arm");
    axis["load"].type("friction_torque", "0 N.m");
    axis["load"].type("process_torque", "-5 N.m");
    axis["mechanism"].type("mass", "3 kg");
    axis["mechanism"].type("centre", "200 mm");
    axis["brake"].type("fitted", "yes");
    axis["brake"].type("torque", "6 N.m");
    for (const char* distance : {"180 deg", "-180 deg"}) {
      add_segment(axis, "move", {{"distance", distance}, {"time", "1 s"}});
      add_segment(axis, "dwell", {{"time", "1 s"}, {"held_by", "brake"}});
    }
    const Evaluation e = evaluated(axis);
    const double worst = 3.0 * 9.80665 * 0.2 + 5.0; // at 180° the weight pulls with the process
    CHECK(std::abs(value(e, "hold.torque")) == Approx(worst).epsilon(1e-12));
    CHECK(limit(e, "brake.hold").state == LimitState::over);
    REQUIRE(braked_dwell(e) != nullptr);
    CHECK(std::abs(braked_dwell(e)->value) == Approx(worst).epsilon(1e-12));
  }
  SECTION("a vertical screw pushed in a dwell") {
    Axis axis = axis_on("screw");
    axis["load"].type("moved_mass", "10 kg");
    axis["load"].type("angle", "90 deg");
    axis["mechanism"].type("lead", "10 mm");
    axis["brake"].type("fitted", "yes");
    axis["brake"].type("torque", "2 N.m");
    add_segment(axis, "move", {{"distance", "100 mm"}, {"time", "1 s"}});
    add_segment(axis, "dwell", {{"time", "1 s"}, {"held_by", "brake"}, {"process", "1000 N"}});
    add_segment(axis, "move", {{"distance", "-100 mm"}, {"time", "1 s"}});
    const double worst = (10.0 * 9.80665 + 1000.0) * 0.01 / (2.0 * M_PI);
    CHECK(value(evaluated(axis), "hold.torque") == Approx(worst).epsilon(1e-12));
    // a force that holds the load up is not trusted to
    axis.cycle[1].type("process", "-98 N");
    CHECK(value(evaluated(axis), "hold.torque") ==
          Approx(10.0 * 9.80665 * 0.01 / (2.0 * M_PI)).epsilon(1e-12));
    axis["brake"].type("fitted", "no");
    axis.cycle[1].type("held_by", "motor");
    CHECK(warns(evaluated(axis), "vertical_without_brake"));
  }
  SECTION("a counterweight that outweighs the empty carriage") {
    Axis axis = axis_on("screw");
    axis["load"].type("moved_mass", "10 kg");
    axis["load"].type("angle", "90 deg");
    axis["load"].type("counterweight", "15 kg");
    axis["mechanism"].type("lead", "10 mm");
    add_segment(axis, "move", {{"distance", "100 mm"}, {"time", "1 s"}, {"payload", "5 kg"}});
    add_segment(axis, "move", {{"distance", "-100 mm"}, {"time", "1 s"}});
    CHECK(value(evaluated(axis), "hold.torque") ==
          Approx(-5.0 * 9.80665 * 0.01 / (2.0 * M_PI)).epsilon(1e-12));
  }
}

TEST_CASE("an overload that grows from cycle to cycle is unbounded and over") {
  Axis axis = general("9e-3 kg.m2", "0.1 N.m", "1e-3 kg.m2");
  axis["motor"].type("kt", "0.3 N.m/A");
  axis["motor"].type("kt_per", "rms");
  axis["drive"].type("continuous_current", "1 A");
  axis["drive"].type("peak_current", "20 A");
  axis["drive"].type("peak_time", "2 s");
  for (const char* distance : {"40 rad", "-40 rad"})
    add_segment(axis, "move", {{"distance", distance}, {"time", "1 s"}});
  const Evaluation e = evaluated(axis);
  REQUIRE(value(e, "drive.rms_current") > 1.0);
  CHECK(std::isinf(limit(e, "drive.peak_time").demand));
  CHECK(limit(e, "drive.peak_time").state == LimitState::over);
  axis["drive"].type("continuous_current", "1.001*" + std::to_string(value(e, "drive.rms_current")) + " A");
  CHECK(std::isfinite(limit(evaluated(axis), "drive.peak_time").demand));
}

TEST_CASE("what no machine has is refused with what is believed, not worked out") {
  Axis axis = plain_axis();
  axis["load"].type("moved_mass", "1e200 kg");
  const auto heavy = evaluate(axis, house_rules());
  REQUIRE_FALSE(heavy);
  CHECK(heavy.problem().where == "load.moved_mass");
  CHECK_THAT(heavy.problem().remedy, Contains("1e+09 kg"));
  axis["load"].type("moved_mass", "1 kg");
  axis.cycle[0].type("time", "1e-200 s");
  const auto brief = evaluate(axis, house_rules());
  REQUIRE_FALSE(brief);
  CHECK(brief.problem().where == "cycle[0].time");
}
