// Whether parts go together: flange, shaft, encoder, bus and brake coil, each at its border.

#include "core/asked.hpp"
#include "core/mounting/mounting.hpp"

#include <catch2/catch.hpp>

#include <cmath>
#include <map>

using namespace fulmox;
using namespace fulmox::testing;
using Catch::Contains;

namespace {

/// The second axis of the demo: a servo on a planetary head.
Axis geared() {
  Axis axis = demo().axes[1];
  axis["motor"].type("flange", "");
  axis["motor"].type("pilot", "50 mm");
  axis["motor"].type("bolt_circle", "70 mm");
  axis["gearhead"].type("input_flange", "");
  axis["gearhead"].type("input_pilot", "50 mm");
  axis["gearhead"].type("input_bolt_circle", "70 mm");
  return axis;
}

LimitState state(const Axis& axis, std::string_view id) {
  const Evaluation e = evaluated(axis);
  REQUIRE(has_limit(e, id));
  return limit(e, id).state;
}

Axis with(Axis axis, std::string_view slot, std::string_view field, std::string_view text) {
  axis[slot].type(field, text);
  return axis;
}

} // namespace

TEST_CASE("inch frames have the dimensions of NEMA ICS 16, metric flanges those of IEC 60072-1") {
  // from memory: bolt circle and pilot in inches; flange number, pilot in mm
  const std::map<std::string_view, std::pair<double, double>> inches{{"nema 17", {1.725, 0.866}},
                                                                     {"nema 23", {2.625, 1.500}},
                                                                     {"nema 34", {3.875, 2.875}},
                                                                     {"nema 42", {4.950, 2.186}}};
  // distances of the four holes as drawings print them, in mm (common practice)
  const std::map<std::string_view, double> squares{{"nema 8", 15.4},  {"nema 11", 23.0},  {"nema 14", 26.0},
                                                   {"nema 17", 31.0}, {"nema 23", 47.14}, {"nema 34", 69.6},
                                                   {"nema 42", 89.0}};
  const std::map<std::string_view, double> pilots{{"iec 65", 50},   {"iec 75", 60},  {"iec 85", 70},
                                                  {"iec 100", 80},  {"iec 115", 95}, {"iec 130", 110},
                                                  {"iec 165", 130}, {"iec 215", 180}};
  std::size_t checked = 0;
  for (const StandardFlange& flange : standard_flanges()) {
    INFO(flange.id);
    if (const auto found = inches.find(flange.id); found != inches.end()) {
      CHECK(flange.bolt_circle == Approx(found->second.first * 25.4e-3));
      CHECK(flange.pilot == Approx(found->second.second * 25.4e-3));
    }
    if (const auto found = squares.find(flange.id); found != squares.end()) {
      CHECK(flange.bolt_circle == Approx(found->second * std::sqrt(2.0) * 1e-3).epsilon(3e-3));
      CHECK(flange.pilot < flange.bolt_circle);
      ++checked;
    }
    if (const auto found = pilots.find(flange.id); found != pilots.end()) {
      CHECK(flange.pilot == Approx(found->second * 1e-3));
      CHECK(std::string(flange.id) == "iec " + std::to_string(std::lround(flange.bolt_circle * 1e3)));
      ++checked;
    }
  }
  CHECK(checked == standard_flanges().size());
}

TEST_CASE("a motor's flange fits the head within the play of pilot and screws") {
  const Axis axis = geared();
  const auto judged = [&](const char* field, const char* text) {
    return state(with(axis, "motor", field, text), "gear.flange");
  };
  CHECK(judged("pilot", "50 mm") == LimitState::clear);
  CHECK(judged("pilot", "49.81 mm") == LimitState::clear);
  CHECK(judged("pilot", "49.79 mm") == LimitState::over);  // not centred
  CHECK(judged("pilot", "50.01 mm") == LimitState::clear); // rounded
  CHECK(judged("pilot", "50.03 mm") == LimitState::over);  // does not go in
  CHECK(judged("bolt_circle", "70.49 mm") == LimitState::clear);
  CHECK(judged("bolt_circle", "69.51 mm") == LimitState::clear);
  CHECK(judged("bolt_circle", "70.51 mm") == LimitState::over);
  CHECK(judged("bolt_circle", "69.49 mm") == LimitState::over);
  const Evaluation e = evaluated(with(axis, "motor", "bolt_circle", "75 mm"));
  CHECK(limit(e, "gear.flange").demand == Approx(5e-3));
  CHECK(limit(e, "gear.flange").capacity == Approx(0.5e-3));
  CHECK(limit(e, "gear.flange").input == "gearhead.input_bolt_circle");
  CHECK_THAT(limit(e, "gear.flange").rule, Contains("adapter"));
}

TEST_CASE("a standard flange stands for its dimensions, what is typed counts before it") {
  Axis axis = geared();
  for (const char* field : {"pilot", "bolt_circle"}) {
    axis["motor"].type(field, "");
    axis["gearhead"].type(std::string("input_") + field, "");
  }
  axis["motor"].type("flange", "nema 23");
  axis["gearhead"].type("input_flange", "nema 23");
  CHECK(state(axis, "gear.flange") == LimitState::clear);
  CHECK(state(with(axis, "gearhead", "input_flange", "nema 34"), "gear.flange") == LimitState::over);
  CHECK(state(with(axis, "motor", "pilot", "36 mm"), "gear.flange") == LimitState::over);
  CHECK(state(with(axis, "motor", "pilot", "1.5 in"), "gear.flange") == LimitState::clear);
}

