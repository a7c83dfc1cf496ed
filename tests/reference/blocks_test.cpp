// Motors fed with blocks against phase currents stepped in time, and brushed motors against Heaviside's
// exponential: codes that share nothing with the program's.

#include "core/motor/block_heat.hpp"
#include "core/motor/brushed.hpp"
#include "core/motor/constants.hpp"
#include "core/motor/dc_formulas.hpp"
#include "core/motor/six_step.hpp"
#include "reference/numbers.hpp"
#include "support/axes.hpp"

#include <catch2/catch.hpp>

#include <array>
#include <cmath>
#include <numbers>

using namespace fulmox;
using namespace fulmox::testing;

namespace {

/// Back-EMF of a phase, crest 1: sine, or flat over 120° with straight flanks.
double wave(double angle, bool flat) {
  if (!flat) return std::sin(angle);
  double turn = std::fmod(angle, 2.0 * pi);
  if (turn < 0.0) turn += 2.0 * pi;
  const double sign = turn < pi ? 1.0 : -1.0, half = std::fmod(turn, pi);
  return sign * std::min({1.0, half / (pi / 6.0), (pi - half) / (pi / 6.0)});
}

/// Torque-making current and the one that heats alike, both as R_ll·I² means them.
struct Stepped {
  double torque = 0.0, heating = 0.0; ///< N·m, A
};

/// Mean torque of an ideal six-step bridge with free-wheeling diodes on a wye, steady, by small steps of the
/// three phase currents: crest of the phase EMF e (V), R and L of a phase, ω_e electrical. Returns Σ e·i/ω
/// per mechanical rad/s with ω = ω_e/p.
Stepped stepped(double e, double r, double l, double omega_e, double volts, bool flat, double pairs) {
  constexpr int steps = 14400;
  const double h = 2.0 * pi / omega_e / steps;
  std::array<double, 3> i{};
  double sum = 0.0, squares = 0.0;
  const int turns = 4 + static_cast<int>(8.0 * l / r * omega_e / (2.0 * pi));
  for (int turn = 0; turn < turns; ++turn) {
    sum = squares = 0.0;
    for (int n = 0; n < steps; ++n) {
      const double angle = 2.0 * pi * (n + 0.5) / steps;
      std::array<double, 3> emf{}, leg{};
      std::array<bool, 3> floats{};
      for (int k = 0; k < 3; ++k) {
        const double own = angle - 2.0 * pi / 3.0 * k;
        emf[k] = e * wave(own, flat);
        double turned = std::fmod(own, 2.0 * pi);
        if (turned < 0.0) turned += 2.0 * pi;
        // on for the 120° around the crest
        if (turned > pi / 6.0 && turned < 5.0 * pi / 6.0)
          leg[k] = volts / 2.0;
        else if (turned > 7.0 * pi / 6.0 && turned < 11.0 * pi / 6.0)
          leg[k] = -volts / 2.0;
        else if (i[k] > 1e-9)
          leg[k] = -volts / 2.0; // the lower diode carries it
        else if (i[k] < -1e-9)
          leg[k] = volts / 2.0;
        else
          floats[k] = true, i[k] = 0.0;
      }
      double star = 0.0;
      int live = 0;
      for (int k = 0; k < 3; ++k)
        if (!floats[k]) star += leg[k] - emf[k], ++live;
      // Σ i = 0 of the live legs: their resistive drops cancel
      star /= live > 0 ? live : 1;
      for (int k = 0; k < 3; ++k)
        if (floats[k]) { // a diode starts to carry where its lead would leave the rails
          const double lead = star + emf[k];
          if (lead > volts / 2.0 || lead < -volts / 2.0) {
            floats[k] = false;
            leg[k] = lead > 0.0 ? volts / 2.0 : -volts / 2.0;
          }
        }
      star = 0.0;
      live = 0;
      for (int k = 0; k < 3; ++k)
        if (!floats[k]) star += leg[k] - emf[k], ++live;
      star /= live > 0 ? live : 1;
      for (int k = 0; k < 3; ++k) {
        if (floats[k]) continue;
        const double before = i[k];
        i[k] += h * (leg[k] - star - emf[k] - r * i[k]) / l;
        const double own = std::fmod(angle - 2.0 * pi / 3.0 * k + 4.0 * pi, 2.0 * pi);
        const bool off =
            !((own > pi / 6.0 && own < 5.0 * pi / 6.0) || (own > 7.0 * pi / 6.0 && own < 11.0 * pi / 6.0));
        if (off && before * i[k] < 0.0) i[k] = 0.0; // the diode stops
      }
      // what rounding and stopping diodes leave
      const double rest = (i[0] + i[1] + i[2]) / (live > 0 ? live : 1);
      for (int k = 0; k < 3; ++k)
        if (!floats[k]) i[k] -= rest;
      for (int k = 0; k < 3; ++k) sum += emf[k] * i[k] / steps, squares += i[k] * i[k] / steps;
    }
  }
  // R_ll·I² = 2·R·I² is what the three phases lose
  return {sum / (omega_e / pairs), std::sqrt(0.5 * squares)};
}

} // namespace

