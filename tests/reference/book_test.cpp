// Every formula of the book beside an example worked by hand or taken from elsewhere. A formula without one
// fails.

#include "core/evaluation/book.hpp"
#include "core/quantity/parse.hpp"

#include "reference/book_examples.hpp"

#include <catch2/catch.hpp>

#include <cmath>
#include <set>
#include <string>
#include <vector>

using namespace fulmox;
using namespace fulmox::testing;

namespace {

const std::vector<Example>& examples() {
  static const std::vector<Example> list{
      {"motion.trapezoid_peak_speed",
       {"300 mm", "0.4 s", "1/3", "1/3"},
       "1.125 m/s",
       "mean 0.75 m/s times 1.5 for thirds"},
      {"motion.ramp_acceleration", {"1.125 m/s", "1/3", "0.4 s"}, "8.4375 m/s2", "1.125 m/s in 0.1333 s"},
      {"motion.ramp_deceleration", {"1.125 m/s", "1/3", "0.4 s"}, "-8.4375 m/s2", "the same, slowing down"},
      {"motion.speed_at", {"0.5 m/s", "2 m/s2", "0.25 s"}, "1 m/s", "0.5 + 2·0.25"},
      {"motion.trapezoid_rms_acceleration", {"1 m", "1 s", "1/3", "1/3"}, "3.67423461 m/s2", "√13.5"},
      {"force.inertia", {"6 kg", "4 kg", "2 m/s2"}, "20 N", "(6 + 4)·2"},
      {"force.gravity",
       {"10 kg", "9.80665 m/s2", "30 deg"},
       "49.03325 N",
       "half the weight on a 30° incline"},
      {"force.balance",
       {"4 kg", "9.80665 m/s2", "10 N", "0.2 N/mm", "30 mm", "90 deg"},
       "-43.2266 N",
       "−(4·9.80665 + 10 − 0.2·30), pulls uphill"},
      {"force.friction",
       {"-1", "0.1", "10 kg", "9.80665 m/s2", "60 deg", "0 N", "3 N"},
       "-7.903325 N",
       "−(0.1·(98.0665·0.5 + 0) + 3)"},
      {"force.viscous", {"40 N.s/m", "0.5 m/s"}, "20 N", "40·0.5"},
      {"force.linear", {"10 N", "-4 N", "1 N"}, "7 N", "sum"},
      {"force.breakaway",
       {"-20 N", "0.2", "10 kg", "9.80665 m/s2", "0 deg", "0 N", "5 N"},
       "44.6133 N",
       "20 + 0.2·98.0665 + 5"},
      {"screw.speed", {"0.5 m/s", "10 mm"}, "3000 rpm", "50 turns a second at 10 mm a turn"},
      {"screw.acceleration", {"1 m/s2", "10 mm"}, "628.318531 rad/s2", "2π/0.01"},
      {"screw.torque_driving",
       {"1000 N", "10 mm", "0.9"},
       "1.76838826 N.m",
       "handbooks: T = F·p/(2π·η); 1000·0.01/(2π·0.9)"},
      {"screw.torque_backdriven", {"1000 N", "10 mm", "0.9"}, "1.43239449 N.m", "1000·0.01·0.9/2π"},
      {"screw.torque_rest", {"1000 N", "10 mm"}, "1.59154943 N.m", "1000·0.01/2π"},
      {"screw.back_efficiency", {"0.9"}, "0.888888889", "2 − 1/0.9"},
      {"inertia.screw", {"7850 kg/m3", "1 m", "20 mm"}, "1.2330751 kg.cm2", "m = 2.4662 kg, m·d²/8"},
      {"inertia.screw_load", {"10 kg", "10 mm"}, "0.253302959 kg.cm2", "10·(0.01/2π)²"},
      {"torque.inertia", {"2 kg.cm2", "1000 rad/s2"}, "0.2 N.m", "2e-4·1000"},
      {"torque.drag", {"-1", "0.3 N.m"}, "-0.3 N.m", "opposes"},
      {"stage.driving", {"10 N.m", "5", "0.8"}, "2.5 N.m", "10/(5·0.8)"},
      {"stage.backdriven", {"10 N.m", "5", "0.8"}, "1.6 N.m", "10·0.8/5"},
      {"stage.rest", {"10 N.m", "5"}, "2 N.m", "10/5"},
      {"stage.speed", {"100 rpm", "5"}, "500 rpm", "5·100"},
      {"stage.acceleration", {"100 rad/s2", "5"}, "500 rad/s2", "5·100"},
      {"inertia.reflected", {"100 kg.cm2", "5"}, "4 kg.cm2", "100/25"},
      {"torque.sum", {"1 N.m", "2 N.m", "-0.5 N.m"}, "2.5 N.m", "sum"},
      {"inertia.sum", {"1 kg.cm2", "2 kg.cm2"}, "3 kg.cm2", "sum"},
      {"mass.sum", {"1 kg", "500 g"}, "1.5 kg", "sum"},
      {"gear.equivalent", {"1000", "1 rad", "3"}, "10 N.m", "cube root of 1000"},
      {"gear.starts", {"2", "3 s"}, "2400", "two every 3 s"},
      {"mounting.difference", {"70 mm", "69.85 mm"}, "0.15 mm", "70 − 69.85"},
      {"gear.inertia_behind", {"12 kg.cm2", "2 kg.cm2", "5"}, "250 kg.cm2", "10·25"},
      {"gear.stop_torque",
       {"4 N.m", "5", "0.8", "500 kg.cm2", "5 kg.cm2"},
       "20 N.m",
       "25 N·m, of which the load takes 500 of 625"},
      {"gear.shock_factor", {"1500"}, "1.2", "step between 1000/h and 2000/h"},
      {"gear.peak", {"20 N.m", "1.2"}, "24 N.m", "20·1.2"},
      {"demand.peak", {"-3 N.m"}, "3 N.m", "magnitude"},
      {"demand.max_speed", {"-3000 rpm"}, "3000 rpm", "magnitude"},
      {"demand.rms", {"2 s", "8", "10"}, "3 N.m", "√(18/2)"},
      {"demand.square_integral", {"1 N.m", "2 N.m", "3 s"}, "7", "∫(1 + τ/3)²dτ from 0 to 3"},
      {"demand.mean_speed", {"20 rad", "4 s"}, "5 rad/s", "20/4"},
      {"demand.rms_speed", {"100", "4 s"}, "5 rad/s", "√25"},
      {"demand.ratio", {"6 kg.cm2", "2 kg.cm2"}, "3", "6/2"},
      {"demand.energy", {"12 J"}, "12 J", "identity"},
      {"drive.rms_current", {"50", "2 s"}, "5 A", "√25"},
      {"supply.mean_power", {"100 J", "4 s"}, "25 W", "100/4"},
      {"supply.net_power", {"100 J", "30 J", "4 s"}, "17.5 W", "70/4"},
      {"supply.peak_power", {"100 W", "10 W", "5 W", "8 W"}, "123 W", "sum"},
      {"supply.returned", {"4 J"}, "4 J", "identity"},
      {"motor.ke_from_line_rms", {"10 V/krpm"}, "14.1421356 V/krpm", "√2"},
      {"motor.ke_from_line_peak", {"10 V/krpm"}, "10 V/krpm", "identity"},
      {"motor.ke_from_phase_rms", {"10 V/krpm"}, "24.4948974 V/krpm", "√6"},
      {"motor.ke_from_phase_peak", {"10 V/krpm"}, "17.3205081 V/krpm", "√3"},
      {"motor.ke_from_kt", {"0.5 N.m/A"}, "0.40824829 V.s/rad", "0.5/√1.5"},
      {"motor.kt_from_ke", {"0.4 V.s/rad"}, "0.489897949 N.m/A", "0.4·√1.5"},
      {"motor.kt_as_rms", {"0.5 N.m/A"}, "0.5 N.m/A", "identity"},
      {"motor.kt_from_peak", {"0.5 N.m/A"}, "0.707106781 N.m/A", "√2"},
      {"motor.kt_from_dc", {"0.5 N.m/A"}, "0.641274916 N.m/A", "(π/3)·√1.5"},
      {"motor.resistance_line", {"2 Ohm"}, "2 Ohm", "identity"},
      {"motor.resistance_from_wye", {"2 Ohm"}, "4 Ohm", "two phases in series"},
      {"motor.resistance_from_delta", {"3 Ohm"}, "2 Ohm", "3 parallel to 6"},
      {"motor.inductance_line", {"2 mH"}, "2 mH", "identity"},
      {"motor.inductance_from_wye", {"2 mH"}, "4 mH", "two phases in series"},
      {"motor.inductance_from_delta", {"3 mH"}, "2 mH", "3 parallel to 6"},
      {"motor.warm_resistance", {"1 Ohm", "120 degC"}, "1.393 Ohm", "IEC 60028: 0.393 % a kelvin"},
      {"motor.copper_loss", {"10 A", "0.5 Ohm"}, "75 W", "1.5·100·0.5 = 3·10²·0.25"},
      {"motor.constant", {"0.6 N.m/A", "1.5 Ohm"}, "0.4", "0.6/√2.25"},
      {"interior.emf",
       {"0.448066792 N.m/A", "14.1421356 A", "6 mH", "4"},
       "0.12 V.s/rad",
       "a motor of 0.12 V·s/rad, 4 and 10 mH: 6.3366 N·m at 20 A peak by a search over the angle"},
      {"interior.current",
       {"0.12 V.s/rad", "1", "4 mH", "10 mH", "4", "-6.33662133 N.m"},
       "14.1421356 A",
       "the same read backwards: 20 A peak"},
      {"interior.torque",
       {"0.12 V.s/rad", "1", "4 mH", "10 mH", "4", "14.1421356 A"},
       "6.33662133 N.m",
       "the greatest of a million angles of 20 A"},
      {"interior.d_current",
       {"0.12 V.s/rad", "1", "4 mH", "10 mH", "4", "14.1421356 A"},
       "-11.8614066 A",
       "at that angle"},
      {"interior.voltage",
       {"0.12 V.s/rad", "0.6 Ohm", "4 mH", "10 mH", "4", "600 rad/s", "14.1421356 A", "-11.8614066 A"},
       "197.797784 V",
       "|−3.558 − 193.24, 4.831 − 56.935 + 72|"},
      {"interior.least_current",
       {"0.12 V.s/rad", "1", "0.6 Ohm", "4 mH", "10 mH", "4", "1000 rad/s", "170.0296543 V", "3 N.m"},
       "9.39516299 A",
       "the first that fits on a walk over i_d in steps of 0.1 mA: −10.5130 A"},
      {"interior.envelope",
       {"0.12 V.s/rad", "1", "0.6 Ohm", "4 mH", "10 mH", "4", "1000 rad/s", "170.0296543 V", "20 A", "1"},
       "4.14393718 N.m",
       "a search over the current plane"},
      {"envelope.heat_current",
       {"1 Ohm", "120 degC", "40 degC", "1 K/W", "1 K/W", "0 N.m", "0 mN.m/krpm", "0 rad/s"},
       "4.37530979 A",
       "40 W in 1.5·1.393 Ω"},
      {"motor.dc_current", {"-0.3 N.m", "0.06 N.m/A"}, "5 A", "0.3/0.06"},
      {"motor.dc_volts",
       {"0.05 N.m/A", "0.5 Ohm", "1 V", "400 rad/s", "-4 A"},
       "17 V",
       "20 − 2 − 1: braking, winding and brushes help"},
      {"motor.dc_torque_at",
       {"0.05 N.m/A", "0.5 Ohm", "1 V", "400 rad/s", "24 V"},
       "0.3 N.m",
       "0.05·(24 − 1 − 20)/0.5"},
      {"motor.dc_top_speed", {"24 V", "1 V", "0.05 N.m/A"}, "460 rad/s", "23/0.05"},
      {"motor.dc_constant", {"0.06 N.m/A", "2.25 Ohm"}, "0.04", "0.06/1.5"},
      {"envelope.dc_continuous",
       {"0.5 N.m/A", "5 Ohm", "20 degC", "0 degC", "0.5 K/W", "0.5 K/W", "0 N.m", "0 N.m.s/rad", "0 rad/s"},
       "1 N.m",
       "20 W of copper at 20 °C drive 2 A through 5 Ω"},
      {"motor.kt_flat", {"0.1 V.s/rad"}, "0.1 N.m/A", "power balance: E·I = T·ω"},
      {"motor.kt_blocks_on_sine", {"0.1 V.s/rad"}, "0.0954929659 N.m/A", "0.3/π"},
      {"motor.kt_blocks_from_rms",
       {"0.122474487 N.m/A"},
       "0.0954929659 N.m/A",
       "√1.5 lies between Kt(rms) and Ke"},
      {"motor.kt_dc", {"0.1 N.m/A"}, "0.1 N.m/A", "as given"},
      {"motor.ke_flat_from_line_rms", {"0.1 V.s/rad"}, "0.134164079 V.s/rad", "3/√5 = 1.3416"},
      {"motor.block_torque_at",
       {"0.1 N.m/A", "1 Ohm", "5 mH", "2", "100 rad/s", "25 V", "0"},
       "1.0155 N.m",
       "s 0.4, x 1: 0.677 of 15 A"},
      {"motor.block_volts",
       {"0.1 N.m/A", "1 Ohm", "5 mH", "2", "100 rad/s", "10.155 A", "0"},
       "25 V",
       "the same the other way round"},
      {"motor.block_heat_current",
       {"0.1 N.m/A", "1 Ohm", "10 mH", "10", "100 rad/s", "10 A", "0"},
       "15.8162318 A",
       "x = z = 10: the currents of the phases overlap all the time; 15.64 when stepped in time"},
      {"drive.bridge_loss", {"2 W", "0.5 V", "-8 A"}, "10 W", "2 + 2·0.5·8"},
      {"envelope.bridge_volts", {"48 V", "0.95", "0.3 V"}, "45 V", "45.6 − 0.6"},
      {"stepper.constant", {"1.2 N.m", "3 A"}, "0.282842712 N.m/A", "0.4/√2"},
      {"stepper.crest_for_rated", {"3 A", "1"}, "4.24264069 A", "3·√2"},
      {"stepper.phase_rms", {"4.24264069 A"}, "3 A", "back again"},
      {"stepper.phase_current_for",
       {"-0.3 N.m", "0.3 N.m/A", "30 %", "4 A"},
       "0.848528137 A",
       "1.2 A are kept, 1 A is asked: 1.2/√2"},
      {"stepper.f_res", {"50", "0.28 N.m", "120 g.cm2"}, "171.906986 Hz", "√(14/1.2e-5)/2π"},
      {"stepper.speed_of_steps", {"200 Hz", "200"}, "60 rpm", "one turn a second"},
      {"stepper.pulses", {"300 rpm", "200", "250"}, "250 kHz", "5 turns of 50 000"},
      {"stepper.pull_in", {"50", "1.2 N.m", "900 g.cm2", "0 N.m"}, "32.6598632 rad/s", "2·√(1.2/(50·9e-5))"},
      {"stepper.load_angle", {"-0.5 N.m", "1 N.m", "50"}, "0.6 deg", "30°/50"},
      {"stepper.standing", {"1.2 N.m", "50 %"}, "0.6 N.m", "half"},
      {"stepper.holding", {"0.3 N.m/A", "4 A"}, "1.2 N.m", "0.3·4"},
      {"stepper.with_factor", {"0.9 N.m", "1.5"}, "0.6 N.m", "0.9/1.5"},
      {"stepper.pullout",
       {"0.282842712 N.m/A", "0.282842712 V.s/rad", "0.8 Ohm", "3 mH", "50", "4.24264069 A", "1000 V", "64",
        "1 rad/s"},
       "1.1999072 N.m",
       "crawling it is the holding torque, 64 microsteps leave a hair of it"},
      {"stepper.constant_above_rating",
       {"0.3 N.m/A", "2 A", "4 A"},
       "0.212132034 N.m/A",
       "0.3·2.83/4: at 4 A what the rating gives"},
      {"stepper.turned_current",
       {"0.3 N.m", "0.1 N.m/A", "0.25 V.s/rad", "1 Ohm", "0.2 mH", "50", "100 rad/s", "25 V"},
       "3.53553391 A",
       "i_q 3, i_d −4: (−7, 24) V are 25 V; 5/√2"},
      {"stepper.turned_torque",
       {"0.1 N.m/A", "0.25 V.s/rad", "1 Ohm", "0.2 mH", "50", "5 A", "25 V", "100 rad/s"},
       "0.3 N.m",
       "the same the other way round"},
      {"stepper.constant_five", {"1.2 N.m", "2 A", "3"}, "0.5 N.m/A", "2.5·1.2/6"},
      {"stepper.phase_volts", {"48 V", "0.5"}, "24 V", "half of it"},
      {"stepper.supply_all", {"3 A"}, "6 A", "twice"},
      {"stepper.supply_fine", {"3 A"}, "4.24264069 A", "3·√2"},
      {"stepper.school_rated", {"15", "0.8 Ohm", "3 A"}, "36 V", "15·2.4"},
      {"stepper.school_inductance", {"4 mH"}, "64 V", "32·2"},
      {"drive.stepper_loss", {"2 W", "0.5 V", "3 A"}, "7.4018979 W", "2 + 8√2/π·1.5"},
      {"motor.emf_phase_peak", {"0.173205081 V.s/rad"}, "0.1 V.s/rad", "√3 to one"},
      {"envelope.phase_voltage",
       {"0.1 V.s/rad", "1 Ohm", "2 mH", "5", "300 rad/s", "10 A"},
       "50 V",
       "30 across, 10 + 30 along: 3-4-5"},
      {"capability.force", {"1 N.m", "0.2 N.m", "2 mm"}, "400 N", "0.8/0.002"},
      {"capability.torque", {"1 N.m", "0.2 N.m", "0.05"}, "16 N.m", "0.8/0.05"},
      {"motor.magnet_factor", {"-0.0012", "120 degC"}, "0.88", "1 − 0.0012·100"},
      {"motor.kt_hot", {"0.5 N.m/A", "0.88"}, "0.44 N.m/A", "0.5·0.88"},
      {"motor.hot_torque", {"2 N.m", "0.88"}, "1.76 N.m", "2·0.88"},
      {"envelope.least_current",
       {"0.25 V.s/rad", "2 Ohm", "0.4 mH", "50", "100 rad/s", "25 V", "3 A"},
       "3.53553391 A",
       "i_d −4: (−7, 24) V are 25 V; 5/√2"},
      {"envelope.air_gap_torque", {"0.1 V.s/rad", "10 A"}, "1.5 N.m", "1.5·0.1·10"},
      {"envelope.voltage_limit", {"48 V", "0.95"}, "26.3271723 V", "0.95·48/√3"},
      {"envelope.base_speed", {"50 V", "0.1 V.s/rad"}, "500 rad/s", "50/0.1"},
      {"envelope.sine",
       {"0.1 V.s/rad", "2 Ohm", "4 mH", "5", "300 rad/s", "50 V", "100 A"},
       "1.5 N.m",
       "the 3-4-5 case above, read backwards"},
      {"envelope.continuous",
       {"0.5 N.m/A", "1 Ohm", "20 degC", "0 degC", "0.5 K/W", "0.5 K/W", "0 N.m", "0 N.m.s/rad", "0 rad/s"},
       "1.82574186 N.m",
       "20 W of copper at 20 °C: 0.5·√(20/1.5)"},
      {"derate.ambient",
       {"155 degC", "67.4 degC", "40 degC", "5.4 K"},
       "0.866025404",
       "√(82.2/109.6) = √0.75"},
      {"derate.altitude", {"2500 m"}, "0.85", "15 times 1 %"},
      {"drive.current", {"-2 N.m", "0.5 N.m/A"}, "4 A", "2/0.5"},
      {"drive.terminal_power", {"-50 W", "10 W", "5 W"}, "-35 W", "sum"},
      {"drive.loss", {"8 W", "1 V", "10 A"}, "35 W", "8 + 27"},
      {"drive.overload_limit", {"15 A", "5 A", "3 s"}, "600", "(225 − 25)·3"},
      {"supply.current", {"96 W", "48 V"}, "2 A", "96/48"},
      {"supply.risen_voltage", {"30 V", "0.8 J", "1 mF"}, "50 V", "√(900 + 1600)"},
      {"limit.used", {"-3", "4"}, "0.75", "3/4"},
      {"limit.factor_on_demand", {"-2 N.m", "1.5"}, "3 N.m", "2·1.5"},
      {"limit.factor_on_capacity", {"4 N.m", "2"}, "2 N.m", "4/2"},
      {"motor.continuous_derated", {"4 N.m", "0.9", "0.5", "0.8"}, "1.44 N.m", "4·0.36"},
      {"motor.peak_available", {"4 N.m", "3 N.m", "5 N.m"}, "3 N.m", "the least"},
      {"motor.air_gap_for", {"2 N.m", "-1", "0.1 N.m"}, "1.9 N.m", "drag helps to brake"},
      {"motor.saturated_current",
       {"5 N.m", "0.5 N.m/A", "4 A", "16 A", "6 N.m"},
       "13 A",
       "from 2 N·m at 4 A, 3 A for each N·m more"},
      {"motor.saturated_torque", {"4 N.m", "3 N.m"}, "3 N.m", "the lesser"},
      {"motor.shaft_torque", {"4 N.m", "0.1 N.m"}, "3.9 N.m", "difference"},
  };
  return list;
}

std::vector<Example> all_examples() {
  std::vector<Example> all = examples();
  all.insert(all.end(), mechanics_examples().begin(), mechanics_examples().end());
  all.insert(all.end(), axis_examples().begin(), axis_examples().end());
  return all;
}

double read(const char* text, Kind kind) {
  // kinds of squared quantities have no typed unit: plain SI numbers
  const bool plain =
      kind == Kind::torque_squared_time || kind == Kind::current_squared_time || kind == Kind::motor_constant;
  const auto value = parse_quantity(text, plain ? Kind::number : kind);
  if (!value) FAIL(text << ": " << value.problem().text());
  return value->value;
}

} // namespace

