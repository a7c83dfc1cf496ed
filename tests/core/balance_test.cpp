// Gas springs that lose force over their stroke, and how the drive train gives.

#include "core/mechanism/linear_load.hpp"
#include "support/axes.hpp"

#include <boost/math/quadrature/gauss_kronrod.hpp>
#include <catch2/catch.hpp>

#include <cmath>

using namespace fulmox;
using namespace fulmox::testing;
using Catch::Contains;

namespace {

/// A 10 kg load lifted 300 mm and lowered again, balanced by a spring of 98.0665 N at the bottom.
Axis lift() {
  Axis axis = new_axis("");
  axis["load"].type("moved_mass", "10 kg");
  axis["load"].type("angle", "90 deg");
  axis["load"].type("friction", "0");
  axis["load"].type("spring", "98.0665 N");
  axis["load"].type("spring_rate", "0.1 N/mm");
  axis["mechanism"].type("lead", "10 mm");
  axis["mechanism"].type("efficiency", "1");
  add_move(axis, "300 mm", "0.4 s", "1/3", "1/3");
  add_dwell(axis, "0.2 s");
  add_move(axis, "-300 mm", "0.4 s", "1/3", "1/3");
  return axis;
}

constexpr double arm = 0.01 / (2.0 * M_PI);

double torque_at(const Evaluation& e, double time) { return e.at(time).torque; }

} // namespace

TEST_CASE("a gas spring pulls less the higher the load: torque at rest follows the height") {
  const Evaluation e = evaluated(lift());
  CHECK(torque_at(e, 0.5) == Approx(0.1e3 * 0.3 * arm));                     // dwell at the top, 30 N short
  CHECK(e.at(0.2).parts[TorquePart::gravity] == Approx(0.1e3 * 0.15 * arm)); // half way up
  CHECK(e.at(0.0).parts[TorquePart::gravity] == Approx(0.0).margin(1e-12));
  // holding counts the worse end of the stroke
  CHECK(value(e, "hold.torque") == Approx(0.1e3 * 0.3 * arm));
}

TEST_CASE("on an axis that starts at the top, the spring gains force on the way down") {
  Axis axis = lift();
  axis["load"].type("angle", "-90 deg"); // forward is down
  axis["load"].type("spring_rate", "0.1 N/mm");
  const Evaluation e = evaluated(axis);
  // 300 mm below the start it pulls 30 N more than the weight: the motor pushes down
  CHECK(torque_at(e, 0.5) == Approx(0.1e3 * 0.3 * arm));
  CHECK(e.at(0.2).parts[TorquePart::gravity] == Approx(0.1e3 * 0.15 * arm));
}

TEST_CASE("the spring gives back over a closed cycle what it took, and the rms is exact") {
  Axis axis = lift();
  for (const char* law : {"trapezoid", "s_curve", "345", "4567", "cycloidal"}) {
    INFO(law);
    axis.cycle[0].type("law", law);
    axis.cycle[2].type("law", law);
    const Evaluation e = evaluated(axis);
    CHECK(e.demand.integrals.energy[TorquePart::gravity] == Approx(0.0).margin(1e-9));
    double squares = 0.0;
    Recorder silent(false);
    for (const MotionPiece& piece : e.model->load->cycle.pieces)
      squares += boost::math::quadrature::gauss_kronrod<double, 31>::integrate(
          [&](double tau) { return std::pow(e.model->at(piece.index, tau, silent).torque, 2); }, 0.0,
          piece.duration, 8, 1e-13);
    CHECK(value(e, "demand.rms_torque") ==
          Approx(std::sqrt(squares / e.model->load->cycle.duration)).epsilon(1e-9));
  }
}

TEST_CASE("a balance spent before the top is refused with the rate that lasts") {
  Axis axis = lift();
  axis["load"].type("spring_rate", "0.5 N/mm");
  const auto refused = evaluate(axis, house_rules());
  REQUIRE_FALSE(refused);
  CHECK(refused.problem().where == "load.spring_rate");
  CHECK_THAT(refused.problem().remedy, Contains("At most 326 N/m"));
  axis["load"].type("spring_rate", "326 N/m");
  CHECK(evaluate(axis, house_rules()));
  axis["load"].type("angle", "0 deg"); // level: the balance does nothing, whatever its rate
  axis["load"].type("spring_rate", "9 N/mm");
  CHECK(evaluate(axis, house_rules()));
}