TEST_CASE("torque of blocks at a voltage agrees with stepped phase currents") {
  constexpr double r = 0.25, e_per = 0.05, p = 4.0; // phase values: Ω, V·s/rad
  for (const bool flat : {false, true})
    for (const double x : {0.15, 0.5, 1.0, 2.0, 4.0})
      for (const double s : {0.2, 0.5, 0.7, 0.85}) {
        const double omega = 300.0, omega_e = p * omega, l = x * r / omega_e;
        const double kt = flat ? kt_flat(2.0 * e_per) : kt_blocks_on_sine(std::sqrt(3.0) * e_per);
        const double volts = kt * omega / s;
        const BlockMachine machine{kt, 2.0 * r, 2.0 * l, p, flat};
        const double ours = kt * block_current(machine, omega, volts);
        const Stepped seen = stepped(e_per * omega, r, l, omega_e, volts, flat, p);
        INFO("flat " << flat << ", x " << x << ", s " << s << ": " << ours << " for " << seen.torque);
        CHECK(ours < 1.02 * seen.torque); // low rather than high
        CHECK(ours > 0.86 * seen.torque); // between x 1 and 3 the table is wide
        const double heating = block_heat_current(machine, omega, seen.torque / kt);
        INFO("heating " << heating << " for " << seen.heating);
        CHECK(heating > 0.985 * seen.heating);
        CHECK(heating < 1.03 * seen.heating);
      }
}

TEST_CASE("a very inductive winding on blocks heats up to twice and a half what its torque tells") {
  constexpr double r = 0.25, e_per = 0.05, p = 4.0, omega = 300.0, omega_e = p * omega;
  for (const double x : {6.0, 10.0, 20.0})
    for (const double s : {0.05, 0.3, 0.5}) {
      const double l = x * r / omega_e, kt = kt_blocks_on_sine(std::sqrt(3.0) * e_per);
      const Stepped seen = stepped(e_per * omega, r, l, omega_e, kt * omega / s, false, p);
      const double heating = block_heat_current({kt, 2.0 * r, 2.0 * l, p, false}, omega, seen.torque / kt);
      INFO("x " << x << ", s " << s << ": " << heating << " for " << seen.heating);
      CHECK(heating == Approx(seen.heating).epsilon(0.04));
      CHECK(heating > 1.05 * seen.torque / kt);
    }
}

TEST_CASE("near the no-load speed the arcs of a sine drive currents that only heat") {
  constexpr double r = 0.25, e_per = 0.05, p = 4.0, omega = 300.0, omega_e = p * omega;
  for (const double x : {0.1, 0.3}) {
    const double l = x * r / omega_e, kt = kt_blocks_on_sine(std::sqrt(3.0) * e_per);
    const Stepped seen = stepped(e_per * omega, r, l, omega_e, kt * omega / 0.96, false, p);
    const double heating = block_heat_current({kt, 2.0 * r, 2.0 * l, p, false}, omega, seen.torque / kt);
    INFO("x " << x << ": " << heating << " for " << seen.heating << ", torque's " << seen.torque / kt);
    CHECK(seen.heating > 1.05 * seen.torque / kt);
    CHECK(heating > 0.985 * seen.heating);
    CHECK(heating < 1.08 * seen.heating);
  }
}

