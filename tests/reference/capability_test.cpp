// What an axis can press with, against the balance of forces written out by hand; what a motor draws on a
// bench, against the table of the stepper's example stepped by another program.

#include "core/drive/stepper_drive.hpp"
#include "core/evaluation/bench_picture.hpp"
#include "core/evaluation/capability.hpp"
#include "core/evaluation/catalogue_gap.hpp"
#include "core/motor/stepper.hpp"
#include "core/motor/stepper_formulas.hpp"
#include "reference/numbers.hpp"
#include "support/axes.hpp"

#include <catch2/catch.hpp>

#include <cmath>
#include <numbers>

using namespace fulmox;
using namespace fulmox::testing;

namespace {} // namespace

TEST_CASE("the force of a screw axis is what torque, efficiency and its own needs leave") {
  Axis axis = plain_axis();
  axis["surroundings"].type("bus", "48 V");
  choose_part(axis, "motor", *library().find("motor", "CR60-0400-048L"));
  choose_part(axis, "drive", *library().find("drive", "EL48-200"));
  axis["load"].type("angle", "30 deg");
  axis["load"].type("friction", "0.1");
  axis["load"].type("seal_drag", "5 N");
  axis["load"].type("viscous", "40 N.s/m");
  axis["mechanism"].type("lead", "10 mm");
  axis["mechanism"].type("efficiency", "80 %");
  axis["mechanism"].type("drag", "20 mN.m");
  const Evaluation e = evaluated(axis);
  const MotorSupply nominal = e.model->supply_at(48.0),
                    low = e.model->supply_at(e.model->surroundings.bus_low);
  const double mass = e.model->load->mechanism == nullptr ? 0.0 : 10.0, g = 9.80665;
  for (const double speed : {0.0, 0.02, 0.2, 0.5}) {
    const double n = speed / 10e-3 * 2.0 * pi;
    // forwards it lifts: the harder of both directions
    const double own = mass * g * 0.5 + 0.1 * mass * g * std::cos(pi / 6.0) + 5.0 + 40.0 * speed;
    const auto force = [&](double torque) { return (torque - 0.02) * 0.8 * 2.0 * pi / 10e-3 - own; };
    const Capability c = capability_at(e, speed);
    INFO(speed);
    CHECK(c.motor_speed == Approx(n).margin(1e-12));
    CHECK(c.peak == Approx(force(e.model->motor->peak_torque(n, nominal, false))));
    CHECK(c.peak_low == Approx(force(e.model->motor->peak_torque(n, low, false))));
    CHECK(c.lasting == Approx(force(e.model->motor->continuous_torque(n))).epsilon(1e-9));
  }
  CHECK(value(e, "capability.rest") == Approx(capability_at(e, 0.0).peak));
  CHECK(value(e, "capability.top") ==
        Approx(capability_at(e, value(e, "demand.max_speed") / (2.0 * pi) * 10e-3).peak));
  // downhill it is the way back that is harder, by as much
  axis["load"].type("angle", "-30 deg");
  const Evaluation downhill = evaluated(axis);
  CHECK(capability_at(downhill, 0.02).peak == Approx(capability_at(e, 0.02).peak));
  CHECK(capability_at(downhill, 0.02).lasting == Approx(capability_at(e, 0.02).lasting));
  axis["load"].type("angle", "30 deg");
  // pressing with that force takes exactly the torque there is
  axis.cycle.clear();
  add_segment(axis, "run", {{"speed", "20 mm/s"}, {"time", "1 s"}});
  axis["load"].type("process_force", "0 N");
  axis.cycle[0].type("process", std::to_string(capability_at(e, 0.02).peak) + " N");
  const Evaluation pressed = evaluated(axis);
  CHECK(limit(pressed, "motor.peak").used == Approx(1.0).epsilon(1e-6));
}

TEST_CASE("capability through any train agrees with the demand of a cycle that presses so hard") {
  RandomAxes random(31);
  int tried = 0;
  for (int n = 0; n < 60; ++n) {
    Axis axis = random.next();
    const Evaluation e = evaluated(axis);
    if (e.find("capability.rest") == nullptr) continue;
    const double speed = random.between(0.01, 0.1);
    const Capability c = capability_at(e, speed);
    if (!(c.peak > 0.0) || !std::isfinite(c.peak)) continue;
    ++tried;
    double worst = 0.0;
    for (const double way : {1.0, -1.0}) {
      axis.cycle.clear();
      add_segment(axis, "run",
                  {{"speed", std::to_string(way * speed * 1000.0) + " mm/s"},
                   {"time", "0.1 s"},
                   {"process", std::to_string(way * c.peak) + " N"}});
      const Evaluation pressed = evaluated(axis);
      const Instant now = pressed.at(0.05);
      worst = std::max(worst,
                       std::abs(now.torque) /
                           pressed.model->motor->peak_torque(
                               now.speed, pressed.model->supply_at(pressed.model->surroundings.bus), false));
    }
    INFO(n);
    CHECK(worst == Approx(e.torque_use).epsilon(1e-4));
  }
  CHECK(tried > 10);
}

TEST_CASE("a stepper presses with its factor, and an axis that cannot move itself with nothing") {
  Axis axis = plain_axis();
  axis["surroundings"].type("bus", "48 V");
  choose_part(axis, "motor", *library().find("motor", "HS23-76-42"));
  choose_part(axis, "drive", *library().find("drive", "SS50-060"));
  const Evaluation e = evaluated(axis);
  const auto& motor = dynamic_cast<const StepperMotor&>(*e.model->motor);
  const Capability c = capability_at(e, 0.05);
  const Capability rest = capability_at(e, 0.0);
  CHECK(c.lasting == c.peak);
  CHECK(rest.peak > c.peak);
  CHECK(motor.holding() > 0.0);
  axis["load"].type("moved_mass", "4000 kg");
  axis["load"].type("angle", "90 deg");
  CHECK(capability_at(evaluated(axis), 0.0).peak == 0.0);
  const auto curve = capability_curve(e);
  REQUIRE(curve.size() > 10);
  CHECK(curve.front().speed == 0.0);
  for (std::size_t i = 1; i < curve.size(); ++i) CHECK(curve[i].peak <= curve[i - 1].peak * (1.0 + 1e-9));
}