TEST_CASE("a crank takes only a constant balance and says so") {
  Axis axis = axis_on("crank");
  axis["load"].type("moved_mass", "2 kg");
  add_segment(axis, "move", {{"distance", "360 deg"}, {"time", "1 s"}});
  REQUIRE(evaluate(axis, house_rules()));
  axis["load"].type("spring_rate", "0.1 N/mm");
  const auto refused = evaluate(axis, house_rules());
  REQUIRE_FALSE(refused);
  CHECK(refused.problem().where == "load.spring_rate");
}

TEST_CASE("backlash of gearhead and stages adds up at the load, each over the ratios after it") {
  Axis axis = plain_axis();
  CHECK(evaluated(axis).find("load.backlash") == nullptr); // nothing typed, nothing claimed
  axis["gearhead"].type("ratio", "5");
  axis["gearhead"].type("backlash", "8 arcmin");
  Section pair(*find_kind(axis, *find_list("stages"), "gear_pair"));
  pair.type("driving", "20");
  pair.type("driven", "40");
  pair.type("backlash", "6 arcmin");
  axis.stages.push_back(pair);
  number_sections(axis);
  const double arcmin = M_PI / 180.0 / 60.0;
  // 8′ behind 2:1 and 6′ of the pair itself, on a lead of 10 mm
  CHECK(value(evaluated(axis), "load.backlash") == Approx((8.0 / 2.0 + 6.0) * arcmin * arm));
  axis.stages[0].type("driven", "80");
  CHECK(value(evaluated(axis), "load.backlash") == Approx((8.0 / 4.0 + 6.0) * arcmin * arm));
}

TEST_CASE("springs in a row: the softest tells, and a reduction after it stiffens by its square") {
  Axis axis = axis_on("general");
  axis["load"].type("inertia", "0.02 kg.m2");
  add_segment(axis, "move", {{"distance", "90 deg"}, {"time", "0.5 s"}});
  axis["coupling"].type("stiffness", "500 N.m/rad");
  const Evaluation one = evaluated(axis);
  const double peak = std::abs(one.at(0.01).output.torque);
  CHECK(value(one, "train.wind_up") == Approx(peak / 500.0));
  Section pair(*find_kind(axis, *find_list("stages"), "gear_pair"));
  pair.type("driving", "20");
  pair.type("driven", "60");
  pair.type("stiffness", "4.5 kN.m/rad");
  axis.stages.push_back(pair);
  number_sections(axis);
  const Evaluation two = evaluated(axis);
  CHECK(two.step("train.stiffness")->value == Approx(1.0 / (1.0 / 4500.0 + 1.0 / (500.0 * 9.0))));
  CHECK(value(two, "train.wind_up") == Approx(peak / 2250.0));
  // the working leads back to what was typed
  CHECK(two.step("train.stiffness.coupling")->terms[0].ref == "coupling.stiffness");
}

TEST_CASE("a screw's load lags by its lead's share of the wind-up") {
  Axis axis = plain_axis();
  axis["coupling"].type("stiffness", "500 N.m/rad");
  const Evaluation e = evaluated(axis);
  const double torque = e.model->load->peaks.mechanism.value;
  CHECK(torque > 0.0);
  CHECK(value(e, "load.wind_up") == Approx(torque / e.step("train.stiffness")->value * arm));
}

TEST_CASE("half the lead halves what backlash costs at the load") {
  Axis axis = plain_axis();
  axis["gearhead"].type("ratio", "3");
  axis["gearhead"].type("backlash", "8 arcmin");
  const Evaluation whole = evaluated(axis);
  axis["mechanism"].type("lead", "5 mm");
  const Evaluation half = evaluated(axis);
  CHECK(value(half, "load.backlash") == Approx(0.5 * value(whole, "load.backlash")));
}