TEST_CASE("a six-step axis heats with the currents of its phases") {
  Axis axis = plain_axis();
  axis["surroundings"].type("bus", "48 V");
  choose_part(axis, "motor", parts_of_form("motor", six_step_motor_section()).back());
  const Evaluation e = evaluated(axis);
  const auto& motor = dynamic_cast<const SixStepMotor&>(*e.model->motor);
  const BlockMachine machine{motor.kt, motor.warm_resistance, motor.inductance, motor.pole_pairs, motor.flat};
  constexpr int many = 60000;
  double square = 0.0, torque_square = 0.0, most = 0.0;
  for (int i = 0; i < many; ++i) {
    const Instant now = e.at(e.model->load->cycle.duration * (i + 0.5) / many);
    const double made = std::abs(motor.air_gap(now.torque, now.speed, now.input.direction)) / motor.kt;
    const double heating =
        now.input.direction == 0.0 ? made : block_heat_current(machine, std::abs(now.speed), made);
    square += heating * heating / many;
    torque_square += made * made / many;
    most = std::max(most, heating);
  }
  CHECK(value(e, "drive.rms_current") == Approx(std::sqrt(square)).epsilon(1e-5));
  CHECK(value(e, "drive.rms_current") > std::sqrt(torque_square));
  CHECK(value(e, "drive.peak_current") == Approx(most).epsilon(1e-4));
  CHECK(limit(e, "motor.heat").demand == Approx(std::sqrt(square)).epsilon(1e-5));
}

// Phase advance 0 of the example in the calculation reference: 0.05 V·s/rad, 0.25 Ω, 0.5 mH a phase, 48 V.
TEST_CASE("blocks on an inductive motor over speed") {
  const BlockMachine machine{kt_blocks_on_sine(std::sqrt(3.0) * 0.05), 0.5, 1e-3, 4.0, false};
  const double expected[] = {4.742, 2.762, 1.567, 0.771, 0.221};
  for (int i = 0; i < 5; ++i) {
    const double speed = 1000.0 * (i + 1) * 2.0 * pi / 60.0;
    const double torque = machine.kt * block_current(machine, speed, 48.0);
    INFO(1000 * (i + 1) << " rpm: " << torque);
    CHECK(torque < 1.01 * expected[i]);
    CHECK(torque > 0.90 * expected[i]);
  }
}

TEST_CASE("current and voltage of blocks are inverse to each other, and fall with speed") {
  RandomAxes random(11);
  for (int n = 0; n < 2000; ++n) {
    const BlockMachine m{random.between(0.01, 0.5), random.between(0.05, 5.0), random.between(0.0, 10e-3),
                         std::round(random.between(1.0, 8.0)), random.between(0.0, 1.0) < 0.5};
    const double speed = random.between(0.0, 600.0),
                 volts = random.between(1.05, 30.0) * (m.kt * speed + 0.1);
    const double current = block_current(m, speed, volts);
    CHECK(block_volts(m, speed, current) == Approx(volts).epsilon(1e-9));
    CHECK(block_current(m, 1.05 * speed + 1.0, volts) <= current * (1.0 + 1e-9));
    CHECK(block_current(m, speed, 1.05 * volts) >= current);
    CHECK(current <= std::max(0.0, volts - m.kt * speed) / m.resistance * (1.0 + 1e-9));
  }
}

