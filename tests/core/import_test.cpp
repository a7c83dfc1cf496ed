// CSV files into an axis: axis of rotation, units, faults, and that a refusal changes nothing.

#include "core/load/piece.hpp"
#include "core/motion/cycle.hpp"
#include "core/motion/profile.hpp"
#include "core/project/import_csv.hpp"
#include "core/quantity/number_text.hpp"
#include "support/axes.hpp"

#include <catch2/catch.hpp>

#include <cmath>
#include <limits>

using namespace fulmox;
using namespace fulmox::testing;
using Catch::Contains;

namespace {

constexpr const char* bracket = "part,mass [kg],x [mm],y [mm],z [mm],Ixx [kg.mm2],Iyy [kg.mm2],Izz [kg.mm2]\n"
                                "Bracket,2,30,40,-20,500,700,900\n"
                                "Pin,0.5,0,10,0,20,30,40\n";

LoadBody body_of(std::string_view text, RotationAxis about) {
  const auto pieces = pieces_from_csv(text, about);
  if (!pieces) FAIL(pieces.problem().text());
  Recorder silent(false);
  return put_together(*pieces, silent);
}

} // namespace

TEST_CASE("pieces turn about the axis of the file that is named, their centres shifted in its plane") {
  const LoadBody about_z = body_of(bracket, RotationAxis::z);
  CHECK(about_z.inertia == Approx(900e-6 + 2.0 * (0.03 * 0.03 + 0.04 * 0.04) + 40e-6 + 0.5 * 1e-4));
  CHECK(about_z.moment_x == Approx(2.0 * 0.03));
  CHECK(about_z.moment_y == Approx(2.0 * 0.04 + 0.5 * 0.01));
  const LoadBody about_x = body_of(bracket, RotationAxis::x);
  CHECK(about_x.inertia == Approx(500e-6 + 2.0 * (0.04 * 0.04 + 0.02 * 0.02) + 20e-6 + 0.5 * 1e-4));
  CHECK(about_x.moment_x == Approx(2.0 * 0.04 + 0.5 * 0.01)); // y lies across
  CHECK(about_x.moment_y == Approx(-2.0 * 0.02));             // z points up
  const LoadBody about_y = body_of(bracket, RotationAxis::y);
  CHECK(about_y.inertia == Approx(700e-6 + 2.0 * (0.03 * 0.03 + 0.02 * 0.02) + 30e-6));
  CHECK(about_y.moment_x == Approx(-2.0 * 0.02)); // z lies across
  CHECK(about_y.moment_y == Approx(2.0 * 0.03));  // x points up
  for (const LoadBody* body : {&about_x, &about_y, &about_z}) CHECK(body->mass == Approx(2.5));
}

TEST_CASE("inertias about three square axes of a flat plate add up as they must") {
  // perpendicular axes: Izz = Ixx + Iyy for a plate in the x-y plane
  const char* plate = "part,mass [kg],x [mm],y [mm],z [mm],Ixx [kg.mm2],Iyy [kg.mm2],Izz [kg.mm2]\n"
                      "Plate,1.2,50,-70,0,1000,2500,3500\n";
  CHECK(body_of(plate, RotationAxis::z).inertia ==
        Approx(body_of(plate, RotationAxis::x).inertia + body_of(plate, RotationAxis::y).inertia));
}

TEST_CASE("only the inertia about the axis of rotation is asked for") {
  const char* only_x = "mass [kg],y [mm],z [mm],Ixx [kg.m2]\n1,0,0,0.01\n";
  CHECK(pieces_from_csv(only_x, RotationAxis::x));
  const auto refused = pieces_from_csv(only_x, RotationAxis::z);
  REQUIRE_FALSE(refused);
  CHECK_THAT(refused.problem().what, Contains("izz"));
  CHECK_THAT(pieces_from_csv("x [mm],Izz [kg.m2]\n1,1\n").problem().what, Contains("mass"));
}

TEST_CASE("what does not count of a list of pieces is told") {
  CHECK(remarks_on_pieces(bracket, RotationAxis::z).empty());
  CHECK(remarks_on_pieces(bracket, RotationAxis::x).empty());
  const auto misspelt = remarks_on_pieces("mass [kg],Xc [mm],y [mm],Izz [kg.m2],Ixy [kg.m2]\n1,1,1,1,1\n");
  REQUIRE(misspelt.size() == 2);
  CHECK_THAT(misspelt[0], Contains("no column 'x'") && Contains("too small"));
  CHECK(misspelt[1] == "Not read: 'ixy', 'xc'.");
  CHECK(remarks_on_pieces("mass [kg],Izz [kg.m2]\n1,1\n").size() == 2);
  CHECK(remarks_on_pieces("mass [kg],y [mm],z [mm],Ixx [kg.m2]\n1,1,1,1\n", RotationAxis::x).empty());
  CHECK(remarks_on_pieces("part\n").empty()); // refused
  const auto twice = pieces_from_csv("mass [kg],x [mm],X [mm],Izz [kg.m2]\n1,1,2,1\n");
  REQUIRE_FALSE(twice);
  CHECK_THAT(twice.problem().text(), Contains("line 1, column 3") && Contains("twice"));
  // where the load goes along a line only the masses count
  CHECK(import_remarks(demo().axes[0], "mass [kg],Izz [kg.m2]\n1,1\n", RotationAxis::z).empty());
  CHECK(import_remarks(demo().axes[3], "mass [kg],Izz [kg.m2]\n1,1\n", RotationAxis::z).size() == 2);
}