// R8's stepper with 0.03 N·m of friction and hysteresis and 1e-4 N·m·s of eddy drag on 36 V without drive
// loss, finely stepped, same heat: supply current stepped by another program (calculation reference, M6.5).
TEST_CASE("supply current of a stepper over speed") {
  Axis axis = plain_axis();
  axis["surroundings"].type("bus", "36 V");
  Section motor(stepper_motor_section());
  for (const auto& [field, text] :
       std::initializer_list<std::pair<std::string_view, std::string_view>>{{"inertia", "300 g.cm2"},
                                                                            {"max_speed", "1800 rpm"},
                                                                            {"holding_torque", "1.2 N.m"},
                                                                            {"rated_current", "3 A"},
                                                                            {"resistance", "0.8 Ohm"},
                                                                            {"inductance", "3 mH"},
                                                                            {"hysteresis", "30 mN.m"},
                                                                            {"eddy", "10.4719755 mN.m/krpm"}})
    motor.type(field, text);
  axis["motor"] = motor;
  axis["motor"].path = "motor";
  choose_part(axis, "drive", *library().find("drive", "SS50-060"));
  axis["drive"].type("microsteps", "256");
  axis["drive"].type("standby", "0 W");
  axis["drive"].type("device_drop", "0 V");
  Recorder silent(false);
  const auto model = AxisModel::build(axis, silent);
  REQUIRE(model);
  const auto current = [&](double torque, double speed) {
    const BenchPicture picture = bench_picture(*model, torque);
    for (std::size_t i = 1; i < picture.points.size(); ++i) {
      const BenchPoint &a = picture.points[i - 1], &b = picture.points[i];
      if (speed > b.speed * (1.0 + 1e-9)) continue;
      const double share = (speed - a.speed) / (b.speed - a.speed);
      return a.supply_current + share * (b.supply_current - a.supply_current);
    }
    return speed == 0.0 ? picture.points.front().supply_current : std::nan("");
  };
  struct Row {
    double torque;
    std::array<double, 5> at; ///< 60, 240, 473, 900, 1800 rpm; negative: stalled
  };
  for (const Row& row :
       {Row{0.0, {0.405, 0.421, 0.377, 0.146, 0.259}}, Row{0.2, {0.440, 0.561, 0.650, 0.678, 1.328}},
        Row{0.5, {0.493, 0.770, 1.069, 1.505, -1.0}}}) {
    constexpr std::array speeds{60.0, 240.0, 473.0, 900.0, 1800.0};
    for (std::size_t i = 0; i < speeds.size(); ++i) {
      const double there = current(row.torque, speeds[i] * rpm);
      INFO(row.torque << " N·m at " << speeds[i] << " rpm: " << there);
      if (row.at[i] < 0.0)
        CHECK(std::isnan(there));
      else
        CHECK(there == Approx(row.at[i]).epsilon(0.02));
    }
    CHECK(bench_picture(*model, row.torque).points.front().supply_current == Approx(0.400).epsilon(1e-3));
  }
  CHECK(bench_picture(*model, 0.5).ends);
  // it ends where the pull-out less drag is met
  const double end = bench_picture(*model, 0.5).points.back().speed;
  CHECK(dynamic_cast<const StepperMotor&>(*model->motor).pull_out_torque(end, 36.0) ==
        Approx(0.5).epsilon(0.02));
  CHECK(bench_picture(*model, 5.0).points.empty());
}

TEST_CASE("efficiency on the bench is shaft over bus power") {
  Axis axis = plain_axis();
  axis["surroundings"].type("bus", "48 V");
  choose_part(axis, "motor", *library().find("motor", "CR60-0400-048L"));
  choose_part(axis, "drive", *library().find("drive", "EL48-200"));
  const Evaluation e = evaluated(axis);
  const BenchPicture picture = bench_picture(*e.model, 0.5);
  REQUIRE(picture.points.size() > 10);
  for (const BenchPoint& point : picture.points) {
    CHECK(point.efficiency * 48.0 * point.supply_current == Approx(0.5 * point.speed).margin(1e-9));
    CHECK(point.efficiency < 1.0);
  }
  CHECK(picture.points.front().supply_current > bench_picture(*e.model, 0.0).points.front().supply_current);
}

TEST_CASE("the gap between the maker's curve and the model is the greatest there is") {
  Axis axis = plain_axis();
  axis["surroundings"].type("bus", "30 V");
  choose_part(axis, "motor", *library().find("motor", "CR60-0400-048L"));
  choose_part(axis, "drive", *library().find("drive", "EL48-200"));
  const Evaluation e = evaluated(axis);
  const auto gap = catalogue_gap(*e.model);
  REQUIRE(gap);
  CHECK(gap->share() < -0.3); // a third less bus than the curve was made for
  const PeakLimits there = e.model->motor->peak_limits(gap->speed, e.model->supply_at(30.0), false);
  CHECK(gap->catalogue == there.catalogue);
  CHECK(gap->modelled == std::min(there.current, there.voltage));
  axis["motor"].type("resistance", "");
  axis["motor"].type("kt", "");
  axis["motor"].type("ke", "");
  CHECK_FALSE(catalogue_gap(*evaluated(axis).model));
}
