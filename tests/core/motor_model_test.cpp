// The servo motor as a model: curves, currents, what bounds its torque.

#include "core/drive/formulas.hpp"
#include "core/motor/constants.hpp"
#include "core/motor/servo.hpp"
#include "core/quantity/constants.hpp"
#include "support/axes.hpp"

#include <catch2/catch.hpp>

#include <algorithm>
#include <cmath>
#include <random>
#include <string>

using namespace fulmox;
using namespace fulmox::testing;
using constants::rpm;

namespace {

constexpr double unlimited = std::numeric_limits<double>::infinity();

ServoMotor motor_of(const Section& section) {
  Recorder silent(false);
  return ServoMotor::from(section, silent);
}

Section sheet(std::initializer_list<std::pair<std::string_view, std::string_view>> values) {
  Section section(servo_motor_section());
  for (const auto& [field, text] : values) section.type(field, text);
  for (std::size_t i = 0; i < section.size(); ++i) REQUIRE_FALSE(section.entry(i).faulty());
  return section;
}

} // namespace

TEST_CASE("a curve is straight between its points, flat before, nothing beyond") {
  const std::vector<CurvePoint> curve{{100.0, 4.0}, {200.0, 4.0}, {300.0, 1.0}};
  CHECK(read_curve(curve, 0.0) == 4.0);
  CHECK(read_curve(curve, 150.0) == 4.0);
  CHECK(read_curve(curve, 250.0) == Approx(2.5));
  CHECK(read_curve(curve, 300.0) == Approx(1.0));
  CHECK(read_curve(curve, 301.0) == 0.0);
  CHECK(read_curve({}, 10.0) == 0.0);
}

TEST_CASE("one of Kt and Ke stands in for the other") {
  const ServoMotor by_ke =
      motor_of(sheet({{"inertia", "1 kg.cm2"}, {"ke", "30 V/krpm"}, {"ke_as", "line rms"}}));
  CHECK(by_ke.kt == Approx(30.0 * 0.016540).epsilon(1e-4));
  CHECK(std::isnan(by_ke.kt_given));
  const ServoMotor by_kt = motor_of(sheet({{"inertia", "1 kg.cm2"}, {"kt", "0.5 N.m/A"}, {"kt_per", "rms"}}));
  CHECK(by_kt.k == Approx(0.5 / std::sqrt(1.5) / std::sqrt(3.0)));
  CHECK_FALSE(by_kt.has_circuit());
}

TEST_CASE("the same motor told in three ways is the same motor") {
  const ServoMotor a = motor_of(sheet({{"kt", "0.5 N.m/A"},
                                       {"kt_per", "rms"},
                                       {"resistance", "2 Ohm"},
                                       {"inductance", "8 mH"},
                                       {"winding_as", "terminal"}}));
  const ServoMotor b = motor_of(sheet({{"kt", "0.353553391 N.m/A"},
                                       {"kt_per", "peak"},
                                       {"resistance", "1 Ohm"},
                                       {"inductance", "4 mH"},
                                       {"winding_as", "phase wye"}}));
  const ServoMotor c = motor_of(sheet({{"kt", "0.389848400 N.m/A"},
                                       {"kt_per", "dc"},
                                       {"resistance", "3 Ohm"},
                                       {"inductance", "12 mH"},
                                       {"winding_as", "phase delta"}}));
  for (const ServoMotor* other : {&b, &c}) {
    CHECK(other->kt == Approx(a.kt).epsilon(1e-8));
    CHECK(other->ke == Approx(a.ke).epsilon(1e-8));
    CHECK(other->resistance == Approx(a.resistance));
    CHECK(other->inductance == Approx(a.inductance));
  }
}

TEST_CASE("current and torque undo each other, saturation included") {
  for (const Section& part : parts_of_form("motor", servo_motor_section())) {
    const ServoMotor motor = motor_of(part);
    INFO(part.text("part_number"));
    for (const double share : {0.1, 0.9, 1.5, 2.5}) {
      const double torque = share * motor.continuous.front()[1];
      if (torque > motor.peak.front()[1]) continue;
      CHECK(motor.torque_of_current(motor.current(torque)) == Approx(torque).epsilon(1e-12));
    }
    // the peak point of the sheet, a torque at the shaft, is met exactly at standstill
    const double at_rest = motor.air_gap(motor.peak.front()[1], 0.0, 0.0);
    if (motor.saturates()) CHECK(motor.current(at_rest) == Approx(motor.peak_current.value).epsilon(1e-12));
  }
}

