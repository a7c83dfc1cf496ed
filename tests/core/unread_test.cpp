// What stands in a file under a name that no input has: told, kept, and taken out where the user wants it.

#include "core/evaluation/evaluation.hpp"
#include "core/project/unread.hpp"
#include "core/support/nearest_name.hpp"
#include "support/axes.hpp"

#include <catch2/catch.hpp>

#include <algorithm>
#include <array>

using namespace fulmox;
using namespace fulmox::testing;

namespace {

std::string replaced(std::string text, const std::string& from, const std::string& to) {
  const auto at = text.find(from);
  REQUIRE(at != std::string::npos);
  return text.replace(at, from.size(), to);
}

std::vector<Unread> told(const Document& document) {
  std::vector<Unread> all = unread_members(document);
  std::erase_if(all, [](const Unread& member) { return member.another_kinds; });
  return all;
}

} // namespace

TEST_CASE("the name that was meant") {
  constexpr std::array<std::string_view, 7> names{"friction", "static_friction", "moved_mass",    "process",
                                                  "gearhead", "process_curve",   "payload_radius"};
  CHECK(nearest_name("fricton", names) == "friction");
  CHECK(nearest_name("Friction", names) == "friction");
  CHECK(nearest_name("mass", names) == "moved_mass");
  CHECK(nearest_name("process_force", names) == "process");
  CHECK(nearest_name("gearbox", names) == "gearhead");
  CHECK(nearest_name("payload", names) == "payload_radius");
  CHECK(nearest_name("colour", names).empty());
  CHECK(nearest_name("", names).empty());
  CHECK(nearest_name("mass", {}).empty());
}

TEST_CASE(
    "a misspelt name is told with its place and what is meant; other kinds' inputs and remarks are not") {
  Document document = demo();
  CHECK(told(document).empty());
  const std::string good = to_json(document);
  std::string text =
      replaced(good, R"("moved_mass":)", R"("_why": "weighed", "moved_mas": "9 kg", "moved_mass":)");
  text = replaced(text, R"("kind": "move",)", R"("kind": "move", "process_force": "40 N",)");
  text = replaced(text, R"("inertia_max":)", R"("inertia_maxx": "7", "inertia_max":)");
  text = replaced(text, R"("axes":)", R"("$schema": "x", "colour": 3, "axes":)");
  text = replaced(text, R"("name": "Picker",)", R"("name": "Picker", "gearbox": {"ratio": "5"},)");
  const auto read = from_json(text);
  REQUIRE(read);
  const auto all = told(*read);
  std::vector<std::string> places;
  for (const Unread& member : all) places.push_back(member.where() + " " + std::string(member.meant));
  CHECK(places == std::vector<std::string>{
                      "house_rules.inertia_maxx inertia_max", "colour ", "axes[0].load.moved_mas moved_mass",
                      "axes[0].cycle[0].process_force process", "axes[0].gearbox gearhead"});
  CHECK(problem_of(all[0]).text() ==
        "house_rules.inertia_maxx: no input is called that: it counts for nothing. "
        "Is \"inertia_max\" meant?");
  CHECK(problem_of(all[1]).remedy == "fulmox-cli schema lists the names.");

  SECTION("it is kept in the file as it was") {
    const auto again = from_json(to_json(*read));
    REQUIRE(again);
    CHECK(told(*again).size() == all.size());
  }
  SECTION("taken out, what was there before is left, with remarks and what is kept for other kinds") {
    Document mended = *read;
    leave_out_unread(mended);
    CHECK(told(mended).empty());
    CHECK(mended.axes[0]["load"].unknown.contains("_why"));
    CHECK(unread_members(mended).size() == unread_members(document).size());
    mended.axes[0]["load"].unknown.clear();
    mended.unknown.clear();
    CHECK(mended == document);
  }
  SECTION("the axis says so too") {
    const Evaluation e = evaluated(read->axes[0]);
    const auto found = std::find_if(e.warnings.begin(), e.warnings.end(),
                                    [](const Warning& one) { return one.id == "not_read"; });
    REQUIRE(found != e.warnings.end());
    CHECK(found->reason.find("cycle[0].process_force") != std::string::npos);
    CHECK(found->input == "load.moved_mass");
  }
}

TEST_CASE("inputs of another kind are kept aside, not unread") {
  Document document;
  document.axes.push_back(demo().axes[0]);
  Axis& axis = document.axes[0];
  choose_mechanism(axis, *find_mechanism("drum"));
  const auto all = unread_members(axis);
  const auto lead =
      std::find_if(all.begin(), all.end(), [](const Unread& one) { return one.name == "lead"; });
  REQUIRE(lead != all.end());
  CHECK(lead->another_kinds);
  CHECK(lead->where() == "mechanism.lead");
  CHECK(told(document).empty());
}

TEST_CASE("a member that stands twice is refused: only one of the two could count") {
  const std::string good = to_json(demo());
  const auto twice =
      from_json(replaced(good, R"("moved_mass":)", "\"moved_mass\": \"9 kg\",\n\"moved_mass\":"));
  REQUIRE_FALSE(twice);
  CHECK(twice.problem().what == "\"moved_mass\" stands here a second time.");
  CHECK(twice.problem().where.starts_with("line "));
  // the same name in two objects, or as a value, is none
  CHECK(from_json(replaced(good, R"("moved_mass":)",
                           R"("_a": ["moved_mass", {"moved_mass": "moved_mass"}], "moved_mass":)")));
  // broken texts are told as broken
  const auto broken = from_json(R"({"format": "fulmox-machine", "format": 1)");
  REQUIRE_FALSE(broken);
  CHECK(broken.problem().what.find("truncated") != std::string::npos);
}

TEST_CASE("what an input itself does not have is refused where it stands: it could not be kept") {
  const std::string good = to_json(demo());
  const auto odd = from_json(replaced(good, R"("origin": "measured")", R"("orign": "measured")"));
  REQUIRE_FALSE(odd);
  CHECK(odd.problem().where.ends_with("/axes/0/load/moved_mass/orign"));
  CHECK(odd.problem().text().find("\"typed\", \"origin\" and \"note\"") != std::string::npos);
}
