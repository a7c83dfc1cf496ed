// Whether the rope of a hoist stays taut: by hand, and against sums of forces at many moments.

#include "reference/numbers.hpp"
#include "support/axes.hpp"

#include <catch2/catch.hpp>

#include <algorithm>
#include <cmath>
#include <random>

using namespace fulmox;
using namespace fulmox::testing;

namespace {

constexpr double g = 9.80665;

Axis drum_axis(const std::string& mass, const std::string& angle, const std::string& friction) {
  Axis axis = axis_on("drum");
  axis["load"].type("moved_mass", mass);
  axis["load"].type("angle", angle);
  axis["load"].type("friction", friction);
  return axis;
}

bool judged(const Evaluation& e) {
  return std::any_of(e.limits.begin(), e.limits.end(), [](const Limit& l) { return l.id == "rope.slack"; });
}

void move(Axis& axis, const char* distance, const char* time) {
  add_segment(axis, "move",
              {{"distance", distance},
               {"time", time},
               {"acceleration_share", "0.25"},
               {"deceleration_share", "0.25"}});
}

} // namespace

TEST_CASE("a hoist's rope is slackest where its load is let fall fastest") {
  Axis axis = drum_axis("40 kg", "90 deg", "0");
  move(axis, "1.5 m", "2 s"); // 1 m/s within half a second
  move(axis, "-1.5 m", "2 s");
  const Limit found = limit(evaluated(axis), "rope.slack");
  CHECK(found.capacity == Approx(40.0 * (g + 2.0)));
  CHECK(found.demand == Approx(40.0 * 4.0));
  CHECK(found.state == LimitState::clear);
  CHECK(found.moment->time == Approx(1.5)); // it slows down on its way up; on the way down it ties
  SECTION("neither falls, efficiency nor the drum's own inertia and drag change what the rope carries") {
    axis["mechanism"].type("falls", "2");
    axis["mechanism"].type("efficiency", "0.7");
    axis["mechanism"].type("drum_inertia", "0.05 kg.m2");
    axis["mechanism"].type("drag", "3 N.m");
    Section stage(*find_kind(axis, *find_list("stages"), "gear_pair"));
    stage.type("driving", "20");
    stage.type("driven", "60");
    axis.stages.push_back(stage);
    number_sections(axis);
    const Limit still = limit(evaluated(axis), "rope.slack");
    CHECK(still.capacity == Approx(found.capacity).epsilon(1e-9));
    CHECK(still.demand == Approx(found.demand).epsilon(1e-9));
  }
  SECTION("forward may lead down") {
    axis["load"].type("angle", "-90 deg");
    const Limit still = limit(evaluated(axis), "rope.slack");
    CHECK(still.capacity == Approx(found.capacity));
    CHECK(still.demand == Approx(found.demand));
  }
  SECTION("let fall faster than it falls by itself it is caught by the rope") {
    for (const auto& [time, over] : {std::pair{"0.91 s", false}, {"0.9 s", true}}) { // 8 m/t²
      axis.cycle[1].type("time", time);
      CHECK((limit(evaluated(axis), "rope.slack").state == LimitState::over) == over);
    }
  }
  SECTION("a drum that locks itself tells no pull; other mechanisms have no rope") {
    axis["mechanism"].type("back_efficiency", "-0.2");
    CHECK_FALSE(judged(evaluated(axis)));
    choose_mechanism(axis, *find_mechanism("belt"));
    CHECK_FALSE(judged(evaluated(axis)));
  }
}

TEST_CASE("what a winch draws on the level runs into its rope unless friction stops it in time") {
  Axis axis = drum_axis("20 kg", "0 deg", "0.1");
  move(axis, "1 m", "2 s"); // 0.667 m/s, 1.333 m/s²
  const double rubbing = 0.1 * 20.0 * g, push = 20.0 * 4.0 / 3.0;
  const Limit found = limit(evaluated(axis), "rope.slack");
  CHECK(found.capacity == Approx(push + rubbing));
  CHECK(found.demand == Approx(2.0 * push));
  CHECK(found.state == LimitState::over);
  CHECK(found.moment->time == Approx(1.5));
  axis["load"].type("friction", "0.2");
  add_segment(axis, "dwell", {{"time", "1 s"}}); // it hangs as it was left
  const Limit stopped = limit(evaluated(axis), "rope.slack");
  CHECK(stopped.demand == Approx(2.0 * push));
  CHECK(stopped.capacity == Approx(push + 2.0 * rubbing));
  CHECK(stopped.state != LimitState::over);
}

TEST_CASE("the least pull of a rope is the least of many moments") {
  std::mt19937 random(90401);
  const auto between = [&](double low, double high) {
    return std::uniform_real_distribution<double>(low, high)(random);
  };
  const auto text = [](double value, const char* unit) { return exact(value) + " " + unit; };
  for (int i = 0; i < rounds(40); ++i) {
    const double mass = between(2.0, 80.0), angle = between(-1.5, 1.5), friction = between(0.0, 0.3),
                 damping = between(0.0, 20.0);
    Axis axis = drum_axis(text(mass, "kg"), text(angle, "rad"), exact(friction));
    axis["load"].type("viscous", text(damping, "N.s/m"));
    axis["mechanism"].type("drum_inertia", text(between(0.0, 0.02), "kg.m2"));
    axis["mechanism"].type("drag", text(between(0.0, 2.0), "N.m"));
    axis["mechanism"].type("efficiency", exact(between(0.5, 1.0)));
    axis["mechanism"].type("falls", std::to_string(1 + random() % 3));
    double process = 0.0;
    for (const double way : {1.0, -1.0}) {
      process = between(-30.0, 30.0);
      add_segment(axis, "move",
                  {{"distance", text(way * between(0.2, 2.0), "m")},
                   {"time", text(between(0.4, 3.0), "s")},
                   {"law", random() % 2 == 0 ? "345" : "cycloidal"},
                   {"process", text(process, "N")}});
    }
    const Evaluation e = evaluated(axis);
    const double duration = e.model->load->cycle.duration;
    double least = INFINITY, greatest = -INFINITY;
    constexpr int looks = 20001;
    for (int k = 0; k < looks; ++k) {
      const LoadState load = e.at(duration * (k + 0.5) / looks).load;
      if (load.speed == 0.0) continue;
      const double sense = load.speed > 0.0 ? 1.0 : -1.0;
      const double force = mass * (load.acceleration + g * std::sin(angle)) +
                           sense * friction * mass * g * std::cos(angle) + damping * load.speed +
                           load.process;
      const double pull = angle < 0.0 ? -force : force;
      least = std::min(least, pull);
      greatest = std::max(greatest, pull);
    }
    const LoadPeaks& peaks = e.model->load->peaks;
    const double scale = std::max(std::abs(least), std::abs(greatest));
    INFO(i << ": " << angle << " " << mass);
    CHECK(peaks.rope.least.value == Approx(least).margin(1e-6 * scale));
    CHECK(peaks.rope.greatest == Approx(greatest).margin(1e-6 * scale));
    CHECK(peaks.rope.least.value <= least + 1e-12 * scale);
    CHECK(peaks.rope.greatest >= greatest - 1e-12 * scale);
    const Limit found = limit(e, "rope.slack");
    CHECK((found.state == LimitState::over) == (least < 0.0));
  }
}
