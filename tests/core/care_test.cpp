// Gearheads that run on, counted stops, settling, scales at the load, belts and pinions across a shaft,
// brake resistors, shorted motors of every kind: as limits and results of an axis.

#include "core/asked.hpp"
#include "core/demand/accuracy.hpp"
#include "core/evaluation/corners.hpp"
#include "core/motor/six_step.hpp"
#include "core/motor/stepper.hpp"
#include "core/quantity/constants.hpp"
#include "support/axes.hpp"

#include <catch2/catch.hpp>

#include <algorithm>
#include <cmath>

using namespace fulmox;
using namespace fulmox::testing;

namespace {

Axis axis_at(std::size_t index) { return demo().axes[index]; }
constexpr std::size_t picker_at = 0, tray_at = 1, gantry_at = 2, table_at = 3, cart_at = 4, spreader_at = 5;

} // namespace

TEST_CASE("drag that grows with speed: its share of the torque and of the energy") {
  Axis axis = axis_at(gantry_at);
  axis.cycle.erase(axis.cycle.begin() + 2, axis.cycle.end());
  axis.cycle[0] = Section(*find_kind(axis, *find_list("cycle"), "move"));
  axis.cycle[0].type("distance", "600 mm");
  axis.cycle[0].type("time", "0.6 s");
  const Evaluation before = evaluated(axis);
  axis["gearhead"].type("no_load_rise", "2 mN.m/krpm");
  const Evaluation after = evaluated(axis);
  const double b = 2e-3 / (1000.0 * constants::rpm), top = value(after, "demand.max_speed");
  // trapezoid of thirds: the peak stands at the end of the acceleration, ∫ω²dt = ω²·t·(1/3 + 2/9)
  CHECK(value(after, "demand.peak_torque") - value(before, "demand.peak_torque") ==
        Approx(b * top).epsilon(1e-6));
  const auto heat = [](const Evaluation& e) {
    return value(e, "energy.driven") - value(e, "energy.returned");
  };
  CHECK(heat(after) - heat(before) == Approx(b * top * top * 0.6 * 5.0 / 9.0).epsilon(1e-6));
}

TEST_CASE("a gearhead that runs most of the time, or for long, is judged by its continuous torque") {
  CHECK_FALSE(runs_on(0.6, 1200.0));
  CHECK(runs_on(0.601, 1.0));
  CHECK(runs_on(0.1, 1201.0));
  Axis axis = axis_at(cart_at);
  const Evaluation e = evaluated(axis);
  CHECK(limit(e, "gear.equivalent").capacity == Approx(axis["gearhead"].term("continuous_torque")));
  CHECK(limit(e, "gear.equivalent").rule.find("continuous") != std::string::npos);
  const Axis short_ones = axis_at(table_at);
  CHECK(limit(evaluated(short_ones), "gear.equivalent").capacity ==
        Approx(short_ones["gearhead"].term("nominal_torque")));
  // a cycle that ends and begins in motion: the run goes on into the next
  for (const bool over : {false, true}) {
    axis = axis_at(gantry_at);
    axis.cycle.clear();
    add_segment(axis, "move", {{"distance", "0.4 m"}, {"time", over ? "601 s" : "599 s"}});
    add_segment(axis, "dwell", {{"time", "3000 s"}});
    add_segment(axis, "move", {{"distance", "-0.4 m"}, {"time", "600 s"}});
    CHECK(limit(evaluated(axis), "gear.equivalent").capacity ==
          Approx(axis["gearhead"].term(over ? "continuous_torque" : "nominal_torque")));
  }
}

TEST_CASE("emergency stops are counted against what gearhead and brake bear") {
  Axis axis = axis_at(gantry_at);
  CHECK_FALSE(has_limit(evaluated(axis), "gear.stops"));
  CHECK(open(axis, "stops"));
  axis["requirements"].type("stops", "1500");
  CHECK(limit(evaluated(axis), "gear.stops").used == Approx(1.5));
  CHECK_FALSE(open(axis, "stops"));
  axis = axis_at(picker_at);
  axis["requirements"].type("stops", "1500");
  CHECK_FALSE(has_limit(evaluated(axis), "brake.stops"));
  axis["brake"].type("stops", "2000");
  CHECK(limit(evaluated(axis), "brake.stops").used == Approx(0.75));
}

TEST_CASE("settling: by the bandwidth wanted, else by what the springs leave") {
  Axis axis = axis_at(picker_at);
  CHECK_FALSE(has_limit(evaluated(axis), "settling"));
  axis["requirements"].type("settling", "50 ms");
  Axis rigid = axis_at(tray_at);
  rigid["requirements"].type("settling", "50 ms");
  rigid["coupling"].type("stiffness", "");
  rigid["gearhead"].type("stiffness", "");
  CHECK(limit(evaluated(rigid), "settling").state == LimitState::not_judged);
  const Evaluation e = evaluated(axis);
  const double left = value(e, "compliance.antiresonance") / house_rules().term("bandwidth_share");
  CHECK(limit(e, "settling").demand == Approx(4.0 / (constants::tau * left)));
  axis["requirements"].type("bandwidth", "20 Hz");
  CHECK(limit(evaluated(axis), "settling").demand == Approx(4.0 / (constants::tau * 20.0)));
  CHECK(limit(evaluated(axis), "settling").used == Approx(4.0 / (constants::tau * 20.0) / 0.05));
}

