// The worksheet: complete, readable, safe against odd texts.

#include "core/project/chosen_parts.hpp"
#include "core/report/worksheet.hpp"
#include "support/axes.hpp"

#include <catch2/catch.hpp>

#include <algorithm>

using namespace fulmox;
using namespace fulmox::testing;
using Catch::Contains;

namespace {

std::size_t count(const std::string& text, const std::string& what) {
  std::size_t found = 0;
  for (std::size_t at = text.find(what); at != std::string::npos; at = text.find(what, at + 1)) ++found;
  return found;
}

} // namespace

TEST_CASE("every typed value, every result and every limit is on the worksheet") {
  Document document = demo();
  Axis& axis = document.axes[3]; // its load is built of pieces
  axis.stages.emplace_back(*find_kind(axis, *find_list("stages"), "gear_pair"));
  number_sections(axis);
  const std::string text = worksheet(document);
  const Evaluation e = evaluated(axis);
  std::size_t curves = 0, choices = 0;
  const auto look_at = [&](const Section& section, const std::string& title) {
    for (std::size_t i = 0; i < section.size(); ++i) {
      if (section.entry(i).blank()) continue;
      const FieldSpec& field = section.field(i);
      INFO(section.path << "." << field.id);
      std::string value = section.text(field.id);
      if (field.type == FieldType::choice) {
        value = std::find_if(field.choices.begin(), field.choices.end(), [&](const Choice& c) {
                  return c.id == value;
                })->label;
        ++choices;
      }
      curves += field.type == FieldType::curve ? 1U : 0U;
      CHECK_THAT(
          text, Contains("| " + title + ", " + std::string(field.label) + " | " + sheet_cell(value) + " | "));
    }
  };
  for (const Section& section : axis.givens) look_at(section, std::string(section.spec().title));
  for (const auto* list : {&axis.cycle, &axis.pieces, &axis.stages}) {
    REQUIRE_FALSE(list->empty());
    for (std::size_t i = 0; i < list->size(); ++i)
      look_at((*list)[i], std::string((*list)[i].spec().title) + " " + std::to_string(i + 1));
  }
  CHECK(curves >= 2);
  CHECK(choices >= 5);
  for (const ResultValue& result : e.results)
    CHECK_THAT(text, Contains("| " + std::string(result.label) + " |"));
  for (const Limit& limit : e.limits) CHECK_THAT(text, Contains("| " + std::string(limit.label) + " |"));
}

TEST_CASE("of a long record the worksheet tells how many points it has") {
  Document document = demo();
  std::string points = "0 ms: 0 mm";
  for (int i = 1; i < 60; ++i) points += "; " + std::to_string(10 * i) + " ms: 0 mm";
  document.axes[0].cycle.assign(1, Section(*find_kind(document.axes[0], *find_list("cycle"), "profile")));
  document.axes[0].cycle[0].type("points", points);
  number_sections(document);
  CHECK_THAT(worksheet(document), Contains(" | 60 points | "));
}

TEST_CASE("a supply that nothing judges is said to be so") {
  Document document = demo();
  CHECK_THAT(worksheet(document), Contains("On bus 48 V: its supply is judged with all axes"));
  CHECK_THAT(worksheet(document), !Contains("nothing judges"));
  document.axes[0]["surroundings"].type("shared_bus", "48V");
  CHECK_THAT(worksheet(document), Contains("On bus 48V: **there is no bus of that name"));
}

TEST_CASE("origins and notes are told") {
  const std::string text = worksheet(demo());
  CHECK_THAT(text, Contains("measured: Head with 24 vacuum cups"));
  CHECK_THAT(text, Contains("| 0.01 ±50% | guess |"));
  CHECK_THAT(text, Contains("data sheet"));
}

TEST_CASE("the working carries formulas, numbers and sources, each step once") {
  Document document = demo();
  document.axes.erase(document.axes.begin() + 5, document.axes.end()); // one screw among them
  const std::string text = worksheet(document);
  CHECK_THAT(text, Contains("`T = F·p/(2π·η)`"));
  CHECK_THAT(text, Contains("`J_s = (π/32)·ρ·L·d⁴`"));
  CHECK(count(text, "`J_s = (π/32)·ρ·L·d⁴`") == 1);
  CHECK_THAT(text, Contains("Source: solid cylinder"));
  CHECK_THAT(text, Contains("(Mechanism, lead)"));
}