TEST_CASE("every formula of the book gives its worked example") {
  std::set<std::string_view> shown;
  for (const Example& example : all_examples()) {
    INFO(example.id << ": " << example.how);
    const Formula* formula = find_formula(example.id);
    REQUIRE(formula != nullptr);
    shown.insert(formula->id);
    CHECK((formula->list || formula->parameters.size() == example.inputs.size()));
    std::vector<double> values;
    for (std::size_t i = 0; i < example.inputs.size(); ++i)
      values.push_back(
          read(example.inputs[i], formula->parameters[std::min(i, formula->parameters.size() - 1)].kind));
    CHECK(formula->compute(values) == Approx(read(example.result, formula->kind)).epsilon(1e-7));
    // motion about an axis is the same mathematics in other units
    const std::string id = example.id;
    if (!id.starts_with("motion.")) continue;
    const Formula* turning = find_formula("turn" + id.substr(id.find('.')));
    REQUIRE(turning != nullptr);
    shown.insert(turning->id);
    CHECK(turning->compute(values) == formula->compute(values));
  }
  for (const Formula* formula : formula_book()) {
    INFO(formula->id << " has no example");
    CHECK(shown.contains(formula->id));
  }
}

TEST_CASE("examples lie inside the ranges the book states") {
  for (const Example& example : all_examples()) {
    const Formula& formula = *find_formula(example.id);
    for (std::size_t i = 0; i < example.inputs.size(); ++i) {
      const Parameter& parameter = formula.parameters[std::min(i, formula.parameters.size() - 1)];
      INFO(example.id << ", " << parameter.name);
      CHECK(parameter.range.contains(read(example.inputs[i], parameter.kind)));
    }
  }
}
