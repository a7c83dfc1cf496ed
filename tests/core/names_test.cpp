// Axes, buses and blocks are spoken of by their names: who speaks of them follows when they get another.

#include "core/project/follow_segments.hpp"
#include "core/project/names.hpp"
#include "support/machines.hpp"

#include <catch2/catch.hpp>

#include <algorithm>

using namespace fulmox;
using namespace fulmox::testing;

namespace {

/// Types into a field of a block, as the window does.
void type_in_block(Document& d, std::size_t block, std::string_view field, std::string_view text) {
  const SectionSpec& form = blocks_of(d)[block].spec();
  const std::size_t index = *form.index_of(field);
  change_block(d, block, index, make_entry(form.fields[index], text));
}

} // namespace

TEST_CASE("a bus keeps its axes and loads when it is renamed") {
  Document d = demo();
  rename_bus(d, 0, "Logic");
  CHECK(d.axes[0]["surroundings"].text("shared_bus") == "Logic");
  CHECK(d.axes[2]["surroundings"].text("shared_bus") == "Mains");
  rename_bus(d, 2, "Small");
  CHECK(d.lists.find("steady_loads")->second[0].text("bus") == "Small");
  CHECK(d.axes[0]["surroundings"].text("brake_bus") == "Small");
  CHECK_FALSE(remarked(run_of(d), "bus"));
  SECTION("a name that another one has gets a number: nothing is mixed up") {
    rename_bus(d, 2, "Logic");
    CHECK(d.lists.find("buses")->second[2].text("name") == "Logic 2");
    CHECK(d.axes[0]["surroundings"].text("brake_bus") == "Logic 2");
    CHECK(d.axes[0]["surroundings"].text("shared_bus") == "Logic");
  }
  SECTION("cleared and typed again, it has all of them back; none that hung on no bus comes along") {
    d.axes[1]["surroundings"].type("shared_bus", "");
    rename_bus(d, 0, "");
    CHECK(d.axes[0]["surroundings"].text("shared_bus") == "Logic");
    for (const char* typed : {"C", "Co", "Control"}) rename_bus(d, 0, typed); // letter by letter
    CHECK(d.axes[1]["surroundings"].blank("shared_bus"));
    CHECK(d.axes[0]["surroundings"].text("shared_bus") == "Control");
    // which is meant is not known where several are spoken of, or several have no name
    d.axes[1]["surroundings"].type("shared_bus", "Lost");
    rename_bus(d, 0, "");
    rename_bus(d, 0, "Other");
    CHECK(d.axes[0]["surroundings"].text("shared_bus") == "Control");
    CHECK(d.axes[1]["surroundings"].text("shared_bus") == "Lost");
  }
}

TEST_CASE("a schedule is the same when its axes and blocks get other names") {
  Document d = demo();
  const auto placed = run_of(d).power.schedule.blocks;
  REQUIRE(placed.size() > 4);
  for (std::size_t i = 0; i < d.axes.size(); ++i) {
    rename_axis(d, i, "Renamed " + std::to_string(i));
    const MachineRun run = run_of(d);
    INFO(i << " " << run.power.problem.text());
    CHECK(run.power.schedule.blocks == placed);
    CHECK_FALSE(remarked(run, "not in the machine"));
  }
  for (std::size_t i = 0; i < blocks_of(d).size(); ++i) {
    type_in_block(d, i, "name", "Block " + std::to_string(i));
    const MachineRun run = run_of(d);
    INFO(i << " " << run.power.problem.text());
    CHECK(run.power.schedule.blocks == placed);
  }
  for (std::size_t i = 0; i < blocks_of(d).size(); ++i) { // back to the names of their axes
    type_in_block(d, i, "name", "");
    CHECK(run_of(d).power.problem.what.empty());
  }
}