TEST_CASE("a row that ends early is told, also when only its name is missing") {
  const auto nameless = pieces_from_csv("mass [kg],Izz [kg.m2],part\n1,0.1\n");
  REQUIRE(nameless);
  CHECK(nameless->front().blank("name"));
  const auto cut = pieces_from_csv("part,mass [kg],Izz [kg.m2]\nA,1,1\nB,1\n");
  REQUIRE_FALSE(cut);
  CHECK_THAT(cut.problem().text(), Contains("line 3") && Contains("short"));
}

TEST_CASE("imports land in the axis, and a refusal leaves it as it was") {
  Axis axis = demo().axes[3];
  const Axis before = axis;
  CHECK(import_pieces(axis, "mass [kg]\n1\n", RotationAxis::z));
  CHECK(import_profile(axis, 0, "0,0\n1,1\n2,2\n3,3\n")); // a move records nothing
  CHECK(import_profile(axis, 99, "0,0\n1,1\n2,2\n3,3\n"));
  CHECK(import_process(axis, 0, "0,0\n0,1\n"));
  CHECK(axis == before);
  const std::size_t pieces = axis.pieces.size();
  CHECK_FALSE(import_pieces(axis, bracket, RotationAxis::z));
  REQUIRE(axis.pieces.size() == pieces + 2);
  CHECK(axis.pieces.back().path == "pieces[" + std::to_string(pieces + 1) + "]");
  CHECK(axis.pieces.back().text("name") == "Pin");
  CHECK(axis.pieces.back().entry("mass").origin == Origin::data_sheet);
  CHECK_FALSE(import_process(axis, 0, "angle [deg],torque [N.m]\n0,0\n45,0.5\n90,0\n"));
  CHECK(axis.cycle[0].entry("process_curve").curve.size() == 3);
  CHECK(axis.cycle[0].entry("process_curve").origin == Origin::measured);
  CHECK(value(evaluated(axis), "demand.peak_torque") > value(evaluated(before), "demand.peak_torque"));
}

TEST_CASE("what a refused import says names the segment or the field") {
  Axis axis = demo().axes[0];
  CHECK_THAT(import_profile(axis, 0, "0,0\n1,1\n")->text(), Contains("profile"));
  CHECK_THAT(import_profile(axis, 40, "0,0\n1,1\n")->text(), Contains("no segment 41"));
  CHECK_THAT(import_pieces(axis, "", RotationAxis::x)->text(), Contains("empty"));
}

TEST_CASE("numbers that are none, or out of all bounds, are refused and never thrown") {
  const auto refused = [](const char* text) {
    const auto points = points_from_csv(text, profile_columns(along_a_line));
    REQUIRE_FALSE(points);
    return points.problem().text();
  };
  CHECK_THAT(refused("0,0\n1,nan\n2,2\n3,3\n"), Contains("line 2, column 2"));
  CHECK_THAT(refused("0,0\ninf,1\n2,2\n3,3\n"), Contains("line 2, column 1"));
  CHECK_THAT(refused("0,0\n1,1e999\n2,2\n3,3\n"), Contains("line 2, column 2"));
  CHECK_THAT(refused("0,0\n1e999,1\n2,2\n3,3\n"), Contains("line 2, column 1"));
  CHECK_THAT(refused("0,0\n1,0x10\n2,2\n3,3\n"), Contains("line 2, column 2"));
  CHECK_THAT(refused("0,0\n1,\n2,2\n3,3\n"), Contains("line 2, column 2"));
}

TEST_CASE("columns parted by blanks keep the units in their titles") {
  const auto points =
      points_from_csv("time [ms] position [in]\n0 0\n10 1\n20 2\n30 3\n", profile_columns(along_a_line));
  REQUIRE(points);
  CHECK_THAT(*points, Contains("30 ms: 3 in"));
  const auto round =
      points_from_csv("t (ms)  x (mm)\n0 0\n10 1\n20 2\n30 3\n", profile_columns(along_a_line));
  REQUIRE(round);
  CHECK_THAT(*round, Contains("10 ms: 1 mm"));
}

TEST_CASE("numbers in files have a point, whatever the language, and come back as they were") {
  CHECK(number_text(0.5) == "0.5");
  CHECK(number_text(-1234567.0) == "-1234567");
  CHECK(number_text(1.0 / 3.0, 4) == "0.3333");
  CHECK(number_text(0.0) == "0");
  CHECK(*read_number("+2.5") == 2.5);
  CHECK(*read_number("-1e-3") == -1e-3);
  for (const char* none : {"", "+", "1,5", "1 m", " 1", "1 ", "abc", "nan", "inf", "-inf", "1e400", "--1"}) {
    INFO(none);
    CHECK_FALSE(read_number(none));
  }
  RandomAxes random(77);
  for (int i = 0; i < 500; ++i) {
    const double number = random.between(-1.0, 1.0) * std::pow(10.0, random.between(-30.0, 30.0));
    CHECK(*read_number(number_text(number, 17)) == number);
    CHECK(*read_number(number_text(number)) == Approx(number).epsilon(1e-8));
  }
}

TEST_CASE("a group that holds nothing is refused, however often it would run") {
  Axis axis = new_axis("");
  add_segment(axis, "repeat", {{"count", "10000"}});
  add_segment(axis, "repeat", {{"count", "10000"}});
  add_segment(axis, "repeat", {{"count", "10000"}});
  for (int i = 0; i < 3; ++i) add_segment(axis, "end", {});
  Recorder silent(false);
  const auto cycle = build_cycle(axis.cycle, along_a_line, silent);
  REQUIRE_FALSE(cycle);
  CHECK_THAT(cycle.problem().what, Contains("nothing to repeat"));
}
