// The worked examples of docs/manual.md, recomputed with the program; the manual must hold their numbers.

#include "core/demand/accuracy.hpp"
#include "core/heat/formulas.hpp"
#include "core/heat/network.hpp"
#include "core/mechanism/spring_formulas.hpp"
#include "core/motor/bench_winding.hpp"
#include "core/motor/brushed.hpp"
#include "core/motor/constants.hpp"
#include "core/motor/envelope.hpp"
#include "core/motor/interior_formulas.hpp"
#include "core/motor/pull_out.hpp"
#include "core/motor/readings.hpp"
#include "core/motor/stepper_formulas.hpp"
#include "core/quantity/constants.hpp"
#include "core/springs/chain.hpp"
#include "core/stops/formulas.hpp"
#include "core/support/text_file.hpp"
#include "reference/numbers.hpp"
#include "support/axes.hpp"

#include <catch2/catch.hpp>

#include <array>
#include <cmath>
#include <cstdio>
#include <numbers>

using namespace fulmox;
using namespace fulmox::testing;

namespace {

const std::string& manual() {
  static const std::string text = [] {
    std::string all = *read_text_file(source_folder() / "docs" / "manual.md", 1U << 20U);
    for (char& c : all)
      if (c == '\n') c = ' ';
    return all;
  }();
  return text;
}

/// Whether the manual says this, the number written as there.
void says(const char* form, double value) {
  char text[256];
  std::snprintf(text, sizeof text, form, value);
  INFO(text);
  CHECK(manual().find(text) != std::string::npos);
}

double reading(const char* id, double k) { return value_of(*find_reading(id), k, 4.0); }

} // namespace

TEST_CASE("the manual's example of motor constants") {
  const double k = k_from(*find_reading("ke_line_rms"), 10.0 / (1000.0 * rpm), 4.0);
  says("10·0.016540 = %.4f N·m/A", reading("kt_rms", k));
  says("per peak ampere %.4f", reading("kt_peak", k));
  says("DC ampere in a six-step drive %.4f", reading("kt_dc", k));
  says("Kv is %.1f rpm per line-line peak volt", reading("kv_line_peak", k) / rpm);
  says("give %.4f N·m/A", 1.0 / reading("kv_line_peak", k));
  says("%.3f of the truth per rms ampere", 1.0 / reading("kv_line_peak", k) / reading("kt_rms", k));
  const SpunConstant spun = spun_constant({200.0, 30.0, SpinTest::Volts::rms, false, 4.0});
  CHECK(spun.speed == Approx(3000.0 * rpm));
  CHECK(spun.k == Approx(k).epsilon(1e-3));
}

TEST_CASE("the manual's example of a brushed motor") {
  Section sheet(brushed_motor_section());
  sheet.type("ke", "5 V/krpm");
  sheet.type("resistance", "0.8 Ohm");
  sheet.type("brush_drop", "1 V");
  sheet.type("peak_current", "100 A");
  Recorder silent(false);
  const BrushedMotor motor = BrushedMotor::from(sheet, silent);
  says("Ke = 5 V/krpm (%.5f N·m/A)", motor.kt);
  const double top = 23.0 / motor.kt;
  says("= %.0f rad/s", top);
  CHECK(top / rpm == Approx(4600.0));
  const double torque = motor.peak_limits(0.5 * top, {24.0, 1e9, false}, false).voltage;
  says("the voltage drives %.1f A", torque / motor.kt);
  says("A, %.3f N·m in the air gap", torque);
}

TEST_CASE("the manual's example of a stepper") {
  const double k = stepper_constant(1.2, 3.0);
  const ChoppedStepper m{k, k, 0.8, 3e-3, 50.0, crest_for_rated(3.0), 36.0, 256.0};
  says("Its corner lies at %.0f rpm", corner_speed(m) / rpm);
  const auto at = [&](double steps) { return pull_out(m, speed_of_steps(steps, 200.0)).phase.torque; };
  says("(300 rpm) pull-out is %.3f N·m", at(1000.0));
  says("(900 rpm) %.2f N·m", at(3000.0));
  says("with the factor %.2f N·m", at(3000.0) / 1.5);
  const double f = step_resonance(50.0, 1.2, 90e-6);
  says("it resonates at %.0f Hz", f);
  says("Hz, %.0f rpm", speed_of_steps(f, 200.0) / rpm);
  const double start = pull_in_speed(50.0, 1.2, 90e-6, 0.0);
  says("up to %.0f full steps a second", std::round(pulse_rate(start, 200.0, 1.0) / 10.0) * 10.0);
  says("(%.0f rpm). 16", start / rpm);
  CHECK(pulse_rate(900.0 * rpm, 200.0, 16.0) == Approx(48000.0));
}

TEST_CASE("the manual's example of a bench") {
  const double k = stepper_constant(1.2, 3.0);
  const ChoppedStepper m{k, k, 0.8, 3e-3, 50.0, crest_for_rated(3.0), 36.0, 256.0};
  const auto supply = [&](double torque, double n) {
    const double drag = 0.030 + 1e-4 * n;
    const auto phase = running_phase(m, n, torque + drag);
    REQUIRE(phase);
    return ((torque + drag) * n + 2.0 * m.resistance * phase->mean_square) / m.volts;
  };
  says("%.3f A at rest", m.resistance * m.current * m.current / m.volts);
  says("A at rest, %.2f A at 473 rpm", supply(0.0, 473.0 * rpm));
  says("at 473 rpm, %.2f A at 900 rpm without load", supply(0.0, 900.0 * rpm));
  says("with 0.2 N·m %.2f A", supply(0.2, 473.0 * rpm));
  says("A and %.2f A", supply(0.2, 900.0 * rpm));
}

