// Motion laws against their published shape constants and against plain numerics.

#include "core/motion/cycle.hpp"
#include "core/quantity/parse.hpp"
#include "support/axes.hpp"

#include <boost/math/quadrature/gauss_kronrod.hpp>
#include <catch2/catch.hpp>

#include <cmath>

using namespace fulmox;
using namespace fulmox::testing;
using Catch::Contains;

namespace {

struct Constants {
  const char* law;
  double c_v, c_a, c_j, rms;
};

/// Shape constants for unit distance and time, from memory of the tables in VDI 2143 part 1 (3-4-5, 4-5-6-7,
/// inclined sine, modified sine, modified trapezoid); triangle and parabola follow by hand. The rms values
/// were integrated apart from the program.
constexpr double none = -1.0;
constexpr Constants table[] = {{"triangle", 2.0, 4.0, none, 4.0},
                               {"parabolic", 1.5, 6.0, none, 3.4641},
                               {"345", 1.875, 5.7735, 60.0, 4.1404},
                               {"4567", 2.1875, 7.5132, 52.5, 5.0452},
                               {"cycloidal", 2.0, 6.2832, 39.478, 4.4429},
                               {"modified_sine", 1.7596, 5.5280, 69.47, 3.9089},
                               {"modified_trapezoid", 2.0, 4.8881, 61.43, 4.2332}};

Cycle cycle_of(const Axis& axis) {
  Recorder silent(false);
  auto cycle = build_cycle(axis.cycle, motion_of(axis), silent);
  if (!cycle) FAIL(cycle.problem().text());
  return *cycle;
}

Cycle unit_move(const char* law) {
  Axis axis = new_axis("");
  add_segment(axis, "move", {{"distance", "1 m"}, {"law", law}, {"time", "1 s"}});
  return cycle_of(axis);
}

template <class F> double greatest(const Cycle& cycle, F f) {
  double most = 0.0;
  for (const MotionPiece& piece : cycle.pieces)
    for (int i = 0; i <= 2000; ++i) most = std::max(most, std::abs(f(piece, piece.duration * i / 2000.0)));
  return most;
}

double speed(const MotionPiece& p, double tau) { return p.path.speed(tau); }
double acceleration(const MotionPiece& p, double tau) { return p.path.acceleration(tau); }
double jerk(const MotionPiece& p, double tau) { return p.path.jerk(tau); }

Problem refusal(std::initializer_list<std::pair<std::string_view, std::string>> values) {
  Axis axis = new_axis("");
  add_segment(axis, "move", values);
  Recorder silent(false);
  const auto cycle = build_cycle(axis.cycle, along_a_line, silent);
  REQUIRE_FALSE(cycle);
  return cycle.problem();
}

/// The quantity a remedy offers: "At most 1.5 m/s with …" → "1.5 m/s".
std::string offered(const std::string& remedy, const char* unit) {
  const auto end = remedy.find(unit) + std::string(unit).size();
  const auto number = remedy.rfind(' ', remedy.find(unit) - 2) + 1;
  return remedy.substr(number, end - number);
}

} // namespace

TEST_CASE("shape constants of the laws are those of VDI 2143") {
  for (const Constants& c : table) {
    INFO(c.law);
    const Cycle cycle = unit_move(c.law);
    CHECK(greatest(cycle, speed) == Approx(c.c_v).epsilon(1e-4));
    CHECK(greatest(cycle, acceleration) == Approx(c.c_a).epsilon(1e-4));
    if (c.c_j > 0.0) CHECK(greatest(cycle, jerk) == Approx(c.c_j).epsilon(1e-3));
    double squares = 0.0;
    for (const MotionPiece& piece : cycle.pieces)
      squares += boost::math::quadrature::gauss_kronrod<double, 31>::integrate(
          [&](double tau) { return std::pow(piece.path.acceleration(tau), 2); }, 0.0, piece.duration, 5,
          1e-12);
    CHECK(std::sqrt(squares) == Approx(c.rms).epsilon(2e-5));
  }
}

TEST_CASE("recorded peaks of every fixed law are what its pieces reach") {
  for (const Constants& c : table) {
    INFO(c.law);
    const Cycle cycle = unit_move(c.law);
    CHECK(cycle.facts[0].peak_speed == Approx(greatest(cycle, speed)).epsilon(1e-6));
    CHECK(cycle.facts[0].peak_acceleration == Approx(greatest(cycle, acceleration)).epsilon(1e-6));
    if (c.c_j > 0.0) CHECK(cycle.facts[0].peak_jerk == Approx(greatest(cycle, jerk)).epsilon(1e-5));
  }
}

