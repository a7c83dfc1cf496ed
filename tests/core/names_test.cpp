// Axes, buses and blocks are spoken of by their names: who speaks of them follows when they get another.

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
    rename_bus(d, 0, "Logic");
    CHECK(d.axes[1]["surroundings"].blank("shared_bus"));
    CHECK(d.axes[0]["surroundings"].text("shared_bus") == "Logic");
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

TEST_CASE("axes and buses without a name, or with another's, are faults of a file") {
  Document d = demo();
  CHECK(name_faults(d).empty());
  d.axes[1].name = "Picker";
  d.axes[2].name = "";
  d.lists.find("buses")->second[1].type("name", "48 V");
  const auto faults = name_faults(d);
  REQUIRE(faults.size() == 3);
  CHECK(faults[0].where == "axes[1].name");
  CHECK(faults[0].what == "another axis is called \"Picker\" too.");
  CHECK(faults[1].what == "the axis has no name.");
  CHECK(faults[2].where == "buses[1].name");
  CHECK(remarked(run_of(d), "another axis is called so too"));
  CHECK(fresh_axis_name(demo(), "Picker") == "Picker 2");
  CHECK(fresh_axis_name(demo(), "Lift") == "Lift");
  CHECK_FALSE(another_axis_called(demo(), 0, "Picker"));
}