TEST_CASE("a neglected coupling is printed as neglected") {
  Document document = demo();
  document.axes[0]["coupling"].type("inertia", "");
  CHECK_THAT(worksheet(document), Contains("| Coupling, Inertia | neglected |"));
}

TEST_CASE("an axis that cannot be worked out says why and keeps its givens") {
  Document document = demo();
  document.axes[0]["mechanism"].type("lead", "0 mm");
  const std::string text = worksheet(document);
  CHECK_THAT(text, Contains("cannot be worked out") && Contains("greater than 0"));
  CHECK_THAT(text, Contains("| 6 kg | measured"));
}

TEST_CASE("texts of the user cannot break the tables") {
  Document document = demo();
  document.name = "A|B # *C* <script>";
  document.axes[0].name = "x_y";
  Entry entry = document.axes[0]["load"].entry("moved_mass");
  entry.note = "a | b\nc";
  document.axes[0]["load"].put("moved_mass", entry);
  const std::string text = worksheet(document);
  CHECK_THAT(text, Contains("A\\|B \\# \\*C\\* \\<script\\>"));
  CHECK_THAT(text, Contains("a \\| b c"));
}

TEST_CASE("the worksheet speaks the document's units") {
  Document document = demo();
  document.units = UnitSet::inch;
  const std::string text = worksheet(document);
  CHECK_THAT(text, Contains("lbf·in"));
  CHECK_THAT(text, Contains("| 6 kg |")); // inputs stay as typed
}

TEST_CASE("several axes each get their chapter, and cautions stand at the end") {
  Document document = demo();
  document.axes.push_back(plain_axis());
  const std::string text = worksheet(document);
  CHECK_THAT(text, Contains("## Picker") && Contains("## Plain"));
  CHECK(text.rfind("not personnel protection") > text.rfind("### Working"));
}

TEST_CASE("random axes print without trouble") {
  RandomAxes random(71);
  for (int i = 0; i < 25; ++i) {
    Document document;
    document.axes.push_back(random.next());
    const std::string text = worksheet(document);
    CHECK_THAT(text, Contains("### Limits"));
    CHECK_THAT(text, !Contains(" nan"));
  }
}

TEST_CASE("what was chosen, against whom and why, stands with its axis") {
  Document document = demo();
  CHECK(count(worksheet(document), "### Choices of parts") == 0);
  Section choice(chosen_parts_section());
  choice.type("axis", "Gantry");
  choice.type("date", "2026-11-26");
  choice.type("chosen", "A-1 · direct · B|2: Inertia ratio 70 %");
  choice.type("reason", "in stock");
  document.lists["choices"].push_back(choice);
  const std::string text = worksheet(document);
  CHECK(count(text, "### Choices of parts") == 1);
  CHECK_THAT(text, Contains("| 2026-11-26 | A-1 · direct · B\\|2: Inertia ratio 70 % |") &&
                       Contains("| in stock |"));
  CHECK(text.find("## Gantry") < text.find("### Choices of parts"));
}

TEST_CASE(
    "the worksheet carries the machine: schedule, buses with their limits, what the installer is told") {
  const std::string text = worksheet(demo());
  CHECK_THAT(text, Contains("## The machine and its supply") && Contains("parts an hour") &&
                       Contains("### Bus Mains") && Contains("| Hold-up |") &&
                       Contains("To be told to the installer") && Contains("| Picker | Picker |") &&
                       Contains("On bus 48 V: its supply is judged with all axes"));
  Document bare = demo();
  for (auto& [id, list] : bare.lists) list.clear();
  CHECK(worksheet(bare).find("## The machine") == std::string::npos);
  Document circle = demo();
  circle.lists.find("blocks")->second[2].type("after", "Pots away");
  CHECK_THAT(worksheet(circle), Contains("The schedule cannot be worked out") && Contains("circle"));
}