TEST_CASE(
    "drag adds to the current when driving and saves it when braking, also where the speed is still zero") {
  const ServoMotor motor =
      motor_of(sheet({{"kt", "0.5 N.m/A"}, {"kt_per", "rms"}, {"hysteresis", "0.1 N.m"}}));
  const auto current = [&](double torque, double speed, double direction) {
    return motor.current(motor.air_gap(torque, speed, direction));
  };
  CHECK(current(1.0, 10.0, 1.0) == Approx(2.2));
  CHECK(current(-1.0, 10.0, 1.0) == Approx(1.8));
  CHECK(current(1.0, 0.0, 1.0) == Approx(2.2)); // a start
  // a hold: friction may hinder, it is not trusted to help
  CHECK(current(1.0, 0.0, 0.0) == Approx(2.2));
  CHECK(current(-1.0, 0.0, 0.0) == Approx(2.2));
  CHECK(current(0.0, 0.0, 0.0) == 0.0);
  CHECK(current(-1.0, -10.0, -1.0) == Approx(2.2));
}

TEST_CASE("the voltage a torque needs: winding warm when driving, cold where it helps less when braking") {
  // K = 0.1 V·s/rad, 4 Ω and 8 mH between two leads at 20 °C, 3 pole pairs, winding limit 155 °C
  const ServoMotor motor = motor_of(sheet({{"inertia", "1 kg.cm2"},
                                           {"ke", "0.173205081 V.s/rad"},
                                           {"ke_as", "line peak"},
                                           {"resistance", "4 Ohm"},
                                           {"inductance", "8 mH"},
                                           {"pole_pairs", "3"},
                                           {"winding_limit", "155 degC"}}));
  REQUIRE(motor.has_circuit());
  // I = T/(1.5·K), peak: 2 A for 0.3 N·m; at 200 rad/s X·I = 600·4 mH·2 A = 4.8 V, K·ω = 20 V
  const double hot = 2.0 * (1.0 + 0.00393 * 135.0), cold = 2.0;
  CHECK(motor.voltage(0.3, 200.0, 1.0) == Approx(std::hypot(4.8, hot * 2.0 + 20.0)).epsilon(1e-6));
  CHECK(motor.voltage(-0.3, -200.0, -1.0) == Approx(std::hypot(4.8, hot * 2.0 + 20.0)).epsilon(1e-6));
  CHECK(motor.voltage(-0.3, 200.0, 1.0) == Approx(std::hypot(4.8, 20.0 - cold * 2.0)).epsilon(1e-6));
  // slow, the winding takes more than the back-EMF gives: then the warm one is the worse
  CHECK(motor.voltage(-0.3, 10.0, 1.0) == Approx(std::hypot(0.24, 1.0 - hot * 2.0)).epsilon(1e-6));
  Recorder silent(false);
  for (const auto& [torque, speed] : {std::pair{0.3, 200.0}, {-0.3, 200.0}, {-0.3, 10.0}})
    CHECK(motor.record_voltage(torque, speed, 1.0, "v", silent).value ==
          Approx(motor.voltage(torque, speed, 1.0)).epsilon(1e-12));
  CHECK(motor.emf(-200.0) == Approx(34.6410162).epsilon(1e-6));
}

TEST_CASE("the peak torque is the least of curve, current and voltage") {
  const ServoMotor motor = motor_of(*library().find("motor", "CR80-0750-325L"));
  const double volts = voltage_limit(325.0, 0.95);
  const PeakLimits free = motor.peak_limits(100.0, {volts, unlimited, false}, false);
  CHECK(free.least() == Approx(std::min({free.catalogue, free.current, free.voltage})));
  // a weak drive
  const PeakLimits weak = motor.peak_limits(100.0, {volts, motor.rated_current.value, false}, false);
  CHECK(weak.least() == Approx(weak.current).epsilon(1e-3)); // Kt and Ke of a sheet are rounded
  CHECK(weak.current == Approx(motor.kt * motor.rated_current - motor.drag(100.0)).epsilon(1e-9));
  // half the bus at high speed
  const double fast = 5000.0 * rpm;
  const PeakLimits sagging = motor.peak_limits(fast, {0.5 * volts, unlimited, false}, false);
  CHECK(sagging.least() == Approx(std::max(0.0, sagging.voltage)));
  CHECK(sagging.least() < motor.peak_limits(fast, {volts, unlimited, false}, false).least());
  // nothing known, nothing promised
  CHECK(ServoMotor().peak_limits(0.0, {}, false).least() == 0.0);
}