TEST_CASE("of two that share a name, neither drags along what may mean the other") {
  Document d = demo();
  d.axes[1].name = d.axes[0].name; // as a file may say
  const auto before = blocks_of(d);
  rename_axis(d, 1, "Second");
  CHECK(blocks_of(d) == before);
  CHECK(d.axes[0].name == "Picker");
  // a block called by its own name keeps those that wait for it, whatever its axis is called
  d = demo();
  const auto& all = blocks_of(d);
  const auto waits =
      std::find_if(all.begin(), all.end(), [](const Section& s) { return s.text("after") == "Gantry"; });
  REQUIRE(waits != all.end());
  const auto place = static_cast<std::size_t>(
      std::find_if(all.begin(), all.end(), [](const Section& s) { return s.text("axis") == "Gantry"; }) -
      all.begin());
  type_in_block(d, place, "name", "Gantry");
  rename_axis(d, 2, "Bridge");
  CHECK(blocks_of(d)[place].text("axis") == "Bridge");
  CHECK(waits->text("after") == "Gantry");
  CHECK(run_of(d).power.problem.what.empty());
}

TEST_CASE("a name on the way to another, while it is typed, mixes nothing up") {
  Document d = demo();
  const auto placed = run_of(d).power.schedule.blocks;
  const auto called = [&](const std::string& name) {
    const auto& all = blocks_of(d);
    return static_cast<std::size_t>(
        std::find_if(all.begin(), all.end(), [&](const Section& s) { return block_name(s) == name; }) -
        all.begin());
  };
  const std::size_t pots = called("Pots away");
  // letter by letter through the names of a block and of an axis
  for (const std::string typed :
       {"P", "Po", "Picker", "Picker's", "Gantry", "Gantry 2", "Pots in", "Pots in."}) {
    type_in_block(d, pots, "name", typed);
    INFO(typed << " " << run_of(d).power.problem.text());
    CHECK(run_of(d).power.schedule.blocks == placed);
  }
  type_in_block(d, pots, "name", "Table"); // its axis's: free, the other block of it has a name
  CHECK(run_of(d).power.schedule.blocks == placed);
  // called as its axis while another block is called so too: who waited says so, and waits for no other
  type_in_block(d, pots, "name", "First");
  type_in_block(d, called("Pots in"), "name", "");
  REQUIRE(run_of(d).power.schedule.blocks == placed);
  type_in_block(d, pots, "name", "");
  CHECK(run_of(d).power.problem.text().find("waits for \"First\"") != std::string::npos);
  // an axis that gets the name a block has
  d = demo();
  rename_axis(d, 2, "Pots in");
  CHECK(run_of(d).power.problem.text().find("waits for \"Gantry\"") != std::string::npos);
}

TEST_CASE("an axis that is taken out takes its blocks along; who waits for them says so") {
  Document d = demo();
  const std::size_t blocks = blocks_of(d).size();
  remove_axis(d, 1);
  CHECK(d.axes[1].name == "Gantry");
  CHECK(blocks_of(d).size() == blocks - 1);
  CHECK_FALSE(remarked(run_of(d), "not in the machine"));
  CHECK(run_of(d).power.problem.what.empty());
  remove_axis(d, 1);
  CHECK(run_of(d).power.problem.text().find("waits for \"Gantry\"") != std::string::npos);
  d = demo();
  d.axes[1].name = "Picker";
  remove_axis(d, 1); // the blocks may be those of the other
  Document whole = demo();
  CHECK(blocks_of(d) == blocks_of(whole));
}

TEST_CASE("axes and buses without a name, or with another's, are faults of a file") {
  Document d = demo();
  CHECK(name_faults(d).empty());
  d.axes[1].name = "Picker";
  d.axes[2].name = "";
  d.lists.find("buses")->second[1].type("name", "48 V");
  d.axes[3]["surroundings"].type("shared_bus", "48V");
  d.axes[3]["surroundings"].type("brake_bus", "");
  const auto faults = name_faults(d);
  REQUIRE(faults.size() == 6);
  CHECK(faults[3].where == "axes[2].surroundings.shared_bus"); // that bus has another name now
  CHECK(faults[5].where == "axes[4].surroundings.shared_bus");
  CHECK(faults[4].where == "axes[3].surroundings.shared_bus");
  CHECK(faults[4].what == "no bus is called \"48V\", so nothing judges its supply.");
  CHECK(faults[0].where == "axes[1].name");
  CHECK(faults[0].what == "another axis is called \"Picker\" too.");
  CHECK(faults[1].what == "the axis has no name.");
  CHECK(faults[2].where == "buses[1].name");
  CHECK(remarked(run_of(d), "another axis is called so too"));
  CHECK(fresh_axis_name(demo(), "Picker") == "Picker 2");
  CHECK(fresh_axis_name(demo(), "Lift") == "Lift");
  CHECK_FALSE(another_axis_called(demo(), 0, "Picker"));
}