// Handbook relations of the brushed motor: a straight line from stall to no load, greatest efficiency
// (1 − √(I_0/I_s))² without brush drop, greatest power at half the stall torque.
TEST_CASE("a brushed motor follows its straight line") {
  Section sheet(brushed_motor_section());
  for (const auto& [field, text] :
       std::initializer_list<std::pair<std::string_view, std::string_view>>{{"inertia", "100 g.cm2"},
                                                                            {"max_speed", "6000 rpm"},
                                                                            {"ke", "5 V/krpm"},
                                                                            {"resistance", "0.8 Ohm"},
                                                                            {"brush_drop", "1 V"},
                                                                            {"peak_current", "20 A"},
                                                                            {"hysteresis", "4 mN.m"}})
    sheet.type(field, text);
  Recorder silent(false);
  const BrushedMotor motor = BrushedMotor::from(sheet, silent);
  CHECK(motor.kt == Approx(5.0 / 104.7197551197).epsilon(1e-9)); // 1 V/krpm is 1/104.72 V·s/rad
  const MotorSupply supply{24.0, 100.0, false};
  // stall: the current limit binds before (24 − 1)/0.8 A
  CHECK(motor.peak_torque(0.0, supply, false) == Approx(motor.kt * 20.0 - 0.004));
  const double no_load = (24.0 - 1.0 - 0.8 * 0.004 / motor.kt) / motor.kt;
  CHECK(motor.peak_torque(no_load * 0.9999, supply, false) == Approx(0.0).margin(2e-4));
  CHECK(motor.peak_torque(no_load * 1.0001, supply, false) == 0.0);
  const double half = 0.5 * (24.0 - 1.0) / motor.kt;
  CHECK(motor.peak_limits(half, supply, false).voltage == Approx(motor.kt * 0.5 * 23.0 / 0.8 - 0.004));
  // power closes: what the leads take is shaft, drag, copper and brushes
  const double speed = 300.0, torque = 0.2, air_gap = motor.air_gap(torque, speed, 1.0);
  const double current = motor.current(air_gap);
  CHECK(motor.voltage(air_gap, speed, 1.0) * current ==
        Approx(torque * speed + motor.drag(speed) * speed + motor.copper(current)));
  // braking gives back what the winding does not eat
  const double braking = motor.air_gap(-torque, speed, 1.0), back = motor.current(braking);
  CHECK(motor.voltage(braking, speed, 1.0) * back ==
        Approx(torque * speed - motor.drag(speed) * speed - motor.copper(back)));
}

TEST_CASE("what a six-step motor's sheet says comes out the same in every reading") {
  const auto motor = [](std::initializer_list<std::pair<std::string_view, std::string>> values) {
    Section sheet(six_step_motor_section());
    for (const auto& [field, text] : values) sheet.type(field, text);
    Recorder silent(false);
    return SixStepMotor::from(sheet, silent);
  };
  const double kt = 0.0954929659; // on a sine of 0.1 V·s/rad line-line peak
  CHECK(motor({{"kt", "0.0954929659 N.m/A"}}).kt == Approx(kt));
  CHECK(motor({{"kt", "0.0954929659 N.m/A"}, {"kt_per", "dc"}}).ke == Approx(0.1));
  CHECK(motor({{"kt", "0.122474487 N.m/A"}, {"kt_per", "rms"}}).kt == Approx(kt));
  CHECK(motor({{"kt", "0.0866025404 N.m/A"}, {"kt_per", "peak"}}).kt == Approx(kt));
  CHECK(motor({{"ke", "0.1 V.s/rad"}, {"ke_as", "line peak"}}).kt == Approx(kt));
  CHECK(motor({{"ke", "0.0707106781 V.s/rad"}}).kt == Approx(kt));
  CHECK(motor({{"ke", "0.1 V.s/rad"}, {"ke_as", "line peak"}, {"emf_shape", "flat"}}).kt == Approx(0.1));
  CHECK(motor({{"ke", "0.0745355992 V.s/rad"}, {"emf_shape", "flat"}}).kt == Approx(0.1));
  // equal heat: blocks give 3/π of the sine's torque on a sine back-EMF
  const double sine = kt_from_ke(0.1) * std::sqrt(1.0 / 1.5); // 1 W in 1 Ω: I_rms = √(1/1.5)
  CHECK(kt / sine == Approx(3.0 / pi).epsilon(1e-9));
}

TEST_CASE("a motor says which drive cannot run it, and the ladder puts that first") {
  Axis axis = plain_axis();
  axis["surroundings"].type("bus", "24 V");
  choose_part(axis, "motor", parts_of_form("motor", brushed_motor_section()).back());
  choose_part(axis, "drive", *library().find("drive", "SB24-080"));
  const Evaluation wrong = evaluated(axis);
  REQUIRE_FALSE(wrong.limits.empty());
  CHECK(wrong.limits.front().id == "drive.match");
  CHECK(wrong.limits.front().state == LimitState::over);
  CHECK(wrong.limits.front().rule.find("two leads") != std::string::npos);
  choose_part(axis, "drive", *library().find("drive", "SD24-100"));
  for (const Limit& rung : evaluated(axis).limits) CHECK(rung.id != "drive.match");
  choose_part(axis, "motor", *library().find("motor", "CR60-0400-048L"));
  CHECK(limit(evaluated(axis), "drive.match").state == LimitState::over);
}
