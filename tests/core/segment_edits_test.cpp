// Segments mirrored, cut and split: the cycle does the same before and after.

#include "core/motion/segment_edits.hpp"
#include "core/project/axis.hpp"
#include "support/axes.hpp"

#include <catch2/catch.hpp>

#include <cmath>

using namespace fulmox;
using namespace fulmox::testing;

namespace {

Section segment_of(std::string_view kind,
                   std::initializer_list<std::pair<std::string_view, std::string>> values) {
  Axis axis = new_axis("");
  add_segment(axis, kind, values);
  return axis.cycle.back();
}

/// The axis with one segment cut; fails the test when it cannot be.
Axis with_cut(const Axis& axis, std::size_t index, double tau) {
  const Evaluation e = evaluated(axis);
  const auto parts = cut(e.model->load->cycle, axis.cycle, index, tau);
  if (!parts) FAIL(parts.problem().text());
  REQUIRE(parts->size() == 2);
  Axis out = axis;
  const auto at = out.cycle.erase(out.cycle.begin() + static_cast<std::ptrdiff_t>(index));
  out.cycle.insert(at, parts->begin(), parts->end());
  number_sections(out);
  return out;
}

Problem refused_cut(const Axis& axis, std::size_t index, double tau) {
  const Evaluation e = evaluated(axis);
  const auto parts = cut(e.model->load->cycle, axis.cycle, index, tau);
  REQUIRE_FALSE(parts);
  CHECK(parts.problem().where == axis.cycle[index].path);
  CHECK_FALSE(parts.problem().remedy.empty());
  return parts.problem();
}

} // namespace

TEST_CASE("a mirrored segment goes the other way, however it was typed") {
  const auto turned = [](const std::string& distance) {
    return mirrored(segment_of("move", {{"distance", distance}})).text("distance");
  };
  CHECK(turned("150 mm") == "-150 mm");
  CHECK(turned("-150 mm") == "150 mm");
  CHECK(turned("2*75 mm") == "-2*75 mm");
  CHECK(turned("(100+50) mm") == "-1*((100+50) mm)");
  CHECK(turned("150 mm ±2%") == "-150 mm ±2%");
  for (const char* text : {"150 mm", "-7e-3 m", "(100-250) mm", "-(3+4) mm ± 1 mm", "1/3 in", "-2*-4 mm"}) {
    INFO(text);
    const Section move = segment_of("move", {{"distance", text}});
    const Section there = mirrored(move), back = mirrored(there);
    REQUIRE_FALSE(there.entry("distance").faulty());
    CHECK(there.term("distance") == Approx(-move.term("distance")));
    CHECK(there.entry("distance").tolerance.half_width ==
          Approx(move.entry("distance").tolerance.half_width));
    CHECK(back.term("distance") == Approx(move.term("distance").value));
  }
}

TEST_CASE("runs turn their speed, records their positions, what stands still stays") {
  const Section run = segment_of("run", {{"speed", "200 mm/s"}, {"time", ""}, {"distance", "50 mm"}});
  CHECK(mirrored(run).term("speed") == Approx(-0.2));
  CHECK(mirrored(run).term("distance") == Approx(0.05));
  const Section record = segment_of("profile", {{"points", "0 s: 0 mm; 0.1 s: 5 mm; 0.3 s: -2.5 mm"}});
  const auto points = mirrored(record).entry("points").curve;
  REQUIRE(points.size() == 3);
  CHECK(points[1][0] == Approx(0.1));
  CHECK(points[1][1] == Approx(-0.005));
  CHECK(points[2][1] == Approx(0.0025));
  CHECK(can_mirror(run));
  CHECK(can_mirror(record));
  CHECK_FALSE(can_mirror(segment_of("dwell", {{"time", "1 s"}})));
}

TEST_CASE("a mirrored move keeps its origin and what it carries") {
  Section move = segment_of("move", {{"distance", "100 mm"}, {"payload", "2 kg"}, {"process", "30 N"}});
  move.type("distance", "100 mm", Origin::measured);
  const Section there = mirrored(move);
  CHECK(there.entry("distance").origin == Origin::measured);
  CHECK(there.text("payload") == "2 kg");
  CHECK(there.text("process") == "30 N");
}

