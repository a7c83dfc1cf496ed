// Small things everybody leans on: files, paths, ranges, fields, chains.

#include "core/mechanism/screw_formulas.hpp"
#include "core/project/json_line.hpp"
#include "core/rules/house_rules.hpp"
#include "core/support/in_parts.hpp"
#include "core/support/intern.hpp"
#include "core/support/small_name.hpp"
#include "core/support/text_file.hpp"
#include "core/support/utf8.hpp"
#include "core/working/chain.hpp"
#include "support/axes.hpp"

#include <catch2/catch.hpp>
#include <nlohmann/json.hpp>
#include <sys/stat.h>

#include <fstream>
#include <numeric>

using namespace fulmox;
using namespace fulmox::testing;
using Catch::Contains;

TEST_CASE("lines of JSON values, checked against the library's own reading") {
  const std::string text = to_json(demo());
  const auto json = nlohmann::json::parse(text);
  std::vector<std::string> rows{""};
  for (const char c : text) {
    if (c == '\n')
      rows.emplace_back();
    else
      rows.back() += c;
  }
  int checked = 0;
  std::size_t seen = 0;
  const auto flat = json.flatten();
  for (const auto& [pointer, value] : flat.items()) {
    if (!value.is_string() || ++seen % every(1) != 0) continue;
    const int line = json_line(text, pointer);
    INFO(pointer << " in line " << line);
    REQUIRE(line > 0);
    CHECK_THAT(rows[static_cast<std::size_t>(line) - 1], Contains(value.dump()));
    ++checked;
  }
  CHECK(checked > 80);
}

TEST_CASE("keys with slashes, tildes and quotes keep their place") {
  const std::string text = "{\n\"a/b\": 1,\n\"c~d\": [true,\n \"x\\\"y\"],\n\"e\": {}\n}";
  CHECK(json_line(text, "/a~1b") == 2);
  CHECK(json_line(text, "/c~0d/1") == 4);
  CHECK(json_line(text, "/e") == 5);
  CHECK(json_line(text, "/none") == 0);
}

TEST_CASE("saving through a symbolic link keeps the link, and permissions stay") {
  const TemporaryFolder folder;
  const auto real = folder.file("real.txt");
  const auto link = folder.file("link.txt");
  REQUIRE_FALSE(write_text_file(real, "one"));
  REQUIRE(::chmod(real.c_str(), 0600) == 0);
  std::filesystem::create_symlink(real, link);
  REQUIRE_FALSE(write_text_file(link, "two"));
  CHECK(std::filesystem::is_symlink(link));
  CHECK(*read_text_file(real, 100) == "two");
  struct stat status {};
  REQUIRE(::stat(real.c_str(), &status) == 0);
  CHECK((status.st_mode & 0777) == 0600);
}

TEST_CASE("reading refuses folders and files beyond the limit") {
  const TemporaryFolder folder;
  CHECK_THAT(read_text_file(folder.file("."), 100).problem().text(), Contains("not a file"));
  REQUIRE_FALSE(write_text_file(folder.file("long"), std::string(200, 'x')));
  CHECK_FALSE(read_text_file(folder.file("long"), 100));
  CHECK(read_text_file(folder.file("long"), 200)->size() == 200);
}

TEST_CASE("a failed write leaves the old file whole") {
  const TemporaryFolder folder;
  const auto path = folder.file("sub/machine.fulmox");
  std::filesystem::create_directory(path.parent_path());
  REQUIRE_FALSE(save_document(demo(), path));
  Document other = demo();
  other.name = "Other";
  // the target is a folder now: the rename must fail
  const auto blocked = folder.file("blocked");
  std::filesystem::create_directories(blocked / "inside");
  const auto problem = save_document(other, blocked);
  REQUIRE(problem);
  CHECK_FALSE(problem->remedy.empty());
  CHECK(*load_document(path) == demo());
  for (const auto& entry : std::filesystem::directory_iterator(folder.file(".")))
    CHECK_THAT(entry.path().filename().string(), !Contains("blocked."));
}

TEST_CASE("ranges say their rule in the unit of the field") {
  CHECK(describe(range::positive, Kind::length) == "must be greater than 0 mm.");
  CHECK(describe(range::efficiency, Kind::share) == "must be above 0 and at most 1.");
  CHECK(describe({1.0, 100.0}, Kind::number) == "must be at least 1 and at most 100.");
  CHECK(describe({-range::infinity, 1.0}, Kind::share) == "must be at most 1.");
  CHECK_FALSE(range::positive.contains(0.0));
  CHECK(range::not_negative.contains(0.0));
  CHECK_FALSE(range::efficiency.contains(1.0000001));
}

TEST_CASE("interned texts are equal, lasting and one") {
  const std::string_view a = intern(std::string("demand") + ".x");
  const std::string_view b = intern("demand.x");
  CHECK(a == b);
  CHECK(a.data() == b.data());
}