TEST_CASE("more voltage never costs torque, more speed never gives any") {
  for (const char* number : {"CR40-0100-048L", "CR80-0750-325L", "VK180-5000-560H"}) {
    const ServoMotor motor = motor_of(*library().find("motor", number));
    double before = unlimited;
    for (int i = 0; i <= 40; ++i) {
      const double speed = motor.max_speed * i / 40.0;
      double lower = 0.0;
      for (const double bus : {24.0, 48.0, 160.0, 325.0, 560.0}) {
        const double torque = motor.peak_torque(speed, {voltage_limit(bus, 0.95), unlimited, false}, false);
        CHECK(torque >= lower - 1e-12);
        lower = torque;
      }
      CHECK(lower <= before * (1.0 + 1e-9));
      before = lower;
    }
  }
}

TEST_CASE("field weakening only helps, and only beyond the voltage corner") {
  const SineMachine machine{0.1, 0.5, 2e-3, 5.0};
  for (int i = 0; i < 100; ++i) {
    const double speed = 10.0 * i;
    const double plain = best_current(machine, speed, 40.0, 20.0, false).q;
    const double weakened = best_current(machine, speed, 40.0, 20.0, true).q;
    CHECK(weakened >= plain - 1e-9);
    if (plain >= 20.0) CHECK(weakened == Approx(plain));
  }
}

TEST_CASE(
    "continuous torque falls with ambient and speed, and is zero where iron loss takes all the heat path") {
  const double cool = continuous_torque(0.5, 1.0, 428.15, 313.15, 0.3, 0.7, 0.01, 1e-4, 300.0);
  CHECK(cool > continuous_torque(0.5, 1.0, 428.15, 333.15, 0.3, 0.7, 0.01, 1e-4, 300.0));
  CHECK(cool > continuous_torque(0.5, 1.0, 428.15, 313.15, 0.3, 0.7, 0.01, 1e-4, 500.0));
  CHECK(continuous_torque(0.5, 1.0, 428.15, 313.15, 0.3, 0.7, 0.01, 1e-2, 500.0) == 0.0);
  CHECK(ambient_derating(428.15, 303.15, 313.15, 0.0) == 1.0); // cooler than the catalogue earns nothing
  CHECK(ambient_derating(428.15, 428.15, 313.15, 0.0) == 0.0);
  CHECK(ambient_derating(428.15, 333.15, 313.15, 20.0) < ambient_derating(428.15, 333.15, 313.15, 0.0));
  CHECK(altitude_derating(500.0) == 1.0);
  CHECK(altitude_derating(20000.0) == 0.0);
}

TEST_CASE("no speed of a stretch leaves less torque than its least peak, whatever the curve") {
  std::mt19937 random(11);
  std::uniform_real_distribution<double> torque(0.5, 2.0), speed(0.0, 600.0);
  for (int i = 0; i < 300; ++i) {
    std::string curve; // rises and falls: a maker's table may do both
    for (int k = 0; k <= 6; ++k)
      curve += (k > 0 ? "; " : "") + std::to_string(100 * k) + " rad/s: " + std::to_string(torque(random)) +
               " N.m";
    Section section(servo_motor_section());
    section.type("inertia", "1 kg.cm2");
    section.type("peak_curve", curve);
    Recorder silent(false);
    const ServoMotor motor = ServoMotor::from(section, silent);
    const double a = speed(random), b = speed(random);
    const double slowest = std::min(a, b), fastest = std::max(a, b);
    for (const bool braking : {false, true}) {
      const double least = motor.least_peak(slowest, fastest, {}, braking);
      for (int k = 0; k <= 200; ++k) {
        const double at = slowest + (fastest - slowest) * k / 200.0;
        if (least > motor.peak_torque(at, {}, braking) * (1.0 + 1e-12))
          FAIL(curve << " between " << slowest << " and " << fastest << " at " << at);
      }
    }
  }
}
