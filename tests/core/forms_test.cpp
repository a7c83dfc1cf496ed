// Axes whose forms change: another mechanism, lists of pieces and stages, segments of all kinds.

#include "core/load/piece_csv.hpp"
#include "core/motion/cycle.hpp"
#include "support/axes.hpp"

#include <catch2/catch.hpp>

#include <random>
#include <set>

using namespace fulmox;
using namespace fulmox::testing;
using Catch::Contains;

namespace {

Expected<Cycle> cycle_of(const Axis& axis) {
  Recorder silent(false);
  return build_cycle(axis.cycle, motion_of(axis), silent);
}

Section piece(std::string_view kind,
              std::initializer_list<std::pair<std::string_view, std::string_view>> values) {
  Section section(find_piece_spec(kind)->section);
  for (const auto& [field, text] : values) section.type(field, text);
  return section;
}

} // namespace

TEST_CASE("a field is found by its name as by looking at each, in made-up forms of every size") {
  std::mt19937 random(7);
  const auto below = [&](std::size_t n) {
    return std::uniform_int_distribution<std::size_t>(0, n - 1)(random);
  };
  static std::vector<std::string> names; // a form only looks at them
  for (std::size_t i = 0; i < 400; ++i) {
    std::string name;
    for (std::size_t letters = below(9); letters > 0; --letters) name += static_cast<char>('a' + below(3));
    names.push_back(std::move(name)); // many stand twice
  }
  for (std::size_t size = 0; size < 200; size += 1 + size / 8) {
    std::vector<FieldSpec> fields;
    for (std::size_t i = 0; i < size; ++i) fields.push_back(written(names[below(names.size())], "", "", ""));
    const FieldTable table(fields);
    REQUIRE(table.size() == size);
    for (const std::string& name : names) {
      const auto plain = std::find_if(fields.begin(), fields.end(),
                                      [&](const FieldSpec& field) { return field.id == name; });
      INFO(size << " fields, " << name);
      const auto found = table.find(name);
      REQUIRE(found.has_value() == (plain != fields.end()));
      if (found) CHECK(*found == static_cast<std::size_t>(plain - fields.begin()));
    }
  }
  CHECK_FALSE(FieldTable().find(""));
}

TEST_CASE("another mechanism keeps what both know, and the way back brings everything again") {
  Axis axis = demo().axes[0];
  const Axis before = axis;
  choose_mechanism(axis, *find_mechanism("belt"));
  CHECK(axis["load"].text("moved_mass") == "6 kg");
  CHECK(axis["mechanism"].text("efficiency") == "0.9 ±3%");
  CHECK(axis["mechanism"].unknown.contains("lead"));
  choose_mechanism(axis, *find_mechanism("table"));
  CHECK_FALSE(axis["load"].spec().index_of("moved_mass"));
  // a distance is no angle: the text stays and says so
  CHECK(axis.cycle[0].entry("distance").faulty());
  CHECK(axis.cycle[0].text("distance") == "-150 mm");
  choose_mechanism(axis, *find_mechanism("screw"));
  CHECK(axis["mechanism"].text("lead") == before["mechanism"].text("lead"));
  CHECK(axis["mechanism"].entry("diameter") == before["mechanism"].entry("diameter"));
  CHECK(axis["load"].entry("moved_mass") == before["load"].entry("moved_mass"));
  CHECK(axis.cycle == before.cycle);
  CHECK(value(evaluated(axis), "demand.peak_torque") ==
        Approx(value(evaluated(before), "demand.peak_torque")));
}

TEST_CASE("what nobody touched takes the presets of the new mechanism") {
  Axis axis = axis_on("general");
  CHECK(axis["mechanism"].text("efficiency") == "1");
  add_segment(axis, "move", {});
  CHECK(axis.cycle[0].text("distance") == "90 deg");
  choose_mechanism(axis, *find_mechanism("drum"));
  CHECK(axis.cycle[0].text("distance") == "300 mm");
}