TEST_CASE("a head made to fit is not judged, half a flange is not called a fit") {
  Axis axis = geared();
  for (const char* field : {"input_pilot", "input_bolt_circle"}) axis["gearhead"].type(field, "");
  CHECK_FALSE(has_limit(evaluated(axis), "gear.flange"));
  axis = geared();
  axis["motor"].type("bolt_circle", "");
  CHECK(state(axis, "gear.flange") == LimitState::not_judged);
  CHECK(limit(evaluated(axis), "gear.flange").input == "motor.flange");
  CHECK(state(with(axis, "motor", "pilot", "40 mm"), "gear.flange") == LimitState::over);
  axis["motor"].type("pilot", "");
  CHECK(state(axis, "gear.flange") == LimitState::not_judged);
  // without a head nothing is asked
  axis["gearhead"] = Section(axis["gearhead"].spec());
  axis["gearhead"].path = "gearhead";
  CHECK_FALSE(has_limit(evaluated(axis), "gear.flange"));
}

TEST_CASE("a motor's shaft fits the hub by diameter and length") {
  Axis axis = geared();
  axis["gearhead"].type("input_bore_min", "8 mm");
  axis["gearhead"].type("input_bore_max", "14 mm");
  axis["gearhead"].type("input_depth", "35 mm");
  axis["motor"].type("shaft_length", "35 mm");
  const auto judged = [&](const char* field, const char* text) {
    return state(with(axis, "motor", field, text), "gear.motor_shaft");
  };
  CHECK(judged("shaft", "14 mm") == LimitState::clear);
  CHECK(judged("shaft", "8 mm") == LimitState::clear);
  CHECK(judged("shaft", "14.1 mm") == LimitState::over);
  CHECK(judged("shaft", "7.9 mm") == LimitState::over);
  CHECK(judged("shaft_length", "35.1 mm") == LimitState::over);
  CHECK(judged("shaft_length", "") == LimitState::clear);
  CHECK(judged("shaft", "") == LimitState::not_judged);
  axis["gearhead"].type("input_bore_max", "");
  CHECK_FALSE(has_limit(evaluated(axis), "gear.motor_shaft"));
}

TEST_CASE("an encoder needs a drive that reads it, what is not told is not judged") {
  Axis axis = geared();
  axis["motor"].type("feedback", "resolver");
  axis["drive"].type("reads", "incremental, serial");
  CHECK(state(axis, "drive.feedback") == LimitState::over);
  CHECK(limit(evaluated(axis), "drive.feedback").input == "drive.reads");
  CHECK_FALSE(has_limit(evaluated(with(axis, "drive", "reads", "serial ,resolver")), "drive.feedback"));
  CHECK_FALSE(has_limit(evaluated(with(axis, "drive", "reads", "")), "drive.feedback"));
  CHECK_FALSE(has_limit(evaluated(with(axis, "motor", "feedback", "")), "drive.feedback"));
  axis["drive"].type("reads", "incremental; serial");
  const auto wrong = faults(axis);
  REQUIRE_FALSE(wrong.empty());
  CHECK(wrong.front().where == "drive.reads");
  CHECK_THAT(wrong.front().text(), Contains("incremental; serial") && Contains("resolver"));
}

TEST_CASE("a brushed motor may have an encoder: it tells the step at the load, and the drive must read it") {
  Axis axis = demo().axes[6];
  REQUIRE(axis["motor"].is("brushed_motor"));
  CHECK(evaluated(axis).find("accuracy.resolution") == nullptr);
  axis["motor"].type("encoder", "2000");
  axis["motor"].type("feedback", "incremental");
  const double ratio = axis["gearhead"].term("ratio");
  CHECK(value(evaluated(axis), "accuracy.resolution") == Approx(2.0 * M_PI / 2000.0 / ratio));
  axis["drive"].type("reads", "hall");
  CHECK(state(axis, "drive.feedback") == LimitState::over);
  axis["drive"].type("reads", "hall, incremental");
  CHECK_FALSE(has_limit(evaluated(axis), "drive.feedback"));
}

TEST_CASE("a motor's insulation bears the highest bus, a brake's coil takes the drive's output") {
  Axis axis = geared();
  axis["surroundings"].type("bus_high", "340 V");
  CHECK(state(with(axis, "motor", "max_volts", "340 V"), "motor.bus") == LimitState::clear);
  CHECK(state(with(axis, "motor", "max_volts", "339 V"), "motor.bus") == LimitState::over);
  CHECK_FALSE(has_limit(evaluated(with(axis, "motor", "max_volts", "")), "motor.bus"));
  axis["brake"].type("fitted", "yes");
  axis["brake"].type("coil_volts", "24 V");
  const auto coil = [&](const char* output) {
    return has_limit(evaluated(with(axis, "drive", "brake_volts", output)), "brake.coil");
  };
  CHECK_FALSE(coil("24 V"));
  CHECK_FALSE(coil("21.6 V"));
  CHECK_FALSE(coil("26.4 V"));
  CHECK(coil("21.5 V"));
  CHECK(coil("48 V"));
  CHECK_FALSE(coil(""));
  CHECK_FALSE(has_limit(evaluated(with(with(axis, "drive", "brake_volts", "48 V"), "brake", "fitted", "no")),
                        "brake.coil"));
}

TEST_CASE("the parts of the demo go together") {
  for (const Axis& axis : demo().axes) {
    INFO(axis.name);
    const Evaluation e = evaluated(axis);
    for (const char* id : {"gear.flange", "gear.motor_shaft", "drive.feedback", "motor.bus", "brake.coil"})
      if (has_limit(e, id)) CHECK(limit(e, id).state == LimitState::clear);
  }
}
