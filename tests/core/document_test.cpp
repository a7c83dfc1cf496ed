#include "core/mechanism/mechanism.hpp"
#include "core/motion/cycle.hpp"
#include "core/project/history.hpp"
#include "core/support/text_file.hpp"
#include "support/axes.hpp"

#include <catch2/catch.hpp>
#include <nlohmann/json.hpp>
#include <valijson/adapters/nlohmann_json_adapter.hpp>
#include <valijson/schema.hpp>
#include <valijson/schema_parser.hpp>
#include <valijson/validator.hpp>

#include <fstream>

using namespace fulmox;
using namespace fulmox::testing;
using Catch::Contains;

namespace {

bool valid_by_schema(const std::string& text) {
  const auto schema_json = nlohmann::json::parse(document_schema());
  const auto json = nlohmann::json::parse(text);
  valijson::Schema schema;
  valijson::SchemaParser parser;
  parser.populateSchema(valijson::adapters::NlohmannJsonAdapter(schema_json), schema);
  valijson::Validator validator;
  return validator.validate(schema, valijson::adapters::NlohmannJsonAdapter(json), nullptr);
}

/// A document in which every field of every section carries a different text.
Document full_document() {
  Document document;
  document.name = "Full";
  document.units = UnitSet::inch;
  Axis axis = new_axis("All fields");
  axis.cycle.emplace_back(*find_segment_spec("move"));
  axis.cycle.emplace_back(*find_segment_spec("dwell"));
  number_sections(axis);
  int counter = 1;
  const auto fill = [&](Section& section) {
    for (std::size_t i = 0; i < section.size(); ++i) {
      const FieldSpec& field = section.field(i);
      std::string text;
      if (field.type == FieldType::choice)
        text = field.choices.back().id;
      else if (field.type == FieldType::curve)
        text = "0 rpm: " + std::to_string(counter) + " N.m; 3000 rpm: 1 N.m";
      else
        text = "value " + std::to_string(counter);
      Entry entry = make_entry(field, text);
      entry.origin = static_cast<Origin>(counter % 4);
      if (counter % 3 == 0) entry.note = "note " + std::to_string(counter) + " with \"quotes\" and ü";
      section.put(i, entry);
      ++counter;
    }
  };
  for (Section& section : axis.givens) fill(section);
  for (Section& section : axis.cycle) fill(section);
  fill(document.house_rules);
  document.axes.push_back(std::move(axis));
  return document;
}

std::string problem_of(const std::string& text) {
  const auto document = from_json(text);
  REQUIRE_FALSE(document);
  return document.problem().text();
}

} // namespace

TEST_CASE("a document with a different text in every field survives the round trip") {
  const Document before = full_document();
  const auto after = from_json(to_json(before));
  REQUIRE(after);
  CHECK(*after == before);
  CHECK(to_json(*after) == to_json(before));
}

TEST_CASE("values are stored as typed") {
  Document document = demo();
  document.axes[0]["load"].type("moved_mass", "2*4.5 kg ±5%");
  CHECK_THAT(to_json(document), Contains("2*4.5 kg ±5%"));
  CHECK(from_json(to_json(document))->axes[0]["load"].term("moved_mass") == Approx(9.0));
}

TEST_CASE("unknown members are kept at every level") {
  auto json = nlohmann::ordered_json::parse(to_json(demo()));
  json["future"] = {{"a", 1}};
  json["axes"][0]["paint"] = "green";
  json["axes"][0]["load"]["colour"] = {1, 2, 3};
  json["axes"][0]["cycle"][0]["jerk"] = "5 m/s3";
  const auto document = from_json(json.dump());
  REQUIRE(document);
  CHECK(nlohmann::ordered_json::parse(to_json(*document))["future"]["a"] == 1);
  const auto axis = nlohmann::ordered_json::parse(to_json(*document))["axes"][0];
  CHECK(axis["paint"] == "green");
  CHECK(axis["load"]["colour"][2] == 3);
  CHECK(axis["cycle"][0]["jerk"] == "5 m/s3");
}

TEST_CASE("the published schema is the one the program makes, and fits the demo and a full document") {
  const auto published = read_text_file(source_folder() / "docs" / "fulmox-machine.schema.json", 1U << 22U);
  REQUIRE(published);
  CHECK(*published == document_schema());
  CHECK(valid_by_schema(to_json(demo())));
  CHECK(valid_by_schema(to_json(full_document())));
  auto wrong = nlohmann::json::parse(to_json(demo()));
  wrong["axes"][0]["load"]["moved_mass"] = 6;
  CHECK_FALSE(valid_by_schema(wrong.dump()));
  wrong = nlohmann::json::parse(to_json(demo()));
  wrong["version"] = 99;
  CHECK_FALSE(valid_by_schema(wrong.dump()));
}