TEST_CASE("what a hoist lifts hangs straight down unless an angle is typed") {
  Axis axis = new_axis("new");
  CHECK(axis["load"].text("angle") == "0 °");
  choose_mechanism(axis, *find_mechanism("drum"));
  CHECK(axis["load"].text("angle") == "90 °");
  CHECK(axis["load"].entry("angle").origin == Origin::guess);
  axis["load"].type("moved_mass", "40 kg");
  choose_mechanism(axis, *find_mechanism("belt"));
  CHECK(axis["load"].text("angle") == "0 °");
  CHECK(axis["load"].text("moved_mass") == "40 kg");
  axis["load"].type("angle", "0 °"); // a winch may draw on the level, if that is said
  choose_mechanism(axis, *find_mechanism("drum"));
  CHECK(axis["load"].text("angle") == "0 °");
  CHECK(axis["load"].text("moved_mass") == "40 kg");
  // of a file that does not tell the angle too
  const auto file = from_json(R"({"format": "fulmox-machine", "version": 2, "axes": [{"name": "x",
    "load": {"moved_mass": "40 kg"}, "mechanism": {"kind": "drum"},
    "cycle": [{"kind": "move", "distance": "1 m", "time": "3 s"}]}]})");
  REQUIRE(file);
  const auto e = evaluate(file->axes[0], file->house_rules);
  REQUIRE(e);
  CHECK(value(*e, "hold.torque") == Approx(40.0 * 9.80665 * 0.06));
}

TEST_CASE("every mechanism can be chosen, saved, read back and drawn") {
  std::set<std::string_view> ids;
  RandomAxes random(51);
  for (const MechanismSpec* spec : mechanism_specs()) {
    INFO(spec->section.id);
    CHECK(ids.insert(spec->section.id).second);
    CHECK_FALSE(spec->help.empty());
    Document document;
    document.axes.push_back(random.next_on(spec->section.id));
    const auto again = from_json(to_json(document));
    REQUIRE(again);
    CHECK(*again == document);
    const Evaluation e = evaluated(document.axes[0]);
    Pose pose;
    pose.lowest = e.model->load->cycle.lowest;
    pose.highest = e.model->load->cycle.highest;
    for (const double at : {pose.lowest, 0.0, pose.highest}) {
      pose.position = at;
      const Drawing drawing = e.model->load->mechanism->draw(pose);
      const auto [low, high] = drawing.bounds();
      CHECK(high.x > low.x);
      CHECK(high.y > low.y);
      CHECK(std::isfinite(high.x - low.x + high.y - low.y));
      for (const Measure& measure : drawing.measures)
        if (!measure.field.empty()) {
          // every measure that names an input names one that exists
          const auto dot = measure.field.find('.');
          const Section* section = find_section(document.axes[0], measure.field.substr(0, dot));
          REQUIRE(section != nullptr);
          CHECK(section->spec().index_of(measure.field.substr(dot + 1)));
        }
    }
  }
}

TEST_CASE("pieces, stages and segments keep their order and unknown members in the file") {
  Document document;
  document.axes.push_back(demo().axes[3]);
  Axis& axis = document.axes[0];
  axis.pieces.push_back(
      piece("sphere", {{"diameter", "50 mm"}, {"material", "brass"}, {"offset", "100 mm"}}));
  axis.pieces.back().unknown["paint"] = "\"red\"";
  number_sections(axis);
  CHECK(axis.pieces.back().path == "pieces[3]");
  const auto again = from_json(to_json(document));
  REQUIRE(again);
  CHECK(*again == document);
  CHECK(again->axes[0].pieces.back().unknown.at("paint") == "\"red\"");
  CHECK(describe_path(again->axes[0], "pieces[3].diameter") == "Sphere 4, diameter");
  auto text = to_json(document);
  text.replace(text.find("\"ring\""), 6, "\"rong\"");
  CHECK_THAT(from_json(text).problem().text(), Contains("unknown kind of piece") && Contains("rong"));
}

TEST_CASE("a load built of pieces weighs what they weigh, besides what is typed") {
  Axis axis = plain_axis();
  axis.pieces.push_back(
      piece("cuboid", {{"a", "100 mm"}, {"b", "100 mm"}, {"c", "100 mm"}, {"density", "1000 kg/m3"}}));
  number_sections(axis);
  Axis typed = plain_axis();
  typed["load"].type("moved_mass", "11 kg");
  CHECK(value(evaluated(axis), "demand.rms_torque") == Approx(value(evaluated(typed), "demand.rms_torque")));
  axis["load"].type("moved_mass", "");
  CHECK(value(evaluated(axis), "inertia.load") < value(evaluated(typed), "inertia.load"));
  axis.pieces[0].type("counts", "hole");
  const auto refused = evaluate(axis, house_rules());
  REQUIRE_FALSE(refused);
  CHECK(refused.problem().where == "pieces[0]");
  axis.pieces.clear();
  CHECK(evaluate(axis, house_rules()).problem().where == "load.moved_mass");
}