TEST_CASE("a name in two bytes is the text it was made of, in all threads and long after") {
  CHECK(sizeof(SmallName) == 2);
  CHECK(SmallName().empty());
  CHECK(SmallName("") == SmallName());
  CHECK(SmallName().text().empty());
  const auto named = [](std::size_t from, std::size_t to) {
    std::vector<SmallName> names;
    for (std::size_t i = from; i < to; ++i) names.emplace_back("limit " + std::to_string(i / 2 % 700));
    return names;
  };
  const auto names = in_parts(4000, 4, 100, named);
  REQUIRE(names.size() == 4000);
  for (std::size_t i = 0; i < names.size(); ++i) {
    CHECK(names[i].text() == "limit " + std::to_string(i / 2 % 700));
    CHECK((names[i] == names[0]) == (i / 2 % 700 == 0));
  }
  std::string buffer = "one text";
  const SmallName one(buffer);
  buffer = "two text"; // where another text of that length lay before
  const SmallName two(buffer);
  CHECK(one.text() == "one text");
  CHECK(two.text() == "two text");
}

TEST_CASE("a bare number takes the unit typed last, else the usual one") {
  const FieldSpec& mass = new_axis("")["load"].spec().fields[0];
  const Entry pounds = make_entry(mass, "13 lb");
  CHECK(usual_unit(mass, pounds) == "lb");
  const Entry typed = make_entry(mass, "9", usual_unit(mass, pounds));
  CHECK(typed.text == "9 lb");
  CHECK(typed.value == Approx(9 * 0.45359237));
  const Entry spread = make_entry(mass, "9 ±10%", "kg");
  CHECK(spread.text == "9 kg ±10%");
  CHECK(spread.tolerance.half_width == Approx(0.9));
  CHECK(usual_unit(mass, make_entry(mass, "")) == "kg");
}

TEST_CASE("an entry keeps a bad text and says why, and equality is about what was typed") {
  const FieldSpec& lead = new_axis("")["mechanism"].spec().fields[0];
  const Entry bad = make_entry(lead, " 0 mm ");
  CHECK(bad.text == "0 mm");
  CHECK(bad.faulty());
  CHECK(std::isnan(bad.value));
  CHECK(bad == make_entry(lead, "0 mm"));
  Entry noted = make_entry(lead, "0 mm");
  noted.note = "n";
  CHECK_FALSE(bad == noted);
  CHECK(make_entry(lead, "").faulty()); // required
}

TEST_CASE("paths are told in the user's words") {
  const Document document = demo();
  const Axis& axis = document.axes[0];
  CHECK(describe_path(axis, "load.moved_mass") == "Load, moved mass");
  CHECK(describe_path(axis, "mechanism.lead") == "Mechanism, lead");
  CHECK(describe_path(axis, "cycle[2].time") == "Move 3, time");
  CHECK(describe_path(axis, "load.angle (column 3)") == "Load, angle from level (column 3)");
  CHECK(describe_path(axis, "peak.force") == "");
  CHECK(describe_path(axis, "cycle") == "");
  CHECK(describe_path(document, 0, "house_rules.inertia_max") == "House rules, largest inertia ratio");
  CHECK(describe_path(document, 7, "load.moved_mass") == "");
}

TEST_CASE("sections are found by path, and renumbered after a change") {
  Axis axis = demo().axes[0];
  REQUIRE(find_section(axis, "cycle[3]") != nullptr);
  CHECK(find_section(axis, "cycle[4]") == nullptr);
  axis.cycle.erase(axis.cycle.begin());
  number_sections(axis);
  CHECK(find_section(axis, "cycle[3]") == nullptr);
  CHECK(find_section(axis, "cycle[0]")->spec().id == "dwell");
  CHECK(find_section(axis, "nothing") == nullptr);
}

TEST_CASE("house rules are read from their own file, faults kept as such") {
  const auto rules =
      house_rules_from_json(R"({"name": "mine", "inertia_max": "7", "attention": "half", "colour": "blue"})");
  REQUIRE(rules);
  CHECK(rules->term("inertia_max") == 7.0);
  CHECK(rules->entry("attention").faulty());
  CHECK(rules->unknown.contains("colour"));
  CHECK(rules->term("brake_factor").value == house_rules().term("brake_factor").value); // the preset
  CHECK_FALSE(house_rules_from_json("[1, 2]"));
  CHECK_FALSE(house_rules_from_json("{"));
}

TEST_CASE("a formula in symbols and in numbers") {
  Recorder recorder(true);
  recorder.apply(book::screw_torque_driving, "t", {{1000.0, ""}, {0.01, "mechanism.lead"}, {0.9, ""}});
  const Step& step = recorder.steps().front();
  CHECK(in_symbols(*step.formula) == "T = F·p/(2π·η)");
  CHECK(in_numbers(step, UnitSet::si) == "1.000 kN·10.00 mm/(2π·0.9000)");
  CHECK(in_numbers(step, UnitSet::inch) == "224.8 lbf·0.3937 in/(2π·0.9000)");
  Recorder other(true);
  other.apply(book::screw_inertia, "j", {{7850.0, ""}, {1.0, ""}, {0.02, ""}});
  CHECK(in_numbers(other.steps().front(), UnitSet::si) == "(π/32)·7850 kg/m³·1.000 m·(20.00 mm)⁴");
}