TEST_CASE("the manual's example of a field turned ahead, and of hot magnets") {
  const double rms = turned_current(0.3, 0.1, 0.25, 1.0, 0.2e-3, 50.0, 100.0, 25.0);
  says("A crest, %.2f A rms", rms);
  says("instead of %.2f A", 3.0 / std::sqrt(2.0));
  says("would need %.1f V", phase_voltage(0.25, 1.0, 0.2e-3, 50.0, 100.0, 3.0));
  const double hot = usual_magnet_temperature(155.0 + 273.15, 40.0 + 273.15);
  says("NdFeB at %.0f °C", hot - 273.15);
  says("give %.1f %% of the torque", 100.0 * magnet_factor(-0.0012, hot));
}

TEST_CASE("the manual's example of magnets inside the rotor") {
  const InteriorMachine m{0.12, 1.0, 0.3, 2e-3, 5e-3, 4.0};
  const DqCurrent i = most_torque_per_ampere(m, 20.0);
  says("i_d = −%.1f A", -i.d);
  says("A, %.2f N·m, of which", interior_torque(m, i));
  says("of which %.1f N·m would", interior_torque(m, {0.0, 20.0}));
  says("20 A peak (%.1f A rms)", 20.0 / std::sqrt(2.0));
  says("weakened, %.2f N·m", interior_torque(m, best_interior_current(m, 1000.0, 170.0, 20.0, true)));
}

TEST_CASE("the manual's example of a winding on the bench") {
  const ToldWinding told = told_winding({{0.82, 0.82, 0.82}, 45.0 + 273.15, std::array{4.0, 1.1, 0.9}});
  says("0.00393) = %.3f Ω at 20 °C", told.resistance);
  says("±%.1f %%; rises", 100.0 * told.uncertainty);
  REQUIRE(told.kind == WindingKind::delta);
  says("a delta of %.2f Ω a winding", 1.5 * told.resistance);
}

TEST_CASE("the manual's example of heat") {
  constexpr double zero = constants::zero_celsius;
  const ThermalNetwork n{100.0, 1500.0, 0.4, 0.6, zero + 40.0, 1.0};
  const std::vector<HeatSpan> cycle{{30.0, 300.0, 300.0, 10.0}, {120.0, 20.0, 20.0, 10.0}};
  const std::vector<HeatSpan> mean{{150.0, 76.0, 76.0, 10.0}}, hard{{1e4, 900.0, 900.0, 10.0}};
  says("end at %.1f °C", periodic_heat(n, cycle).hottest - zero);
  says("would have told %.1f °C", periodic_heat(n, mean).hottest - zero);
  const HeatState cold{zero + 40.0, zero + 40.0, zero + 40.0};
  says("is met after %.1f s", *time_to(n, hard, cold, zero + 155.0));
  says("or %.1f s if nothing", adiabatic_time(100.0, 900.0, zero + 155.0, zero + 40.0));
  says("allows %.2f times the continuous current", intermittent_factor(n, zero + 155.0, 0.25, 600.0));
  says("it gives %.3f of its continuous torque", hold_factor(0.4, 0.6, 2.0));
}

TEST_CASE("the manual's example of stops and brakes") {
  says("at %.0f rad/s and has gone", speed_at_brake(5e-4, 0.0, 1.0, 0.0, 0.05));
  says("has gone %.1f rad", angle_to_brake(5e-4, 0.0, 1.0, 0.0, 0.05));
  const double under = angle_under_brake(5e-4, 100.0, 1.0, 0.0, 3.0);
  says("%.2f rad more under the brake", under);
  says("which takes %.2f J", brake_energy(3.0, under));
  says("2 N·m going on: %.1f N·m", jam_torque(2.0, 500.0, 1e-4, 100.0));
  says("brakes with %.3f N·m at most", short_peak(1.5 * 0.01 * 0.5, 0.5, 4.0 * 2e-3, 4.0 * 2e-3, 500.0));
  says("across the magnets with %.3f N·m", short_peak(1.5 * 0.01 * 0.5, 0.5, 4.0 * 2e-3, 4.0 * 4e-3, 500.0));
  says("return %.1f J", stop_return(1e-3, 300.0, 3.0, 1.0));
}

TEST_CASE("the manual's example of springs and accuracy") {
  const SpringChain chain{{1e-4, 4e-4}, {100.0}};
  const double held = antiresonances(chain).front() / constants::tau;
  says("antiresonance %.1f Hz", held);
  says("resonance %.1f Hz", resonances(chain).front() / constants::tau);
  says("%.1f Hz of bandwidth left", held / 3.0);
  says("gives %.1f N/µm", screw_axial(0.016, 0.4) * 1e-6);
  const double growth = book::thermal_growth.compute(std::vector{0.5, 10.0});
  says("are %.1f µm longer", 1e6 * growth);
  says("%.0f µm at most", 1e6 * book::worst_sum.compute(std::vector{3e-6, 4e-6}));
  says("settles in %.1f ms", 1e3 * settling_time(std::round(10.0 * held / 3.0) / 10.0));
  says("%.0f µm by chance", 1e6 * book::root_sum.compute(std::vector{3e-6, 4e-6}));
}

TEST_CASE("the manual's example of corners") {
  says("%.0f A as typed", 1.8 / 0.2);
  says("%.0f A at its least", 1.8 / (0.9 * 0.2));
}