TEST_CASE("stages in a row multiply, each with its inertia, loss and drag") {
  Axis axis = axis_on("general");
  axis["load"].type("inertia", "0.36 kg.m2");
  axis["load"].type("friction_torque", "2 N.m");
  add_segment(axis, "run", {{"speed", "10 rpm"}, {"time", "1 s"}});
  for (const char* driven : {"40", "60"}) {
    Section stage(*find_kind(axis, *find_list("stages"), "gear_pair"));
    stage.type("driven", driven);
    stage.type("efficiency", "0.9");
    stage.type("input_inertia", "1 kg.cm2");
    axis.stages.push_back(std::move(stage));
  }
  number_sections(axis);
  const Evaluation e = evaluated(axis);
  CHECK(e.model->total_ratio() == 6.0);
  CHECK(value(e, "demand.max_speed") == Approx(60.0 * M_PI / 30.0));
  CHECK(value(e, "demand.rms_torque") == Approx(2.0 / (6.0 * 0.81)));
  CHECK(value(e, "inertia.load") == Approx(0.36 / 36.0 + 1e-4 / 4.0 + 1e-4));
  axis.stages.resize(9, axis.stages.front());
  number_sections(axis);
  CHECK_THAT(evaluate(axis, house_rules()).problem().what, Contains("more than 8"));
}

TEST_CASE("a worm that locks itself does not fall, and is driven down") {
  Axis axis = axis_on("drum");
  axis["load"].type("moved_mass", "50 kg");
  axis["load"].type("angle", "90 deg");
  Section worm(*find_kind(axis, *find_list("stages"), "worm"));
  worm.type("lead_angle", "3 deg");
  worm.type("friction", "0.08");
  axis.stages.push_back(worm);
  number_sections(axis);
  add_segment(axis, "move", {{"distance", "-200 mm"}, {"time", "2 s"}});
  add_segment(axis, "move", {{"distance", "200 mm"}, {"time", "2 s"}});
  const Evaluation e = evaluated(axis);
  CHECK_FALSE(warns(e, "vertical_without_brake"));
  CHECK(e.at(1.0).torque < 0.0); // down takes torque downwards
  axis.stages[0].type("lead_angle", "20 deg");
  CHECK(warns(evaluated(axis), "vertical_without_brake"));
}

TEST_CASE("runs need neighbours at their speed, blank end speeds follow them") {
  Axis axis = axis_on("conveyor");
  axis["load"].type("moved_mass", "5 kg");
  add_segment(axis, "move", {{"distance", "100 mm"}, {"time", "0.5 s"}});
  add_segment(axis, "run", {{"speed", "0.25 m/s"}, {"time", "1 s"}});
  add_segment(axis, "move", {{"distance", "100 mm"}, {"time", "0.5 s"}});
  REQUIRE(cycle_of(axis));
  CHECK(cycle_of(axis)->net_travel == Approx(0.45));
  axis.cycle[0].type("end_speed", "0.1 m/s");
  const auto jump = cycle_of(axis);
  REQUIRE_FALSE(jump);
  CHECK(jump.problem().where == "cycle[1]");
  CHECK_THAT(jump.problem().what, Contains("100 mm/s") && Contains("250 mm/s"));
  axis.cycle[0].type("end_speed", "");
  axis.cycle[1].type("speed", "-0.25 m/s");
  CHECK_FALSE(cycle_of(axis));
  Axis endless = axis_on("conveyor");
  add_segment(endless, "run", {{"speed", "0.25 m/s"}, {"time", ""}, {"distance", "1 m"}});
  REQUIRE(cycle_of(endless));
  CHECK(cycle_of(endless)->duration == Approx(4.0));
  endless.cycle[0].type("time", "4 s");
  CHECK_THAT(cycle_of(endless).problem().remedy, Contains("Clear one"));
}