TEST_CASE("two halves of a move cover its way in its time") {
  const auto halves = halved(segment_of("move", {{"distance", "0.3 m"}, {"time", "400 ms"}}));
  REQUIRE(halves.size() == 2);
  for (const Section& half : halves) {
    CHECK(half.term("distance") == Approx(0.15));
    CHECK(half.term("time") == Approx(0.2));
  }
  const auto limited =
      halved(segment_of("move", {{"distance", "0.3 m"}, {"time", ""}, {"peak_speed", "1 m/s"}}));
  CHECK(limited[0].blank("time"));
  CHECK(limited[1].term("peak_speed") == Approx(1.0));
}

TEST_CASE("halves stop between them, share out a rising force and survive tolerances and faults") {
  const auto halves = halved(segment_of("move", {{"distance", "0.3 m ±2%"},
                                                 {"time", "400 ms"},
                                                 {"start_speed", "0.1 m/s"},
                                                 {"end_speed", "0.2 m/s"},
                                                 {"process", "20 N"},
                                                 {"process_end", "80 N"}}));
  for (const Section& half : halves) CHECK(half.term("distance") == Approx(0.15));
  CHECK(halves[0].term("start_speed") == Approx(0.1));
  CHECK(halves[0].blank("end_speed"));
  CHECK(halves[1].blank("start_speed"));
  CHECK(halves[1].term("end_speed") == Approx(0.2));
  CHECK(halves[0].term("process_end") == Approx(50.0));
  CHECK(halves[1].term("process") == Approx(50.0));
  CHECK(halves[1].term("process_end") == Approx(80.0));
  CHECK(halved(segment_of("move", {{"distance", "5 kg"}}))[0].text("distance") == "5 kg");
}

TEST_CASE("cutting a trapezoid anywhere changes no number of the axis") {
  RandomAxes random(77);
  for (int i = 0; i < 60; ++i) {
    Axis axis = random.next();
    const Evaluation before = evaluated(axis);
    const auto index =
        static_cast<std::size_t>(random.between(0.0, static_cast<double>(axis.cycle.size()) - 0.001));
    const double tau = before.model->load->cycle.facts[index].time * random.between(0.01, 0.99);
    INFO(i << ": segment " << index << " at " << tau);
    const Axis once = with_cut(axis, index, tau);
    check_same(before, evaluated(once), 1e-7);
    // and a part of it again
    const double rest = evaluated(once).model->load->cycle.facts[index + 1].time;
    check_same(before, evaluated(with_cut(once, index + 1, 0.4 * rest)), 1e-7);
  }
}

TEST_CASE("a trapezoid said in any way is cut alike") {
  for (const auto& values :
       std::initializer_list<std::initializer_list<std::pair<std::string_view, std::string>>>{
           {{"distance", "-300 mm"}, {"time", ""}, {"peak_speed", "0.6 m/s"}, {"acceleration", "3 m/s2"}},
           {{"distance", "300 mm"},
            {"time", ""},
            {"peak_speed", "0.6 m/s"},
            {"acceleration", "3 m/s2"},
            {"deceleration", "5 m/s2"}},
           {{"distance", "300 mm"}, {"time", "0.7 s"}, {"peak_speed", "0.6 m/s"}},
           {{"distance", "300 mm"}, {"time", "0.9 s"}, {"acceleration", "4 m/s2"}},
           {{"distance", "300 mm"},
            {"time", "0.5 s"},
            {"acceleration_share", "0.5"},
            {"deceleration_share", "0.5"}}}) {
    Axis axis = plain_axis();
    axis.cycle.clear();
    add_segment(axis, "move", values);
    add_dwell(axis, "0.2 s");
    const Evaluation before = evaluated(axis);
    for (const double share : {0.1, 0.25, 0.5, 0.77, 0.95})
      check_same(before, evaluated(with_cut(axis, 0, share * before.model->load->cycle.facts[0].time)), 1e-7);
  }
}

