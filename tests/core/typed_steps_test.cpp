#include "core/motor/stepper.hpp"
#include "core/motor/typed_steps.hpp"
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
