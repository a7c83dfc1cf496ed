#include "core/motor/stepper.hpp"
#include "core/motor/typed_steps.hpp"
#include "core/project/document.hpp"
#include "core/quantity/parse.hpp"
#include "support/axes.hpp"

#include <catch2/catch.hpp>

#include <cmath>
#include <numbers>

using namespace fulmox;
using namespace fulmox::testing;

TEST_CASE("speeds in steps a second become turns, with the reckoning in sight") {
  const double none = std::nan("");
  CHECK(steps_as_turns("800 steps/s", 200.0, none) == "800/200 rev/s");
  CHECK(steps_as_turns("800step/s ±5 %", 200.0, none) == "800/200 rev/s ±5 %");
  CHECK(steps_as_turns("8000 pulses/s", 200.0, 3200.0) == "8000/3200 rev/s");
  CHECK(steps_as_turns("8000 pps", 200.0, 3200.0) == "8000/3200 rev/s");
  CHECK(steps_as_turns("0 steps/s: 1.2 N.m; 1 000 steps/s: 0.9 N.m", 500.0, none) ==
        "0/500 rev/s: 1.2 N.m; 1 000/500 rev/s: 0.9 N.m");
  // the value as a person works it out: 800 of 200 steps are four turns a second
  const auto value = parse_quantity(steps_as_turns("800 steps/s", 200.0, none), Kind::angular_speed);
  REQUIRE(value);
  CHECK(value->value == Approx(8.0 * std::numbers::pi));
  for (const char* left : {"800 rpm", "800 steps", "800 steps/sec", "800 missteps/s", "2+3 steps/s",
                           "steps/s", "", "8000 pps", "(4) steps/s"})
    CHECK(steps_as_turns(left, 200.0, none) == left);
  CHECK(steps_as_turns("800 steps/s", none, none) == "800 steps/s");
}

TEST_CASE("the full steps of a turn follow from the teeth of a stepper") {
  const Axis spreader = demo().axes[5]; // 50 teeth, two phases
  CHECK(full_steps_of(spreader["motor"]) == 200.0);
  CHECK(std::isnan(full_steps_of(demo().axes[0]["motor"]))); // a servo
  Section fine(stepper_motor_section());
  fine.type("teeth", "100");
  CHECK(full_steps_of(fine) == 400.0);
  fine.type("teeth", "");
  CHECK(std::isnan(full_steps_of(fine)));
  Section five(five_phase_section());
  five.type("teeth", "50");
  CHECK(full_steps_of(five) == 500.0);
}

TEST_CASE("a file may tell the speeds of a stepper in steps and pulses a second") {
  const std::string written = to_json(demo());
  // the demo with two texts put in place of others, read again
  const auto with = [&](const std::string& speed, const std::string& start) {
    std::string text = written;
    for (const auto& [before, after] :
         {std::pair<std::string, std::string>{"\"3000 rpm\"", speed}, {"\"20 rpm\"", start}}) {
      const auto stepper = text.find("\"name\": \"Spreader\"");
      REQUIRE(stepper != text.npos);
      const auto at = text.find(before, stepper);
      REQUIRE(at != text.npos);
      text.replace(at, before.size(), "\"" + after + "\"");
    }
    const auto document = from_json(text);
    REQUIRE(document);
    return document->axes[5];
  };
  const double turn = 2.0 * std::numbers::pi;
  Axis axis = with("10000 steps/s", "800 steps/s"); // 200 a turn
  CHECK(axis["motor"].term("max_speed") == Approx(50.0 * turn));
  CHECK(axis["motor"].entry("max_speed").origin == Origin::data_sheet);
  CHECK(axis["drive"].term("start_speed") == Approx(4.0 * turn));
  CHECK(axis["drive"].text("start_speed") == "800/200 rev/s");
  axis = with("3000 rpm", "3200 pulses/s"); // of 16 micro-steps each
  CHECK(axis["drive"].term("start_speed") == Approx(turn));
  CHECK(axis["motor"].text("max_speed") == "3000 rpm");
  // what a motor's sheet calls a pulse is not told, and what makes no sense stays as it is written
  axis = with("8000 pps", "-800 steps/s");
  CHECK(axis["motor"].entry("max_speed").faulty());
  CHECK(axis["motor"].text("max_speed") == "8000 pps");
  CHECK(axis["drive"].entry("start_speed").faulty());
  CHECK(axis["drive"].text("start_speed") == "-800 steps/s");
  axis = with("3000 rpm", "800 steps/s ± 5 kg");
  CHECK(axis["drive"].entry("start_speed").faulty());
  CHECK(axis["drive"].text("start_speed") == "800 steps/s ± 5 kg");
  // a servo has no steps
  std::string text = written;
  const auto at = text.find("rpm\"", text.find("\"max_speed\""));
  text.replace(at, 3, "steps/s");
  const auto document = from_json(text);
  REQUIRE(document);
  CHECK(document->axes[0]["motor"].entry("max_speed").faulty());
}
