// What a drag in the ribbon writes into the segment.

#include "window.hpp"

#include "app/ribbon/ribbon_drag.hpp"

#include <map>

using namespace fulmox;
using namespace fulmox::app;
using Hold = Ribbon::Grip;
using Edits = std::map<std::string, std::string>;

namespace {

Section move(std::initializer_list<std::pair<std::string_view, std::string>> values) {
  Section section(*find_segment_spec("move"));
  for (const auto& [field, text] : values) section.type(field, text);
  return section;
}

Edits edits(const Section& segment, Hold grip, const Ribbon::DragStart& start, double seconds, double up) {
  Edits all;
  for (const DragEdit& edit : drag(segment, grip, start, seconds, up)) all[edit.field] = edit.text;
  return all;
}

} // namespace

TEST_CASE("drags are turned into texts in the unit the user typed, snapped to round values") {
  const Section metric = move({{"distance", "300 mm"}, {"time", "0.4 s"}});
  const Ribbon::DragStart start{0.4, 0.3, 1.0 / 3.0, 1.0 / 3.0};
  CHECK(edits(metric, Hold::duration, start, 0.0512, 0.0)["time"] == "0.45 s");
  CHECK(edits(metric, Hold::distance, start, 0.0, 10.0)["distance"] == "330 mm");
  CHECK(edits(metric, Hold::distance, start, 0.0, -200.0)["distance"] == "-300 mm");
  const Section inches = move({{"distance", "10 in"}, {"time", "400 ms"}});
  CHECK(edits(inches, Hold::duration, start, 0.1, 0.0)["time"] == "500 ms");
  const std::string longer = edits(inches, Hold::distance, {0.4, 0.254, 0.3, 0.3}, 0.0, 50.0)["distance"];
  CHECK(longer.ends_with(" in"));
  CHECK(parse_quantity(longer, Kind::length)->value == Approx(0.381).margin(6e-4));
}

TEST_CASE("drags stop at what fits") {
  const Section section =
      move({{"time", "0.4 s"}, {"acceleration_share", "0.4"}, {"deceleration_share", "0.5"}});
  const Ribbon::DragStart start{0.4, 0.3, 0.4, 0.5};
  CHECK(edits(section, Hold::duration, start, -10.0, 0.0)["time"] == "0.005 s");
  CHECK(edits(section, Hold::ramp_up, start, 10.0, 0.0)["acceleration_share"] == "0.5");
  CHECK(edits(section, Hold::ramp_up, start, -10.0, 0.0)["acceleration_share"] == "0.02");
  CHECK(edits(section, Hold::ramp_down, start, -10.0, 0.0).empty() == false);
  CHECK(edits(section, Hold::ramp_down, start, 10.0, 0.0)["deceleration_share"] == "0.02");
  CHECK(edits(section, Hold::ramp_down, start, -10.0, 0.0)["deceleration_share"] == "0.6");
  CHECK(edits(section, Hold::cursor, start, 1.0, 1.0).empty());
}

TEST_CASE("a drag keeps the shape of a move whose ramps followed from typed limits") {
  // 300 mm in 0.5 s at 750 mm/s: ramps of a fifth each
  const Section move_by_speed = move({{"distance", "300 mm"}, {"time", "0.5 s"}, {"peak_speed", "750 mm/s"}});
  const Ribbon::DragStart start{0.5, 0.3, 0.2, 0.2};
  const Edits longer = edits(move_by_speed, Hold::duration, start, 0.1, 0.0);
  CHECK(longer == Edits{{"time", "0.6 s"},
                        {"peak_speed", ""},
                        {"acceleration_share", "0.2"},
                        {"deceleration_share", "0.2"}});
  const Edits steeper = edits(move_by_speed, Hold::ramp_up, start, -0.05, 0.0);
  CHECK(steeper == Edits{{"acceleration_share", "0.1"}, {"deceleration_share", "0.2"}, {"peak_speed", ""}});
}

TEST_CASE("a ramp dragged on a move without a time fixes the time it has") {
  const Section by_limits =
      move({{"distance", "300 mm"}, {"time", ""}, {"peak_speed", "1 m/s"}, {"acceleration", "5 m/s2"}});
  const Edits typed = edits(by_limits, Hold::ramp_down, {0.5, 0.3, 0.4, 0.4}, 0.1, 0.0);
  CHECK(typed == Edits{{"time", "0.5 s"},
                       {"deceleration_share", "0.2"},
                       {"acceleration_share", "0.4"},
                       {"peak_speed", ""},
                       {"acceleration", ""}});
}

TEST_CASE("the length of a dwell and of a run is dragged without touching anything but the distance") {
  Section dwell(*find_segment_spec("dwell"));
  dwell.type("time", "0.3 s");
  CHECK(edits(dwell, Hold::duration, {0.3, 0.0, 0.0, 0.0}, 0.1, 0.0) == Edits{{"time", "0.4 s"}});
  Section run(*find_segment_spec("run"));
  run.type("distance", "200 mm");
  CHECK(edits(run, Hold::duration, {0.4, 0.2, 0.0, 0.0}, 0.1, 0.0) ==
        Edits{{"time", "0.5 s"}, {"distance", ""}});
}