TEST_CASE(
    "blocks that wait for a segment wait for the same one when others are put in, cut, moved or taken out") {
  const Document before = demo();
  const auto waits = [](const Document& d) { // the picker waits for the gantry's first segment
    for (const Section& block : d.lists.find("blocks")->second)
      if (block.text("after") == "Gantry") return block.text("after_segment");
    return std::string("none");
  };
  REQUIRE(waits(before) == "1");
  constexpr std::size_t gantry = 2;
  Document d = before;
  std::vector<Section>& cycle = d.axes[gantry].cycle;
  const Section dwell = cycle[1];
  const auto after = [&](const std::function<void()>& edit) {
    const Document from = d;
    edit();
    follow_segments(from, d);
    return waits(d);
  };
  CHECK(after([&] { cycle.insert(cycle.begin(), dwell); }) == "2");
  CHECK(after([&] { cycle.push_back(dwell); }) == "2");
  CHECK(after([&] { std::swap(cycle[1], cycle[2]); }) == "3");
  CHECK(after([&] { std::swap(cycle[2], cycle[1]); }) == "2");
  CHECK(after([&] { cycle[1].type("distance", "800 mm"); }) == "2");
  CHECK(after([&] { // cut in two: the end of the second is where the whole ended
          Section half = cycle[1];
          half.type("distance", "400 mm");
          cycle[1].type("distance", "400 mm");
          cycle.insert(cycle.begin() + 1, half);
        }) == "3");
  CHECK(after([&] { cycle.erase(cycle.begin()); }) == "2");
  CHECK(after([&] { cycle.erase(cycle.begin() + 1); }) == "1"); // gone: what ends where it began
  CHECK(after([&] { cycle.erase(cycle.begin()); }) == "1");
  CHECK(after([&] {
          for (Section& segment : cycle) segment.type("payload", "1.5 kg"); // all of them where they stand
        }) == "1");
  CHECK(after([&] { cycle.clear(); }) == "1");
  // the last of a cycle, waited for by number, and one that does not exist
  d = before;
  const auto wait_for = [&](const std::string& number) {
    for (Section& block : blocks_of(d))
      if (block.text("after") == "Gantry") block.type("after_segment", number);
  };
  wait_for("4");
  CHECK(after([&] { cycle.pop_back(); }) == "3");
  CHECK(after([&] { cycle.back().type("time", "1 s"); }) == "3");
  wait_for("9");
  CHECK(after([&] { cycle.insert(cycle.begin(), dwell); }) == "9");
  // a block's own name, and one that goes without saying
  d = before;
  const auto of_gantry = std::find_if(blocks_of(d).begin(), blocks_of(d).end(),
                                      [](const Section& s) { return s.text("axis") == "Gantry"; });
  blocks_of(d).erase(of_gantry);
  CHECK(after([&] { cycle.insert(cycle.begin(), dwell); }) == "2");
}

TEST_CASE("of equal segments the one in its order is followed") {
  Document d = demo();
  std::vector<Section>& cycle = d.axes[2].cycle;
  cycle = {cycle[0], cycle[1], cycle[0], cycle[1], cycle[2]};
  const auto waiting = std::find_if(blocks_of(d).begin(), blocks_of(d).end(),
                                    [](const Section& s) { return s.text("after") == "Gantry"; });
  waiting->type("after_segment", "3");
  Document now = d;
  now.axes[2].cycle.insert(now.axes[2].cycle.begin(), d.axes[2].cycle[4]);
  follow_segments(d, now);
  const auto place = static_cast<std::size_t>(waiting - blocks_of(d).begin());
  CHECK(blocks_of(now)[place].text("after_segment") == "4");
}