TEST_CASE("chains name each step once, the result first, and survive missing links") {
  std::vector<Step> steps;
  const Formula& f = book::screw_torque_rest;
  steps.push_back({"a", "", &f, {{1.0, "b"}, {2.0, "c"}}, 1.0, "", Kind::number});
  steps.push_back({"b", "", &f, {{1.0, "c"}, {2.0, "gone"}}, 1.0, "", Kind::number});
  steps.push_back({"c", "", &f, {{1.0, "a"}, {2.0, ""}}, 1.0, "", Kind::number}); // even a circle ends
  const auto chain = chain_of(steps, "a");
  REQUIRE(chain.size() == 3);
  CHECK(chain[0]->id == "a");
  CHECK(chain_of(steps, "nothing").empty());
}

TEST_CASE("scopes give the same chain other names and give the old ones back") {
  Recorder recorder(true);
  const Formula& f = book::screw_torque_rest;
  {
    const Recorder::Scope outer(recorder, "peak.");
    CHECK(recorder.apply(f, "t", {{1.0, ""}, {1.0, ""}}).ref == "peak.t");
    {
      const Recorder::Scope inner(recorder, "hold.");
      CHECK(recorder.apply(f, "t", {{1.0, ""}, {1.0, ""}}).ref == "peak.hold.t");
    }
    CHECK(recorder.apply(f, "u", {{1.0, ""}, {1.0, ""}}).ref == "peak.u");
  }
  CHECK(recorder.apply(f, "t", {{1.0, ""}, {1.0, ""}}).ref == "t");
  Recorder silent(false);
  CHECK(silent.apply(f, "t", {{6.28, ""}, {1.0, ""}}).value == Approx(6.28 / (2 * M_PI)));
  CHECK(silent.steps().empty());
}

TEST_CASE("choosing a part replaces its section and nothing else") {
  Axis axis = demo().axes[0];
  const Axis before = axis;
  axis["motor"].unknown["future"] = "1";
  choose_part(axis, "motor", *library().find("motor", "CR60-0400-048L"));
  CHECK(axis["motor"].text("part_number") == "CR60-0400-048L");
  CHECK(axis["motor"].unknown.contains("future"));
  CHECK(axis["motor"].entry("kt").origin == Origin::data_sheet);
  CHECK(axis["drive"] == before["drive"]);
  CHECK(axis.cycle == before.cycle);
  CHECK(library().find("motor", "no such part") == nullptr);
}

TEST_CASE("any mutilated library is refused or read, never a crash") {
  const auto text = read_text_file(source_folder() / "data" / "library" / "drives.csv", 1U << 20U);
  REQUIRE(text);
  std::mt19937 engine(51);
  const Axis sample = new_axis("");
  for (int i = 0; i < rounds(1500); ++i) {
    std::string broken = *text;
    for (int k = 0; k < 2; ++k) {
      const std::size_t at = engine() % broken.size();
      if (engine() % 2 == 0)
        broken.erase(at, 1 + engine() % 20);
      else
        broken.insert(at, std::string(1, "\",\n#[]x"[engine() % 7]));
    }
    const PartsRead read = read_parts(broken, sample["drive"].spec(), "drives.csv");
    for (const Problem& problem : read.problems) CHECK_THAT(problem.where, Contains("drives.csv"));
  }
}

TEST_CASE("a shortened text ends with a whole character") {
  const std::string same(40, 'x');
  CHECK(shortened(same) == same);
  std::string umlauts = "x";
  for (int i = 0; i < 30; ++i) umlauts += "ü";
  const std::string cut = shortened(umlauts); // byte 40 lies within an ü
  CHECK(cut.size() == 39 + std::string("…").size());
  CHECK(cut.ends_with("ü…"));
  CHECK(column_of(umlauts, 5) == 4);
}

TEST_CASE("names put together are told apart by every part of them") {
  const std::string_view head = "stage.", tail = "torque";
  for (int round = 0; round < 2; ++round) { // the second time they are remembered
    CHECK(intern(head, tail, "a.") == "stage.a.torque");
    CHECK(intern(head, tail, "b.") == "stage.b.torque");
    CHECK(intern(head, tail) == "stage.torque");
  }
  CHECK(intern(head, tail, "a.").data() == intern("stage.a.torque").data());
}

TEST_CASE("what several threads give is what one gives, nothing lost and nothing twice") {
  for (const std::size_t n : {0, 1, 19999, 20000, 39999, 60001, 100003})
    for (const unsigned threads : {0U, 1U, 2U, 3U, 8U}) {
      const auto places = in_parts(n, threads, 20'000, [](std::size_t from, std::size_t to) {
        std::vector<std::size_t> part(to - from);
        std::iota(part.begin(), part.end(), from);
        return part;
      });
      std::vector<std::size_t> plain(n);
      std::iota(plain.begin(), plain.end(), std::size_t{0});
      INFO(n << " by " << threads);
      const bool same_places = places == plain; // told without listing them
      CHECK(same_places);
    }
}
