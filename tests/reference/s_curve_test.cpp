// The S-curve: one move whichever values it is given by, refusals that name what works, and the least jerk
// against a search and against bang-bang control.

#include "core/motion/cycle.hpp"
#include "core/motion/s_curve_formulas.hpp"
#include "core/quantity/number_text.hpp"
#include "core/study/least_jerk.hpp"
#include "support/axes.hpp"

#include <catch2/catch.hpp>

#include <cmath>

using namespace fulmox;
using namespace fulmox::testing;
using Catch::Contains;

namespace {

using Values = std::vector<std::pair<std::string_view, std::string>>;

std::string with_unit(double value, const char* unit) { return number_text(value, 17) + " " + unit; }

Expected<Cycle> laid_out(const Values& values) {
  Axis axis = new_axis("");
  Section section(*find_segment_spec("move"));
  section.type("law", "s_curve");
  section.type("time", "");
  for (const auto& [field, typed] : values) section.type(field, typed);
  axis.cycle.push_back(section);
  number_sections(axis);
  Recorder silent(false);
  return build_cycle(axis.cycle, along_a_line, silent);
}

/// What the pieces of a move really reach.
struct Reached {
  double speed = 0.0, acceleration = 0.0, jerk = 0.0;
};

Reached reached(const Cycle& cycle) {
  Reached most;
  for (const MotionPiece& piece : cycle.pieces)
    for (int i = 0; i <= 400; ++i) {
      const double tau = piece.duration * i / 400.0;
      most.speed = std::max(most.speed, std::abs(piece.speed(tau)));
      most.acceleration = std::max(most.acceleration, std::abs(piece.path.acceleration(tau)));
      most.jerk = std::max(most.jerk, std::abs(piece.path.jerk(tau)));
    }
  return most;
}

Cycle must(const Values& values) {
  auto cycle = laid_out(values);
  if (!cycle) FAIL(cycle.problem().text());
  return *cycle;
}

/// The quantity a remedy offers, with its unit: "It takes at least 3.20 m/s²." gives "3.20 m/s²".
std::string offered(const Problem& problem, const std::string& unit, std::size_t which = 0) {
  std::size_t end = 0;
  for (std::size_t k = 0; k <= which; ++k) end = problem.remedy.find(unit, end + 1);
  REQUIRE(end != std::string::npos);
  const auto start = problem.remedy.rfind(' ', end - 2) + 1;
  return problem.remedy.substr(start, end + unit.size() - start);
}

} // namespace

TEST_CASE("an S-curve is the same move whichever three of time, speed, acceleration and jerk are given") {
  RandomAxes random(411);
  int with_flat = 0, without = 0;
  for (int i = 0; i < 300; ++i) {
    const double d = random.between(0.02, 2.0), v = random.between(0.1, 2.0);
    const double a = random.between(1.0, 20.0), j = std::pow(10.0, random.between(1.0, 3.5));
    const std::string distance = with_unit(i % 2 == 0 ? d : -d, "m");
    const Cycle limits = must({{"distance", distance},
                               {"peak_speed", with_unit(v, "m/s")},
                               {"acceleration", with_unit(a, "m/s2")},
                               {"jerk", with_unit(j, "m/s3")}});
    const Reached most = reached(limits);
    const std::string time = with_unit(limits.duration, "s");
    const std::string speed = with_unit(most.speed, "m/s");
    const std::string acceleration = with_unit(most.acceleration, "m/s2");
    const std::string jerk = with_unit(j, "m/s3");
    (most.acceleration > 0.999 * a ? with_flat : without) += 1;
    INFO(d << " m, " << v << " m/s, " << a << " m/s², " << j << " m/s³");
    const Values given[] = {
        {{"distance", distance}, {"time", time}, {"acceleration", with_unit(a, "m/s2")}, {"jerk", jerk}},
        {{"distance", distance}, {"time", time}, {"peak_speed", speed}, {"jerk", jerk}},
        {{"distance", distance}, {"time", time}, {"peak_speed", speed}, {"acceleration", acceleration}}};
    for (const Values& values : given) {
      const Cycle cycle = must(values);
      const Reached now = reached(cycle);
      CHECK(cycle.duration == Approx(limits.duration).epsilon(1e-9));
      CHECK(cycle.net_travel == Approx(limits.net_travel).epsilon(1e-9));
      // a double root where the curve has no cruise: half the figures are lost there
      CHECK(now.speed == Approx(most.speed).epsilon(1e-4));
      CHECK(now.acceleration == Approx(most.acceleration).epsilon(2e-3));
      CHECK(now.jerk == Approx(j).epsilon(1e-2));
    }
  }
  CHECK(with_flat > 30);
  CHECK(without > 30);
}