TEST_CASE("every law: each derivative is the derivative of the one before, and nothing jumps that must not") {
  for (const LawSpec* law : law_specs()) {
    INFO(law->id);
    const Cycle cycle = unit_move(std::string(law->id).c_str());
    double x = 0.0, v = 0.0;
    for (const MotionPiece& piece : cycle.pieces) {
      CHECK(piece.position(0.0) == Approx(x).margin(1e-12));
      CHECK(piece.speed(0.0) == Approx(v).margin(1e-11));
      for (int i = 1; i < 20; ++i) {
        const double tau = piece.duration * i / 20.0, h = 1e-5 * piece.duration;
        CHECK((piece.position(tau + h) - piece.position(tau - h)) / (2.0 * h) ==
              Approx(piece.speed(tau)).epsilon(1e-6).margin(1e-6));
        CHECK((piece.speed(tau + h) - piece.speed(tau - h)) / (2.0 * h) ==
              Approx(piece.path.acceleration(tau)).epsilon(1e-5).margin(1e-5));
      }
      x = piece.position(piece.duration);
      v = piece.speed(piece.duration);
    }
    CHECK(x == Approx(1.0).epsilon(1e-12));
    CHECK(v == Approx(0.0).margin(1e-11));
  }
}

TEST_CASE("the parabola has the least rms acceleration of all laws, the triangle the least peak") {
  double least_rms = 1e9, least_peak = 1e9;
  for (const Constants& c : table) {
    least_rms = std::min(least_rms, c.rms);
    least_peak = std::min(least_peak, c.c_a);
  }
  CHECK(least_rms == Approx(2.0 * std::sqrt(3.0)).epsilon(1e-4)); // calculus of variations
  CHECK(least_peak == 4.0);                                       // bang-bang control
}

TEST_CASE("a trapezoid is the same move whichever two of its values are given") {
  RandomAxes random(301);
  const auto text = [](double value, const char* unit) {
    char buffer[48];
    std::snprintf(buffer, sizeof buffer, "%.15g %s", value, unit);
    return std::string(buffer);
  };
  for (int i = 0; i < 200; ++i) {
    const double d = random.between(0.01, 2.0), t = random.between(0.1, 3.0),
                 share = random.between(0.02, 0.499);
    const double v = d / t / (1.0 - share), a = v / (share * t);
    const std::string distance = text(i % 2 == 0 ? d : -d, "m");
    const auto move = [&](std::initializer_list<std::pair<std::string_view, std::string>> values) {
      Axis axis = new_axis("");
      Section section(*find_segment_spec("move"));
      section.type("distance", distance);
      section.type("time", "");
      for (const auto& [field, typed] : values) section.type(field, typed);
      axis.cycle.push_back(section);
      number_sections(axis);
      return cycle_of(axis);
    };
    const Cycle by_share = move({{"time", text(t, "s")}, {"acceleration_share", text(share, "")}});
    const Cycle variants[] = {
        move({{"time", text(t, "s")}, {"peak_speed", text(v, "m/s")}}),
        move({{"time", text(t, "s")}, {"acceleration", text(a, "m/s2")}}),
        move({{"peak_speed", text(v, "m/s")}, {"acceleration", text(a, "m/s2")}}),
        move({{"peak_speed", text(v, "m/s")}, {"acceleration_share", text(share, "")}}),
        move({{"acceleration", text(a, "m/s2")}, {"acceleration_share", text(share, "")}})};
    for (const Cycle& cycle : variants) {
      CHECK(cycle.duration == Approx(t).epsilon(1e-7));
      CHECK(cycle.net_travel == Approx(by_share.net_travel).epsilon(1e-12));
      CHECK(greatest(cycle, speed) == Approx(v).epsilon(1e-6));
      CHECK(greatest(cycle, acceleration) == Approx(a).epsilon(1e-5));
    }
  }
}

TEST_CASE("an S-curve keeps within its limits, reaches what it can, and ends where it was sent") {
  RandomAxes random(302);
  for (int i = 0; i < 300; ++i) {
    const double d = std::pow(10.0, random.between(-3.0, 0.5)), v = random.between(0.05, 3.0);
    const double a = random.between(0.5, 30.0), j = random.between(5.0, 2000.0);
    Axis axis = new_axis("");
    const auto n = [](double value) { return std::to_string(value); };
    add_segment(axis, "move",
                {{"distance", n(d) + " m"},
                 {"law", "s_curve"},
                 {"time", ""},
                 {"peak_speed", n(v) + " m/s"},
                 {"acceleration", n(a) + " m/s2"},
                 {"jerk", n(j) + " m/s3"}});
    const Cycle cycle = cycle_of(axis);
    INFO(d << " m, " << v << " m/s, " << a << " m/s², " << j << " m/s³");
    CHECK(cycle.pieces.back().position(cycle.pieces.back().duration) ==
          Approx(std::stod(n(d))).epsilon(1e-8));
    const double top = greatest(cycle, speed), sharpest = greatest(cycle, acceleration);
    CHECK(top <= v * (1.0 + 1e-5));
    CHECK(sharpest <= a * (1.0 + 1e-5));
    CHECK(greatest(cycle, jerk) <= j * (1.0 + 1e-5));
    // time-optimal: at least one of speed, acceleration or jerk alone sets the pace (bang-bang)
    const bool at_speed = top > v * (1.0 - 1e-5), at_acceleration = sharpest > a * (1.0 - 1e-5);
    if (!at_speed && !at_acceleration)
      CHECK(cycle.duration == Approx(std::cbrt(32.0 * std::stod(n(d)) / std::stod(n(j)))).epsilon(1e-4));
  }
}