TEST_CASE("bad files are refused with a place") {
  const std::string good = to_json(demo());
  CHECK_THAT(problem_of(good.substr(0, good.size() / 2)), Contains("truncated") && Contains("line"));
  CHECK_THAT(problem_of("{ \"format\": \"fulmox-machine\",\n \"version\": 1,\n oops }"), Contains("line 3"));
  CHECK_THAT(problem_of("[]"), Contains("object"));
  CHECK_THAT(problem_of("{\"format\": \"other\", \"version\": 1}"), Contains("not a Fulmox machine"));
  CHECK_THAT(problem_of("{\"format\": \"fulmox-machine\", \"version\": 3}"), Contains("newer"));
  CHECK_THAT(problem_of("{\"format\": \"fulmox-machine\", \"version\": \"1\"}"), Contains("whole number"));
  auto json = nlohmann::ordered_json::parse(good);
  json["axes"][0]["load"]["moved_mass"] = 6;
  CHECK_THAT(problem_of(json.dump(2)), Contains("/axes/0/load/moved_mass") && Contains("line"));
  json = nlohmann::ordered_json::parse(good);
  json["axes"][0]["cycle"][1]["kind"] = "hop";
  CHECK_THAT(problem_of(json.dump(2)), Contains("/axes/0/cycle/1/kind") && Contains("hop"));
  json = nlohmann::ordered_json::parse(good);
  json["axes"] = "none";
  CHECK_THAT(problem_of(json.dump(2)), Contains("/axes") && Contains("list"));
  CHECK_THAT(problem_of(std::string(100000, '[')), Contains("nested"));
}

TEST_CASE("the line named is the line of the value") {
  const std::string text = "{\n \"format\": \"fulmox-machine\",\n \"version\": 1,\n \"axes\": [\n  "
                           "{\"name\": \"a\",\n   \"load\": {\n    \"moved_mass\": 6\n   }}]}";
  CHECK_THAT(problem_of(text), Contains("line 7"));
}

TEST_CASE("no mutilated file crashes the reader") {
  const std::string good = to_json(demo());
  std::mt19937 engine(13);
  for (int i = 0; i < rounds(2000); ++i) {
    std::string text = good;
    for (int k = 0; k < 3; ++k) {
      const std::size_t at = engine() % text.size();
      switch (engine() % 3) {
      case 0:
        text.erase(at, 1 + engine() % 40);
        break;
      case 1:
        text[at] = static_cast<char>(engine() % 256);
        break;
      default:
        text.insert(at, std::string(1, "{}[]\",:0"[engine() % 8]));
        break;
      }
    }
    if (const auto document = from_json(text)) {
      (void)to_json(*document);
      for (const Axis& axis : document->axes) (void)evaluate(axis, document->house_rules);
    }
  }
}

TEST_CASE("missing, oversized and unwritable files") {
  const TemporaryFolder folder;
  CHECK_THAT(load_document(folder.file("none.fulmox")).problem().text(), Contains("no such file"));
  const auto big = folder.file("big.fulmox");
  std::ofstream(big).close();
  std::filesystem::resize_file(big, 100U * 1000U * 1000U);
  CHECK_THAT(load_document(big).problem().text(), Contains("100 MB"));
  CHECK(save_document(demo(), folder.file("no/such/folder/x.fulmox")));
}

TEST_CASE("saving replaces the whole file or nothing") {
  const TemporaryFolder folder;
  const auto path = folder.file("machine.fulmox");
  REQUIRE_FALSE(save_document(demo(), path));
  CHECK(*load_document(path) == demo());
  Document other = demo();
  other.name = "Second";
  REQUIRE_FALSE(save_document(other, path));
  CHECK(load_document(path)->name == "Second");
  std::size_t files = 0;
  for (const auto& entry : std::filesystem::directory_iterator(path.parent_path()))
    files += entry.is_regular_file() ? 1 : 0;
  CHECK(files == 1); // nothing left aside
}

TEST_CASE("undo and redo go through named steps and typing in one field is one step") {
  History history{Document()};
  const auto named = [&](const std::string& name) {
    Document next = history.now();
    next.name = name;
    return next;
  };
  history.change(named("a"), "Rename", "name");
  history.change(named("ab"), "Rename", "name");
  history.change(named("abc"), "Rename", "name");
  CHECK(history.undo_name() == "Rename");
  REQUIRE(history.undo());
  CHECK(history.now().name == "New machine");
  CHECK_FALSE(history.can_undo());
  REQUIRE(history.redo());
  CHECK(history.now().name == "abc");
  history.seal();
  history.change(named("abcd"), "Rename", "name");
  REQUIRE(history.undo());
  CHECK(history.now().name == "abc");
  history.change(named("new branch"), "Rename");
  CHECK_FALSE(history.can_redo());
}

TEST_CASE("a change that is taken back while typing leaves no step and saving is remembered") {
  History history{Document()};
  Document next = history.now();
  next.name = "x";
  history.change(next, "Rename", "name");
  CHECK_FALSE(history.saved());
  history.change(Document(), "Rename", "name");
  CHECK_FALSE(history.can_undo());
  CHECK(history.saved());
  history.change(next, "Rename");
  history.mark_saved();
  CHECK(history.saved());
  history.undo();
  CHECK_FALSE(history.saved());
}