TEST_CASE("an S-curve by two values and a rounding reaches them both") {
  RandomAxes random(412);
  for (int i = 0; i < 200; ++i) {
    const double d = random.between(0.02, 2.0), t = random.between(0.1, 3.0);
    const double share = random.between(0.05, 0.49), rounding = random.between(0.05, 1.0);
    const double v = d / t / (1.0 - share), a = v / (share * t) / (1.0 - 0.5 * rounding);
    const double j = 2.0 * a / (rounding * share * t);
    const std::string distance = with_unit(d, "m"), time = with_unit(t, "s");
    const std::string speed = with_unit(v, "m/s"), acceleration = with_unit(a, "m/s2");
    const std::pair<std::string_view, std::string> round{"rounding", number_text(rounding, 17)};
    const Values given[] = {
        {{"distance", distance}, {"time", time}, {"acceleration_share", number_text(share, 17)}, round},
        {{"distance", distance}, {"time", time}, {"peak_speed", speed}, round},
        {{"distance", distance}, {"time", time}, {"acceleration", acceleration}, round},
        {{"distance", distance}, {"peak_speed", speed}, {"acceleration", acceleration}, round}};
    for (const Values& values : given) {
      const Cycle cycle = must(values);
      const Reached most = reached(cycle);
      CHECK(cycle.duration == Approx(t).epsilon(1e-7));
      CHECK(cycle.net_travel == Approx(d).epsilon(1e-9));
      CHECK(most.speed == Approx(v).epsilon(1e-6));
      CHECK(most.acceleration == Approx(a).epsilon(1e-5));
      CHECK(most.jerk == Approx(j).epsilon(1e-5));
      CHECK(cycle.facts[0].peak_jerk == Approx(j).epsilon(1e-5));
    }
  }
}

TEST_CASE("an S-curve may slow down harder than it speeds up, the sharper ramp telling the jerk") {
  const Cycle cycle = must({{"distance", "1 m"},
                            {"peak_speed", "1 m/s"},
                            {"acceleration", "2 m/s2"},
                            {"deceleration", "8 m/s2"},
                            {"rounding", "0.5"}});
  const Reached most = reached(cycle);
  CHECK(most.acceleration == Approx(8.0));
  CHECK(cycle.facts[0].peak_acceleration.value == Approx(8.0));
  // ramp of 1/(8·0.75) s, a quarter of it to build up 8 m/s²
  CHECK(most.jerk == Approx(8.0 / (0.25 / 6.0)));
  CHECK(cycle.facts[0].peak_jerk == Approx(most.jerk));
}

TEST_CASE("an S-curve that cannot be names the nearest that can, and that one works") {
  const Values head{{"distance", "500 mm"}};
  const auto refused = [&](Values values) {
    values.insert(values.begin(), head.begin(), head.end());
    const auto cycle = laid_out(values);
    REQUIRE_FALSE(cycle);
    return cycle.problem();
  };
  const auto works = [&](Values values) {
    values.insert(values.begin(), head.begin(), head.end());
    return static_cast<bool>(laid_out(values));
  };
  const Problem hurried = refused({{"time", "0.3 s"}, {"acceleration", "5 m/s2"}, {"jerk", "100 m/s3"}});
  CHECK(hurried.where == "cycle[0].time");
  CHECK(works({{"time", offered(hurried, "ms")}, {"acceleration", "5 m/s2"}, {"jerk", "100 m/s3"}}));
  const Problem blunt = refused({{"time", "1 s"}, {"peak_speed", "0.8 m/s"}, {"jerk", "5 m/s3"}});
  CHECK(blunt.where == "cycle[0].jerk");
  CHECK(works({{"time", "1 s"}, {"peak_speed", "0.8 m/s"}, {"jerk", offered(blunt, "m/s³")}}));
  const Problem weak = refused({{"time", "1 s"}, {"peak_speed", "0.8 m/s"}, {"acceleration", "1 m/s2"}});
  CHECK(weak.where == "cycle[0].acceleration");
  CHECK(works({{"time", "1 s"}, {"peak_speed", "0.8 m/s"}, {"acceleration", offered(weak, "m/s²", 1)}}));
  CHECK_FALSE(works({{"time", "1 s"}, {"peak_speed", "0.8 m/s"}, {"acceleration", "4.4 m/s2"}}));
  CHECK(works({{"time", "1 s"}, {"peak_speed", "0.8 m/s"}, {"acceleration", "3 m/s2"}}));
  const Problem fast = refused({{"time", "1 s"}, {"peak_speed", "1.2 m/s"}, {"jerk", "100 m/s3"}});
  CHECK_THAT(fast.remedy, Contains("1.00 m/s"));
  CHECK_THAT(refused({{"time", "1 s"}, {"peak_speed", "0.4 m/s"}, {"jerk", "100 m/s3"}}).remedy,
             Contains("500 mm/s"));
  // messages of rounded ramps tell the peak, not the mean
  const Problem slow = refused({{"time", "1 s"}, {"acceleration", "2 m/s2"}});
  CHECK_THAT(slow.remedy, Contains("2.67 m/s²"));
  CHECK(works({{"time", "1 s"}, {"acceleration", "2.667 m/s2"}}));
  CHECK_THAT(
      refused({{"time", "1 s"}, {"peak_speed", "0.8 m/s"}, {"acceleration", "3 m/s2"}, {"jerk", "9 m/s3"}})
          .remedy,
      Contains("three"));
  CHECK(
      refused({{"peak_speed", "1 m/s"}, {"acceleration", "3 m/s2"}, {"jerk", "9 m/s3"}, {"rounding", "0.5"}})
          .where == "cycle[0].rounding");
}