TEST_CASE("a scale at the load takes play, wind-up and the error of the drive out of the budget") {
  Axis axis = axis_at(picker_at);
  axis["requirements"].type("tolerance", "0.1 mm");
  axis["requirements"].type("lead_error", "0.05 mm");
  axis["requirements"].type("warming", "10 K");
  const double growth = 11.5e-6 * 10.0 * 0.42;
  CHECK(limit(evaluated(axis), "accuracy").demand > 0.05e-3 + growth);
  axis["requirements"].type("feedback", "load");
  CHECK(limit(evaluated(axis), "accuracy").demand == Approx(growth));
  CHECK(open(axis, "scale"));
  CHECK_FALSE(open(axis, "encoder"));
  axis["requirements"].type("scale", "0.002 mm");
  CHECK(limit(evaluated(axis), "accuracy").demand == Approx(growth + 2e-6));
  CHECK_FALSE(open(axis, "scale"));
}

TEST_CASE("belts: the slack span, and what bends the shaft that carries the pulley") {
  Axis axis = axis_at(gantry_at);
  CHECK_FALSE(has_limit(evaluated(axis), "belt.slack"));
  CHECK(open(axis, "pretension"));
  axis["mechanism"].type("tension", "150 N");
  const Evaluation e = evaluated(axis);
  const double radius = 30.0 * 5e-3 / constants::tau;
  Recorder silent(false);
  double most = 0.0;
  for (std::size_t piece = 0; piece < e.model->load->cycle.pieces.size(); ++piece)
    for (int k = 0; k <= 1000; ++k) {
      const double tau = e.model->load->cycle.pieces[piece].duration * k / 1000.0;
      most = std::max(most, std::abs(e.model->at(piece, tau, silent).at_mechanism));
    }
  CHECK(limit(e, "belt.slack").demand == Approx(0.5 * most / radius).epsilon(1e-5));
  CHECK(limit(e, "belt.slack").demand >= 0.5 * most / radius);
  CHECK(limit(e, "belt.slack").capacity == Approx(150.0));
  // a coupling keeps the pulley in bearings of its own
  CHECK_FALSE(has_limit(e, "shaft.radial"));
  for (const char* field : {"part_number", "rated_torque", "stiffness", "inertia", "max_speed", "bore_max"})
    axis["coupling"].type(field, "");
  axis["gearhead"].type("radial_load", "900 N");
  CHECK(limit(evaluated(axis), "shaft.radial").demand == Approx(300.0));
  CHECK(limit(evaluated(axis), "shaft.radial").used == Approx(1.0 / 3.0));
  axis["mechanism"].type("tension", "");
  CHECK(limit(evaluated(axis), "shaft.radial").state == LimitState::not_judged);
  CHECK(limit(evaluated(axis), "shaft.radial").input == "mechanism.tension");
}

TEST_CASE("a pinion bends its shaft by the force of its teeth") {
  Axis axis = axis_at(cart_at);
  for (const char* field : {"part_number", "rated_torque", "stiffness", "inertia", "max_speed", "bore_max"})
    axis["coupling"].type(field, "");
  const Evaluation e = evaluated(axis);
  const double peak = e.model->load->peaks.mechanism.value;
  const double radius = 0.5 * 2e-3 * 20.0 / std::cos(19.53 * constants::degree);
  const double across = std::tan(20.0 * constants::degree) / std::cos(19.53 * constants::degree);
  CHECK(limit(e, "shaft.radial").demand == Approx(peak / radius * std::sqrt(1.0 + across * across)));
  CHECK_FALSE(has_limit(e, "shaft.axial"));
  CHECK(open(axis, "gear_thrust"));
  axis["gearhead"].type("axial_load", "500 N");
  CHECK(limit(evaluated(axis), "shaft.axial").demand ==
        Approx(peak / radius * std::tan(19.53 * constants::degree)));
  CHECK_FALSE(open(axis, "gear_thrust"));
  Axis straight = axis;
  straight["mechanism"].type("helix", "");
  CHECK_FALSE(has_limit(evaluated(straight), "shaft.axial"));
  axis["gearhead"].type("radial_load", "");
  CHECK_FALSE(has_limit(evaluated(axis), "shaft.radial"));
  CHECK(open(axis, "gear_shaft"));
}

TEST_CASE("a brake resistor takes what comes back: judged by power, not by capacitors") {
  Axis axis = axis_at(gantry_at);
  axis["surroundings"].type("shared_bus", ""); // by itself
  const Evaluation e = evaluated(axis);
  const Limit& rise = limit(e, "supply.overvoltage");
  CHECK(rise.kind == Kind::power);
  double back = 0.0;
  Recorder silent(false);
  for (std::size_t piece = 0; piece < e.model->load->cycle.pieces.size(); ++piece)
    for (int k = 0; k <= 2000; ++k)
      back = std::max(
          back,
          -e.model->at(piece, e.model->load->cycle.pieces[piece].duration * k / 2000.0, silent).shaft_power);
  CHECK(rise.demand >= back);
  CHECK(rise.demand == Approx(back).epsilon(1e-3));
  CHECK(rise.capacity == Approx(axis["drive"].term("brake_power")));
  axis["drive"].type("brake_power", "");
  CHECK(limit(evaluated(axis), "supply.overvoltage").kind == Kind::voltage);
}

