// Recorded profiles: reading, smoothing, and the axis that follows them.

#include "core/motion/cycle.hpp"
#include "core/motion/profile.hpp"
#include "core/report/trace_csv.hpp"
#include "support/axes.hpp"

#include <catch2/catch.hpp>

#include <cmath>

using namespace fulmox;
using namespace fulmox::testing;
using Catch::Contains;

namespace {

/// 3-4-5 move of 1 m in 1 s, sampled, with noise.
std::vector<CurvePoint> recorded(int count, double noise, unsigned seed) {
  std::mt19937 engine(seed);
  std::normal_distribution<double> error(0.0, 1.0);
  std::vector<CurvePoint> points;
  for (int i = 0; i <= count; ++i) {
    const double u = static_cast<double>(i) / count;
    const double miss = i == 0 || i == count ? 0.0 : noise * error(engine);
    points.push_back({u, u * u * u * (10.0 - 15.0 * u + 6.0 * u * u) + miss});
  }
  return points;
}

double sharpest(const MovePlan& plan) { return plan.peak_acceleration; }

} // namespace

TEST_CASE("without noise the curve goes through every point and knows the acceleration") {
  const auto fitted = fit_profile(recorded(100, 0.0, 1), 0.0, true);
  REQUIRE(fitted);
  CHECK(fitted->residual_max < 1e-10);
  CHECK(fitted->slope.front() == 0.0);
  const MovePlan plan = plan_of(*fitted);
  CHECK(sharpest(plan) == Approx(5.7735).epsilon(2e-3));
  CHECK(plan.peak_speed == Approx(1.875).epsilon(1e-4));
}

TEST_CASE("smoothing leaves the deviation it was told and takes the noise out of the acceleration") {
  const auto points = recorded(200, 0.5e-3, 2);
  const MovePlan raw = plan_of(*fit_profile(points, 0.0, true));
  const auto fitted = fit_profile(points, 0.5e-3, true);
  CHECK(fitted->residual_rms == Approx(0.5e-3).epsilon(1e-3));
  const MovePlan smooth = plan_of(*fitted);
  CHECK(sharpest(raw) > 30.0); // half a millimetre of noise makes nonsense of second differences
  CHECK(sharpest(smooth) == Approx(5.77).epsilon(0.12));
  CHECK(fitted->fitted.front() == Approx(0.0).margin(1e-12));
  CHECK(fitted->fitted.back() == Approx(1.0));
}

TEST_CASE("the scatter of a record is its noise, whatever the motion and the steps of time") {
  for (const double noise : {0.02e-3, 0.5e-3, 3e-3})
    CHECK(scatter_of(recorded(800, noise, 5)) == Approx(noise).epsilon(0.12));
  CHECK(scatter_of(recorded(400, 0.0, 1)) < 1e-6); // the motion's own jerk hardly shows
  // a parabola has none at all, also when the steps are uneven
  std::vector<CurvePoint> parabola;
  for (int i = 0; i < 50; ++i) {
    const double t = 0.01 * i + 0.003 * std::sin(7.0 * i);
    parabola.push_back({t, 3.0 - 2.0 * t + 40.0 * t * t});
  }
  CHECK(scatter_of(parabola) < 1e-10);
  // uneven steps with noise
  std::mt19937 engine(9);
  std::normal_distribution<double> error(0.0, 0.2e-3);
  for (CurvePoint& point : parabola) point[1] += error(engine);
  CHECK(scatter_of(parabola) == Approx(0.2e-3).epsilon(0.35));
  // turned about, shifted, scaled
  auto points = recorded(300, 1e-3, 6);
  const double before = scatter_of(points);
  for (CurvePoint& point : points) point[1] = 5.0 - 2.0 * point[1];
  CHECK(scatter_of(points) == Approx(2.0 * before).epsilon(1e-9));
  CHECK(scatter_of({{0.0, 1.0}, {1.0, 5.0}, {2.0, -3.0}}) == 0.0);
}

TEST_CASE("speed and acceleration are continuous along the fitted curve") {
  const MovePlan plan = plan_of(*fit_profile(recorded(60, 1e-3, 3), 0.8e-3, false));
  for (std::size_t i = 1; i < plan.pieces.size(); ++i) {
    const PlanPiece& before = plan.pieces[i - 1];
    const Path& here = plan.pieces[i].path;
    CHECK(here.position(0.0) == Approx(before.path.position(before.duration)).margin(1e-10));
    CHECK(here.speed(0.0) == Approx(before.path.speed(before.duration)).margin(1e-8));
    CHECK(here.acceleration(0.0) == Approx(before.path.acceleration(before.duration)).margin(1e-5));
  }
}

// A natural cubic spline through y = x² at 0…4, worked by hand from the tridiagonal system: second
// derivatives 0, 18/7, 12/7, 18/7, 0.
TEST_CASE("the curve through few points is the natural cubic spline") {
  const auto fitted = fit_profile({{0, 0}, {1, 1}, {2, 4}, {3, 9}, {4, 16}}, 0.0, false);
  const MovePlan plan = plan_of(*fitted);
  CHECK(plan.pieces[1].path.acceleration(0.0) == Approx(18.0 / 7.0).epsilon(1e-9));
  CHECK(plan.pieces[2].path.acceleration(0.0) == Approx(12.0 / 7.0).epsilon(1e-9));
  CHECK(plan.pieces[0].path.acceleration(0.0) == Approx(0.0).margin(1e-9));
}