TEST_CASE("too short a time is not a number, one just long enough gives the fully rounded move") {
  const double d = 0.4, j = 200.0, t = std::cbrt(32.0 * d / j);
  CHECK(std::isnan(s_curve_speed_in_time(d, 0.99 * t, 1e3, j)));
  CHECK(s_curve_speed_in_time(d, t, 1e3, j) == Approx(2.0 * d / t).epsilon(1e-6));
  CHECK(s_curve_speed_in_time(d, 50.0 * t, 1e3, j) == Approx(d / (50.0 * t)).epsilon(1e-2));
}

TEST_CASE("least jerk without limits is that of bang-bang jerk, and no law of the table has less") {
  const auto gentle = least_jerk(0.3, 0.5, {});
  REQUIRE(gentle);
  CHECK(gentle->jerk == Approx(32.0 * 0.3 / 0.125)); // 32·D/t³: bang-bang control
  CHECK(gentle->share == Approx(0.5));
  CHECK(gentle->rounding == 1.0);
  const double others[] = {60.0, 52.5, 39.478, 69.47, 61.43}; // C_j of the smooth laws, VDI 2143, from memory
  for (const double c_j : others) CHECK(32.0 < c_j);
}

TEST_CASE("least jerk within limits: what a search over every S-curve finds, and the move keeps them") {
  RandomAxes random(413);
  int found = 0, none = 0, flat = 0;
  for (int i = 0; i < 200; ++i) {
    const double d = random.between(0.05, 1.0), t = random.between(0.2, 2.0);
    const MoveLimits limits{random.between(0.9, 2.2) * d / t, random.between(3.0, 16.0) * d / (t * t)};
    // jerk of a symmetrical S-curve by its share and rounding
    double best = std::numeric_limits<double>::infinity();
    for (int s = 1; s <= 500; ++s)
      for (int r = 1; r <= 200; ++r) {
        const double share = 0.5 * s / 500.0, rounding = r / 200.0;
        const double v = d / t / (1.0 - share), a = v / (share * t) / (1.0 - 0.5 * rounding);
        if (v <= limits.speed && a <= limits.acceleration)
          best = std::min(best, 2.0 * a / (rounding * share * t));
      }
    const auto gentle = least_jerk(d, t, limits);
    INFO(d << " m in " << t << " s within " << limits.speed << " m/s, " << limits.acceleration << " m/s²");
    if (!gentle) {
      CHECK(best > 200.0 * 32.0 * d / (t * t * t)); // at most a sliver of the grid
      ++none;
      continue;
    }
    ++found;
    if (gentle->rounding < 1.0) ++flat;
    if (std::isfinite(best)) {
      CHECK(gentle->jerk <= best * (1.0 + 1e-9));
      if (best < 300.0 * d / (t * t * t)) CHECK(gentle->jerk >= 0.9 * best);
    }
    const Cycle cycle = must({{"distance", with_unit(d, "m")},
                              {"time", with_unit(t, "s")},
                              {"acceleration_share", number_text(gentle->share, 17)},
                              {"rounding", number_text(gentle->rounding, 17)}});
    const Reached most = reached(cycle);
    CHECK(most.speed <= limits.speed * (1.0 + 1e-6));
    CHECK(most.acceleration <= limits.acceleration * (1.0 + 1e-6));
    CHECK(most.jerk == Approx(gentle->jerk).epsilon(1e-5));
  }
  CHECK(found > 80);
  CHECK(none > 10);
  CHECK(flat > 20);
}