TEST_CASE("leads shorted: every kind of motor tells how it brakes") {
  // a stepper of two phases: K²·R·ω/(R² + (N_r·L·ω)²), peak K²/(2·N_r·L)
  const Axis axis = axis_at(spreader_at);
  const Evaluation e = evaluated(axis);
  const auto& motor = dynamic_cast<const StepperMotor&>(*e.model->motor);
  const double peak = motor.k_torque * motor.k_emf / (2.0 * motor.teeth * motor.inductance);
  CHECK(value(e, "stop.short_torque") == Approx(peak));
  // a brushless motor fed with blocks: as a sine of the same crest between the leads
  Axis six = axis_at(tray_at);

  const Parts& motors = library().of("motor");
  const auto part = std::find_if(motors.begin(), motors.end(),
                                 [](const Section& p) { return p.spec().id == "six_step_motor"; });
  REQUIRE(part != motors.end());
  choose_part(six, "motor", *part);
  const Evaluation blocks = evaluated(six);
  const Section& sheet = six["motor"];
  const auto shorted = blocks.model->motor->shorted(false);
  REQUIRE(shorted);
  CHECK(shorted->resistance == Approx(0.5 * sheet.term("resistance")));
  CHECK(shorted->along == Approx(0.5 * sheet.term("inductance") * sheet.term("pole_pairs")));
  // K of a phase: the crest between two leads over √3, with hot magnets
  const double hot = dynamic_cast<const SixStepMotor&>(*blocks.model->motor).magnet;
  const double k = hot * dynamic_cast<const SixStepMotor&>(*blocks.model->motor).ke / std::sqrt(3.0);
  CHECK(shorted->c == Approx(1.5 * k * k * shorted->resistance));
  // magnets inside the rotor: reluctance brakes too
  Axis inside = axis_at(picker_at);
  const double round = value(evaluated(inside), "stop.short_torque");
  inside["motor"].type("inductance_q", std::to_string(1.6e3 * inside["motor"].term("inductance")) + " mH");
  const auto both = evaluated(inside).model->motor->shorted(false);
  REQUIRE(both);
  CHECK(both->across == Approx(1.6 * both->along));
  CHECK(value(evaluated(inside), "stop.short_torque") != Approx(round));
}

TEST_CASE("corners of more than three spreads: no place of a grid is worse than told") {
  Axis axis = axis_at(picker_at);
  axis["motor"].type("kt", "0.07 N.m/A ±15%");
  axis["load"].type("moved_mass", "9 kg ±20%");
  REQUIRE(axis["load"].entry("friction").tolerance.half_width > 0.0);
  REQUIRE(axis["mechanism"].entry("efficiency").tolerance.half_width > 0.0);
  const Corners found = *corners(axis, house_rules());
  REQUIRE(found.spreads.size() == 4);
  const struct {
    const char *slot, *field, *unit;
    double typed, half;
  } inputs[] = {{"motor", "kt", " N.m/A", 0.07, 0.0105},
                {"load", "moved_mass", " kg", 9.0, 1.8},
                {"load", "friction", "", 0.01, 0.005},
                {"mechanism", "efficiency", "", 0.9, 0.027}};
  for (int n = 0; n < 81; ++n) {
    Axis place = axis;
    int rest = n;
    for (const auto& input : inputs) {
      place[input.slot].type(input.field,
                             std::to_string(input.typed + (rest % 3 - 1) * input.half) + input.unit);
      rest /= 3;
    }
    const Evaluation e = evaluated(place);
    for (const LimitCorner& corner : found.limits) {
      INFO(corner.id << " " << n);
      if (corner.nominal > 0.02) CHECK(limit(e, corner.id).used <= corner.worst * 1.0001);
    }
  }
}

TEST_CASE("what is often forgotten leads to an input that the axis has, whatever its kinds") {
  std::vector<Axis> axes = demo().axes;
  for (const char* slot : {"motor", "drive"})
    for (std::size_t i = 0; i < library().of(slot).size(); i += every(1)) {
      axes.push_back(axis_at(picker_at));
      choose_part(axes.back(), slot, library().of(slot)[i]);
    }
  for (Axis& axis : axes)
    for (const char* feedback : {"motor", "load"}) {
      axis["requirements"].type("feedback", feedback);
      const auto result = evaluate(axis, house_rules());
      if (!result) continue;
      for (const Forgotten& item : often_forgotten(axis, *result)) {
        INFO(axis.name << " " << axis["motor"].text("part_number") << " " << item.id);
        CHECK_FALSE(describe_path(axis, item.input).empty());
      }
    }
}