TEST_CASE("groups must be closed and opened") {
  Axis axis = plain_axis();
  add_segment(axis, "end", {});
  CHECK_THAT(cycle_of(axis).problem().what, Contains("no beginning"));
  axis.cycle.pop_back();
  add_segment(axis, "repeat", {{"count", "2"}});
  add_segment(axis, "dwell", {});
  CHECK_THAT(cycle_of(axis).problem().what, Contains("no end"));
  add_segment(axis, "end", {});
  REQUIRE(cycle_of(axis));
  CHECK(cycle_of(axis)->duration == Approx(0.4 + 0.6));
  axis.cycle[1].type("count", "10000");
  for (int i = 0; i < 4; ++i) axis.cycle.insert(axis.cycle.begin() + 2, axis.cycle[0]);
  number_sections(axis);
  CHECK_THAT(cycle_of(axis).problem().what, Contains("too many"));
}

TEST_CASE("process force: constant, ramp and over position, and payload only while it is carried") {
  Axis axis = plain_axis();
  axis["load"].type("friction", "0");
  axis["mechanism"].type("efficiency", "1");
  axis.cycle.clear();
  add_segment(axis, "run", {{"speed", "0.1 m/s"}, {"time", "1 s"}, {"process", "100 N"}});
  add_segment(axis, "run",
              {{"speed", "0.1 m/s"}, {"time", "1 s"}, {"process", "100 N"}, {"process_end", "300 N"}});
  add_segment(
      axis, "run",
      {{"speed", "0.1 m/s"}, {"time", "1 s"}, {"process_curve", "0.2 m: 50 N; 0.25 m: 250 N; 0.3 m: 0 N"}});
  const Evaluation e = evaluated(axis);
  const double arm = 0.01 / (2.0 * M_PI);
  CHECK(e.at(0.5).torque == Approx(100.0 * arm));
  CHECK(e.at(1.25).torque == Approx(150.0 * arm));
  CHECK(e.at(2.25).torque == Approx(150.0 * arm));
  CHECK(e.at(2.5).torque == Approx(250.0 * arm));
  CHECK(e.at(2.75).torque == Approx(125.0 * arm));
  // ∫F² over the three: 100²·1, (100² + 100·300 + 300²)/3, and both halves of the curve
  const double squares =
      10000.0 + 130000.0 / 3.0 + 0.5 * (2500.0 + 12500.0 + 62500.0) / 3.0 + 0.5 * 62500.0 / 3.0;
  CHECK(value(e, "demand.rms_torque") == Approx(arm * std::sqrt(squares / 3.0)).epsilon(1e-9));
  Axis lift = demo().axes[2];
  const Evaluation carried = evaluated(lift);
  CHECK(carried.at(0.1).load.payload == Approx(1.2));
  CHECK(carried.at(2.2).load.payload == 0.0);
  lift.cycle[0].type("payload", "");
  CHECK(value(evaluated(lift), "demand.rms_torque") < value(carried, "demand.rms_torque"));
}

TEST_CASE("pieces from a CSV file: mass, centre, principal inertia") {
  const auto pieces = pieces_from_csv(
      "part,mass [kg],x [mm],y [mm],Izz [kg.mm2]\nArm,2.5,30,40,1200\n\"Tool, left\",0.5,0,0,80\n");
  REQUIRE(pieces);
  REQUIRE(pieces->size() == 2);
  Recorder silent(false);
  const LoadBody body = put_together(*pieces, silent);
  CHECK(body.mass == Approx(3.0));
  CHECK(body.inertia == Approx(1200e-6 + 2.5 * 0.05 * 0.05 + 80e-6));
  CHECK(body.moment_x == Approx(2.5 * 0.03));
  CHECK(body.moment_y == Approx(2.5 * 0.04));
  CHECK(body.pieces[1].name == "Tool, left");
  CHECK_THAT(pieces_from_csv("part,mass [kg]\nA,1\n").problem().what, Contains("izz"));
  CHECK_THAT(pieces_from_csv("part,mass [mm],Izz [kg.m2]\nA,1,1\n").problem().where, Contains("column 2"));
  CHECK_THAT(pieces_from_csv("part,mass [kg],Izz [kg.m2]\nA,1,1\nB,x,1\n").problem().where,
             Contains("line 3, column 2"));
  CHECK_THAT(pieces_from_csv("part,mass [kg],Izz [kg.m2]\nA,-1,1\n").problem().where, Contains("line 2"));
  CHECK_FALSE(pieces_from_csv(""));
}