TEST_CASE("an S-curve by time with nothing rounded is the trapezoid") {
  Axis axis = plain_axis();
  const double rms = value(evaluated(axis), "demand.rms_torque");
  axis.cycle[0].type("law", "s_curve");
  axis.cycle[0].type("rounding", "0");
  CHECK(value(evaluated(axis), "demand.rms_torque") == Approx(rms).epsilon(1e-9));
  axis.cycle[0].type("rounding", "1");
  CHECK(value(evaluated(axis), "demand.rms_torque") > rms);
}

TEST_CASE("an impossible move names the nearest that works, and that one works") {
  const auto works = [](std::initializer_list<std::pair<std::string_view, std::string>> values) {
    Axis axis = new_axis("");
    add_segment(axis, "move", values);
    Recorder silent(false);
    return static_cast<bool>(build_cycle(axis.cycle, along_a_line, silent));
  };
  const Problem fast = refusal({{"distance", "100 mm"}, {"time", "1 s"}, {"peak_speed", "1 m/s"}});
  CHECK(fast.where == "cycle[0].peak_speed");
  CHECK_THAT(fast.remedy, Contains("200 mm/s"));
  CHECK(works({{"distance", "100 mm"}, {"time", "1 s"}, {"peak_speed", "200 mm/s"}}));
  CHECK_THAT(refusal({{"distance", "100 mm"}, {"time", "1 s"}, {"peak_speed", "90 mm/s"}}).remedy,
             Contains("100 mm/s"));
  const Problem weak = refusal({{"distance", "100 mm"}, {"time", "1 s"}, {"acceleration", "0.3 m/s2"}});
  CHECK_THAT(weak.remedy, Contains("0.400 m/s²"));
  CHECK(works({{"distance", "100 mm"}, {"time", "1 s"}, {"acceleration", "0.4 m/s2"}}));
  const Problem never =
      refusal({{"distance", "100 mm"}, {"time", ""}, {"peak_speed", "2 m/s"}, {"acceleration", "10 m/s2"}});
  CHECK_THAT(never.remedy, Contains("1.00 m/s"));
  CHECK(works({{"distance", "100 mm"},
               {"time", ""},
               {"peak_speed", offered(never.remedy, "m/s")},
               {"acceleration", "10 m/s2"}}));
}

TEST_CASE("a move that says too much or too little is told what to clear or give") {
  CHECK_THAT(refusal({{"distance", "1 m"}, {"time", ""}}).what, Contains("no time"));
  CHECK_THAT(refusal({{"distance", "1 m"}, {"peak_speed", "2 m/s"}, {"acceleration", "9 m/s2"}}).remedy,
             Contains("clear"));
  CHECK_THAT(refusal({{"distance", "1 m"}, {"peak_speed", "2 m/s"}, {"acceleration_share", "0.2"}}).remedy,
             Contains("Clear"));
  CHECK_THAT(refusal({{"distance", "1 m"}, {"law", "cycloidal"}, {"peak_speed", "2 m/s"}}).what,
             Contains("fixed shape"));
  CHECK_THAT(refusal({{"distance", "1 m"}, {"law", "cycloidal"}, {"end_speed", "2 m/s"}}).remedy,
             Contains("trapezoid"));
  CHECK_THAT(refusal({{"distance", "1 m"}, {"law", "s_curve"}, {"jerk", "2 m/s3"}}).remedy,
             Contains("clear the jerk"));
  CHECK_THAT(refusal({{"distance", "1 m"}, {"deceleration", "2 m/s2"}}).what,
             Contains("without an acceleration"));
}

TEST_CASE("the 3-4-5 polynomial joins speeds without a jump of acceleration") {
  Axis axis = new_axis("");
  add_segment(axis, "move", {{"distance", "200 mm"}, {"law", "345"}, {"time", "0.5 s"}});
  add_segment(axis, "run", {{"speed", "0.6 m/s"}, {"time", "1 s"}});
  add_segment(axis, "move", {{"distance", "200 mm"}, {"law", "345"}, {"time", "0.5 s"}});
  const Cycle cycle = cycle_of(axis);
  REQUIRE(cycle.pieces.size() == 3);
  const MotionPiece& first = cycle.pieces[0];
  CHECK(first.speed(first.duration) == Approx(0.6));
  CHECK(first.path.acceleration(first.duration) == Approx(0.0).margin(1e-9));
  CHECK(first.position(first.duration) == Approx(0.2));
  CHECK(cycle.pieces[2].speed(0.0) == Approx(0.6));
  CHECK(cycle.net_travel == Approx(1.0));
}
