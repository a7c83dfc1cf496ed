// Cycles laid out in time.

#include "core/motion/cycle.hpp"
#include "support/axes.hpp"

#include <catch2/catch.hpp>

#include <cmath>

using namespace fulmox;
using namespace fulmox::testing;

namespace {

Cycle cycle_of(const Axis& axis) {
  Recorder silent(false);
  auto cycle = build_cycle(axis.cycle, along_a_line, silent);
  if (!cycle) FAIL(cycle.problem().text());
  return *cycle;
}

} // namespace

TEST_CASE("a trapezoid has three pieces, a triangle two, a dwell one") {
  Axis axis = new_axis("");
  add_move(axis, "100 mm", "1 s", "0.2", "0.3");
  CHECK(cycle_of(axis).pieces.size() == 3);
  axis.cycle.clear();
  add_move(axis, "100 mm", "1 s", "0.4", "0.6");
  CHECK(cycle_of(axis).pieces.size() == 2);
  add_dwell(axis, "0.5 s");
  const Cycle cycle = cycle_of(axis);
  CHECK(cycle.pieces.size() == 3);
  CHECK(cycle.pieces.back().rest());
  CHECK(cycle.duration == Approx(1.5));
  CHECK(cycle.passages.size() == 2);
  CHECK(cycle.passages[1].start == Approx(1.0));
}

TEST_CASE("position and speed never jump, and every move ends where it was sent") {
  RandomAxes random(41);
  for (int i = 0; i < 200; ++i) {
    const Axis axis = random.next();
    const Cycle cycle = cycle_of(axis);
    double position = 0.0;
    double speed = 0.0;
    double time = 0.0;
    for (const MotionPiece& piece : cycle.pieces) {
      CHECK(piece.start == Approx(time).margin(1e-12));
      CHECK(piece.position(0.0) == Approx(position).margin(1e-9));
      CHECK(piece.speed(0.0) == Approx(speed).margin(1e-9));
      CHECK(piece.duration > 0.0);
      position = piece.position(piece.duration);
      speed = piece.speed(piece.duration);
      time += piece.duration;
    }
    CHECK(speed == Approx(0.0).margin(1e-9));
    CHECK(cycle.duration == Approx(time));
    double travel = 0.0;
    for (const Section& segment : axis.cycle)
      if (segment.spec().id == "move") travel += segment.term("distance");
    CHECK(cycle.net_travel == Approx(travel).margin(1e-12));
  }
}

TEST_CASE("reach is the span the load visits") {
  Axis axis = new_axis("");
  add_move(axis, "-200 mm", "1 s", "1/3", "1/3");
  add_move(axis, "500 mm", "1 s", "1/3", "1/3");
  const Cycle cycle = cycle_of(axis);
  CHECK(cycle.lowest == Approx(-0.2));
  CHECK(cycle.highest == Approx(0.3));
  CHECK(cycle.net_travel == Approx(0.3));
}

TEST_CASE("the recorded peak speed is what the pieces run at") {
  RandomAxes random(42);
  for (int i = 0; i < 50; ++i) {
    const Axis axis = random.next();
    Recorder recorder(true);
    const auto cycle = build_cycle(axis.cycle, along_a_line, recorder);
    REQUIRE(cycle);
    for (const Step& step : recorder.steps()) {
      if (!step.id.ends_with("peak_speed")) continue;
      const std::size_t segment = std::stoul(std::string(step.id.substr(7))) - 1;
      double fastest = 0.0;
      for (const MotionPiece& piece : cycle->pieces)
        if (piece.segment == segment)
          for (const double tau : {0.0, piece.duration})
            if (std::abs(piece.speed(tau)) > std::abs(fastest)) fastest = piece.speed(tau);
      CHECK(fastest == Approx(step.value).epsilon(1e-9));
    }
  }
}

TEST_CASE("ramp shares that fill the move exactly are accepted, a hair more is refused") {
  Axis axis = new_axis("");
  add_move(axis, "100 mm", "1 s", "1/3", "2/3");
  CHECK(cycle_of(axis).pieces.size() == 2);
  axis.cycle[0].type("deceleration_share", "0.6667");
  Recorder silent(false);
  const auto refused = build_cycle(axis.cycle, along_a_line, silent);
  REQUIRE_FALSE(refused);
  CHECK(refused.problem().where == "cycle[0].deceleration_share");
  axis.cycle[0].type("acceleration_share", "1");
  CHECK_THAT(build_cycle(axis.cycle, along_a_line, silent).problem().remedy, Catch::Contains("whole time"));
}

TEST_CASE("a move of no distance beside a real one is a pause with nothing refused") {
  Axis axis = new_axis("");
  axis["load"].type("moved_mass", "5 kg");
  add_move(axis, "0 mm", "0.5 s", "1/3", "1/3");
  add_move(axis, "100 mm", "0.5 s", "1/3", "1/3");
  add_move(axis, "-100 mm", "0.5 s", "1/3", "1/3");
  const Evaluation e = evaluated(axis);
  CHECK(std::isfinite(value(e, "demand.rms_torque")));
  CHECK(e.at(0.25).speed == 0.0);
}

TEST_CASE("the trace shows both sides of every jump") {
  const Evaluation e = evaluated(demo().axes[0]);
  const auto samples = samples_of(e);
  std::size_t jumps = 0;
  for (std::size_t i = 1; i < samples.size(); ++i) {
    if (samples[i].piece == samples[i - 1].piece) continue;
    ++jumps;
    CHECK(samples[i].time == Approx(samples[i - 1].time));
    CHECK(samples[i].load.position == Approx(samples[i - 1].load.position).margin(1e-12));
  }
  CHECK(jumps + 1 == e.model->load->cycle.pieces.size());
  CHECK(samples.back().time == Approx(e.model->load->cycle.duration));
}

TEST_CASE("the cursor's state is the model's state, also at the very ends") {
  const Evaluation e = evaluated(demo().axes[0]);
  const double end = e.model->load->cycle.duration;
  CHECK(e.at(-1.0).time == 0.0);
  CHECK(e.at(2.0 * end).time == Approx(end));
  for (int i = 0; i <= 100; ++i) {
    const Instant now = e.at(end * i / 100.0);
    CHECK(now.time == Approx(end * i / 100.0).margin(1e-12));
    CHECK(std::isfinite(now.torque.value));
    CHECK(std::isfinite(now.bus_power));
  }
}

TEST_CASE("scaling laws: k times the time is 1/k the speed and 1/k² the acceleration torque") {
  RandomAxes random(43);
  for (int i = 0; i < 40; ++i) {
    Axis axis = plain_axis();
    axis["load"].type("friction", "0");
    axis["mechanism"].type("efficiency", "1");
    const double k = random.between(1.1, 5.0);
    const Evaluation fast = evaluated(axis);
    char text[40];
    std::snprintf(text, sizeof text, "%.17g s", 0.4 * k);
    axis.cycle[0].type("time", text);
    const Evaluation slow = evaluated(axis);
    CHECK(value(slow, "demand.max_speed") == Approx(value(fast, "demand.max_speed") / k).epsilon(1e-9));
    CHECK(value(slow, "demand.peak_torque") ==
          Approx(value(fast, "demand.peak_torque") / (k * k)).epsilon(1e-9));
    CHECK(value(slow, "energy.driven") == Approx(value(fast, "energy.driven") / (k * k)).epsilon(1e-9));
  }
}