TEST_CASE("random edits undo all the way and redo all the way") {
  std::mt19937 engine(17);
  History history(demo());
  std::vector<Document> states{history.now()};
  for (int i = 0; i < 60; ++i) {
    Document next = history.now();
    next.axes[0]["load"].type("moved_mass", std::to_string(1 + engine() % 50) + " kg");
    next.axes[0].cycle[engine() % 4].type("time", std::to_string(100 + engine() % 900) + " ms");
    if (next == history.now()) continue;
    history.change(next, "Change");
    states.push_back(next);
  }
  for (std::size_t i = states.size() - 1; i > 0; --i) {
    CHECK(history.now() == states[i]);
    REQUIRE(history.undo());
  }
  for (std::size_t i = 1; i < states.size(); ++i) {
    REQUIRE(history.redo());
    CHECK(history.now() == states[i]);
  }
}

TEST_CASE("a file written by hand may leave out what has a usual value: it is taken as a guess") {
  const auto document = from_json(R"({"format": "fulmox-machine", "version": 2, "axes": [{"name": "x",
    "load": {"moved_mass": "10 kg"},
    "mechanism": {"kind": "belt", "teeth": "30", "pitch": "5 mm", "length": "1 m"},
    "cycle": [{"kind": "move", "distance": "100 mm", "time": "0.5 s"}]}]})");
  REQUIRE(document);
  const Axis& axis = document->axes[0];
  CHECK(axis["load"].text("friction") == "0.01");
  CHECK(axis["load"].entry("friction").origin == Origin::guess);
  CHECK(axis["load"].entry("moved_mass").origin == Origin::given);
  CHECK(axis["load"].blank("process_force")); // what may stay blank stays so
  CHECK(axis["mechanism"].entry("idlers").origin == Origin::guess);
  CHECK(faults(axis).empty());
  CHECK(evaluate(axis, document->house_rules));
  // what has none is named all at once
  auto bare = axis;
  bare["load"].type("moved_mass", "");
  bare.cycle[0].type("distance", "");
  CHECK(faults(bare).size() + (evaluate(bare, document->house_rules) ? 0U : 1U) >= 2);
}

TEST_CASE("what a new form presets is a guess until it is typed; what is reasoned is none") {
  const Document fresh;
  CHECK(fresh.duty.entry("hours").origin == Origin::guess);
  for (std::size_t i = 0; i < fresh.house_rules.size(); ++i)
    CHECK(fresh.house_rules.entry(i).origin == Origin::given);
  Axis axis = new_axis("new");
  std::size_t guesses = 0;
  for (const Section& section : axis.givens)
    for (std::size_t i = 0; i < section.size(); ++i) {
      const Entry& entry = section.entry(i);
      const bool preset = section.field(i).type == FieldType::quantity && !entry.blank();
      INFO(section.path << "." << section.field(i).id);
      CHECK((entry.origin == Origin::guess) == preset); // a blank one and a choice are none
      guesses += preset ? 1U : 0U;
    }
  CHECK(guesses > 5);
  // it stays one over a file, and its text typed once more is the user's word
  Document document;
  document.axes.push_back(axis);
  const auto again = from_json(to_json(document));
  REQUIRE(again);
  CHECK(*again == document);
  axis["mechanism"].type("lead", axis["mechanism"].text("lead"));
  CHECK(axis["mechanism"].entry("lead").origin == Origin::given);
  CHECK(axis["mechanism"].text("efficiency") == "0.9");
  // what nobody touched is not kept for a mechanism that does not know it, what was typed is
  choose_mechanism(axis, *find_mechanism("belt"));
  CHECK(axis["mechanism"].unknown.count("lead") == 1);
  CHECK(axis["mechanism"].unknown.count("length") == 0);
  CHECK(axis["mechanism"].text("efficiency") ==
        std::string(axis["mechanism"].field(*axis["mechanism"].spec().index_of("efficiency")).preset));
  choose_mechanism(axis, *find_mechanism("screw"));
  CHECK(axis["mechanism"].entry("lead").origin == Origin::given);
  CHECK(axis["mechanism"].unknown.count("idlers") == 0);
}

TEST_CASE("a needed field that was cleared stays cleared") {
  Document document = demo();
  document.axes[0]["load"].type("friction", "");
  REQUIRE_FALSE(faults(document.axes[0]).empty());
  const auto again = from_json(to_json(document));
  REQUIRE(again);
  CHECK(*again == document);
  CHECK(again->axes[0]["load"].blank("friction"));
  // and another mechanism whose form knows the field too gives it its own preset
  document.axes[0]["mechanism"].type("efficiency", "");
  choose_mechanism(document.axes[0], *find_mechanism("belt"));
  CHECK_FALSE(document.axes[0]["mechanism"].blank("efficiency"));
  CHECK(document.axes[0]["load"].blank("friction")); // the same form: nothing is changed behind one's back
}