TEST_CASE("pieces never turn round inside") {
  std::vector<CurvePoint> swing;
  for (int i = 0; i <= 40; ++i) swing.push_back({0.05 * i, 0.1 * std::sin(0.05 * i * 5.0)});
  for (const PlanPiece& piece : plan_of(*fit_profile(swing, 0.0, false)).pieces) {
    const double middle = piece.path.speed(0.5 * piece.duration);
    for (int k = 0; k <= 10; ++k) CHECK(piece.path.speed(piece.duration * k / 10.0) * middle >= -1e-9);
  }
}

TEST_CASE("a record of a move drives the axis like the move itself") {
  Axis move = plain_axis(), record = plain_axis();
  move.cycle.clear();
  record.cycle.clear();
  add_segment(move, "move", {{"distance", "300 mm"}, {"law", "345"}, {"time", "0.5 s"}});
  std::string points;
  for (int i = 0; i <= 250; ++i) {
    const double u = i / 250.0;
    char text[64];
    std::snprintf(text, sizeof text, "%s%.6g ms: %.9g mm", i > 0 ? "; " : "", 500.0 * u,
                  300.0 * u * u * u * (10.0 - 15.0 * u + 6.0 * u * u));
    points += text;
  }
  add_segment(record, "profile", {{"points", points}});
  const Evaluation a = evaluated(move), b = evaluated(record);
  CHECK(value(b, "demand.rms_torque") == Approx(value(a, "demand.rms_torque")).epsilon(1e-3));
  CHECK(value(b, "demand.peak_torque") == Approx(value(a, "demand.peak_torque")).epsilon(5e-3));
  CHECK(value(b, "energy.driven") == Approx(value(a, "energy.driven")).epsilon(1e-4));
}

TEST_CASE("CSV of time and position: any unit, header optional, any usual separator") {
  const auto read = [](const char* text) {
    const auto points = points_from_csv(text, profile_columns(along_a_line));
    if (!points) FAIL(points.problem().text());
    const FieldSpec& field = find_segment_spec("profile")->fields[0];
    const Entry entry = make_entry(field, *points);
    if (entry.faulty()) FAIL(entry.fault.text());
    return entry.curve;
  };
  const auto plain = read("0,0\n0.1,1\n0.2,4\n0.3,9\n");
  CHECK(plain[3][0] == Approx(0.3));
  CHECK(plain[3][1] == Approx(0.009)); // millimetres are usual
  const auto titled = read("time [ms],position (in)\r\n0,0\r\n10,1\r\n20,2\r\n30,3\r\n");
  CHECK(titled[3][0] == Approx(0.03));
  CHECK(titled[3][1] == Approx(0.0762));
  const auto european = read("t/s;x/m\n0,0;0\n0,1;0,01\n0,2;0,04\n0,3;0,09\n");
  CHECK(european[3][1] == Approx(0.09));
  CHECK(read("# log\n0 0\n1 1\n2 2\n3 3\n").size() == 4);
}

TEST_CASE("bad CSV is refused with line and column") {
  const auto where = [](const char* text) {
    return points_from_csv(text, profile_columns(along_a_line)).problem().text();
  };
  CHECK_THAT(where("0,0\n1,1\n1,2\n3,3\n"), Contains("line 3") && Contains("rise"));
  CHECK_THAT(where("0,0\n1,x\n2,2\n3,3\n"), Contains("line 2, column 2"));
  CHECK_THAT(where("0,0\n1,1\n2,2\n"), Contains("at least 4 rows"));
  CHECK_THAT(where("time [kg],x [mm]\n0,0\n1,1\n2,2\n3,3\n"), Contains("column 1"));
  CHECK_THAT(where("0\n1\n2\n3\n"), Contains("two columns"));
}

TEST_CASE("process force over position from CSV, also with negative values and a torque about an axis") {
  const auto points = points_from_csv("x [mm];F [N]\n-5;0\n0;-20,5\n10;40\n", process_columns(along_a_line));
  REQUIRE(points);
  Section move(*find_segment_spec("move"));
  move.type("process_curve", *points);
  REQUIRE_FALSE(move.entry("process_curve").faulty());
  CHECK(move.entry("process_curve").curve[1][1] == Approx(-20.5));
  const auto turning = points_from_csv("0 0\n90 1.5\n", process_columns(about_an_axis));
  REQUIRE(turning);
  CHECK(*turning == "0 deg: 0 N.m; 90 deg: 1.5 N.m");
}

TEST_CASE("the cycle as CSV: even steps, the last moment, units in the header") {
  const Evaluation e = evaluated(demo().axes[0]);
  std::string csv;
  write_trace(e, 0.1, [&](std::string_view part) {
    csv += part;
    return true;
  });
  CHECK_THAT(csv, Catch::StartsWith("time [s],position [m],speed [m/s]"));
  CHECK(std::count(csv.begin(), csv.end(), '\n') == 1 + 17); // header, 0 to 1.5 s, and 1.55 s
  CHECK_THAT(csv, Contains("\n1.55,"));
  const auto again = points_from_csv(csv, profile_columns(along_a_line));
  CHECK(again);
}