TEST_CASE("cutting between runs keeps the speeds at which the segments meet") {
  Axis axis = plain_axis();
  axis.cycle.clear();
  add_segment(
      axis, "move",
      {{"distance", "60 mm"}, {"time", "0.2 s"}, {"acceleration_share", "1"}, {"deceleration_share", "0"}});
  add_segment(axis, "run", {{"speed", "0.6 m/s"}, {"time", ""}, {"distance", "120 mm"}});
  add_segment(axis, "run", {{"speed", "0.6 m/s"}, {"time", "0.1 s"}});
  add_segment(
      axis, "move",
      {{"distance", "60 mm"}, {"time", "0.2 s"}, {"acceleration_share", "0"}, {"deceleration_share", "1"}});
  add_dwell(axis, "0.3 s");
  const Evaluation before = evaluated(axis);
  for (std::size_t i = 0; i < axis.cycle.size(); ++i) {
    INFO("segment " << i);
    const Axis after = with_cut(axis, i, 0.3 * before.model->load->cycle.facts[i].time);
    check_same(before, evaluated(after), 1e-7);
  }
  const Axis by_distance = with_cut(axis, 1, 0.05);
  CHECK(by_distance.cycle[1].text("distance") == "30 mm");
  CHECK(by_distance.cycle[2].text("distance") == "90 mm");
  CHECK(by_distance.cycle[1].blank("time"));
}

TEST_CASE("a process force that rises over the way goes on where it was cut") {
  Axis axis = plain_axis();
  axis.cycle.clear();
  add_segment(axis, "move",
              {{"distance", "300 mm"}, {"time", "0.6 s"}, {"process", "20 N"}, {"process_end", "80 N"}});
  add_segment(axis, "dwell", {{"time", "0.4 s"}, {"process", "10 N"}, {"process_end", "30 N"}});
  const Evaluation before = evaluated(axis);
  const Axis middle = with_cut(axis, 0, 0.3);
  CHECK(middle.cycle[0].term("process_end") == Approx(50.0));
  CHECK(middle.cycle[1].term("process") == Approx(50.0));
  CHECK(middle.cycle[1].term("process_end") == Approx(80.0));
  for (const double tau : {0.05, 0.2, 0.3, 0.55}) check_same(before, evaluated(with_cut(axis, 0, tau)), 1e-6);
  const Axis dwell = with_cut(axis, 1, 0.1);
  CHECK(dwell.cycle[1].term("process_end") == Approx(15.0));
  check_same(before, evaluated(dwell), 1e-6);
}

TEST_CASE("what keeps no motion when cut is refused with what to do instead") {
  Axis axis = plain_axis();
  axis.cycle.clear();
  add_segment(axis, "repeat", {{"count", "2"}});
  add_segment(axis, "move", {{"distance", "100 mm"}, {"law", "cycloidal"}, {"time", "0.5 s"}});
  add_segment(axis, "move", {{"distance", "-100 mm"}, {"time", "0.5 s"}});
  add_segment(axis, "end", {});
  add_segment(axis, "profile", {{"points", "0 s: 0 mm; 0.1 s: 2 mm; 0.2 s: 8 mm; 0.3 s: 3 mm; 0.4 s: 0 mm"}});
  CHECK(refused_cut(axis, 0, 0.1).what.find("group") != std::string::npos);
  CHECK(refused_cut(axis, 1, 0.1).what.find("trapezoid") != std::string::npos);
  CHECK(refused_cut(axis, 4, 0.1).what.find("curve") != std::string::npos);
  refused_cut(axis, 2, 0.0);
  refused_cut(axis, 2, 0.5);
  refused_cut(axis, 2, -1.0);
  // within a group every pass is cut
  check_same(evaluated(axis), evaluated(with_cut(axis, 2, 0.2)), 1e-7);
}

TEST_CASE("a handy moment is a corner close by, else a round figure inside the segment") {
  Axis axis = plain_axis(); // thirds of 0.4 s
  const Cycle cycle = std::move(evaluated(axis).model->load->cycle);
  CHECK(handy_cut(cycle, 0, 0.13) == Approx(0.4 / 3.0));
  CHECK(handy_cut(cycle, 0, 0.27) == Approx(0.8 / 3.0));
  CHECK(handy_cut(cycle, 0, 0.20123) == Approx(0.201));
  CHECK(handy_cut(cycle, 0, -3.0) > 0.0);
  CHECK(handy_cut(cycle, 0, 9.0) < 0.4);
}
