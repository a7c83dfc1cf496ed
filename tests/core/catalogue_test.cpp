// Several libraries at once: what is read of bad ones, which part counts, what is kept and what is asked.

#include "core/library/catalogue.hpp"
#include "core/library/foreign_csv.hpp"
#include "core/library/picture_axes.hpp"
#include "core/motor/servo.hpp"
#include "core/motor/stepper.hpp"
#include "core/sheets/part_checks.hpp"
#include "core/support/csv.hpp"
#include "core/support/text_file.hpp"
#include "support/axes.hpp"

#include <catch2/catch.hpp>

#include <cmath>
#include <fstream>
#include <random>
#include <unistd.h>

using namespace fulmox;
using namespace fulmox::testing;
using Catch::Contains;

namespace {

/// A folder of its own, gone at the end.
struct Folder {
  std::filesystem::path path;
  explicit Folder(const std::string& name)
      : path(std::filesystem::temp_directory_path() / ("fulmox-library-" + name + std::to_string(getpid()))) {
    std::filesystem::remove_all(path);
    std::filesystem::create_directories(path);
  }
  ~Folder() { std::filesystem::remove_all(path); }
  Folder(const Folder&) = delete;
  Folder& operator=(const Folder&) = delete;
  void write(const std::string& file, const std::string& text) const {
    std::ofstream(path / file, std::ios::binary) << text;
  }
  [[nodiscard]] PartSource source(bool own = false) const { return {path, path.filename().string(), own}; }
};

std::string troubles_of(const Catalogue& catalogue) {
  std::string all;
  for (const Catalogue::Trouble& trouble : catalogue.troubles()) all += trouble.problem.text() + "\n";
  return all;
}

PartsRead read_motors(const std::string& text) {
  return read_parts(text, servo_motor_section(), "motors.csv");
}

Section motor(const std::string& number, const std::string& maker = "M") {
  Section part = testing::library().of("motor").front();
  part.type("part_number", number);
  part.type("maker", maker);
  return part;
}

bool remarked(const std::vector<PartRemark>& all, PartRemark::Grade grade, std::string_view field) {
  return std::any_of(all.begin(), all.end(),
                     [&](const PartRemark& r) { return r.grade == grade && r.field == field; });
}

} // namespace

TEST_CASE("a bad line is named and left out, the rest loads") {
  const PartsRead read = read_motors("part_number,maker,frame [mm],inertia [kg.cm2],price,flavour\n"
                                     "A,X,40,0.1,100,sweet\n"
                                     "B,X,4o,0.1,100,\n"
                                     "C,X,60,0.2,n/a,\n"
                                     "A,X,80,0.3,100,\n"
                                     ",X,80,0.3,100,\n"
                                     "D,X,80\n"
                                     "E,X,80,-0.3,1,\n"
                                     "F,Y,80,0.3,,\n");
  std::vector<std::string> numbers;
  for (const Section& part : read.parts) numbers.push_back(part.text("part_number"));
  CHECK(numbers == std::vector<std::string>{"A", "C", "F"});
  CHECK(read.lines == std::vector<int>{2, 4, 9});
  CHECK(read.parts[0].term("frame") == Approx(0.04));
  CHECK(read.parts[1].blank("price")); // nothing is judged by a price
  std::string all;
  for (const Problem& problem : read.problems) {
    all += problem.text() + "\n";
    CHECK_FALSE(problem.remedy.empty());
  }
  CHECK(read.problems.size() == 7);
  CHECK_THAT(all, Contains("line 1, column \"flavour\"") && Contains("line 3, column \"frame\"") &&
                      Contains("line 4, column \"price\"") && Contains("line 5") && Contains("line 2") &&
                      Contains("line 6") && Contains("line 7") && Contains("line 8, column \"inertia\""));
}

TEST_CASE("a number without a unit, curve points out of order and a broken quote are named") {
  CHECK_THAT(read_motors("part_number,maker,frame\nA,X,40\n").problems.front().text(),
             Contains("line 2") && Contains("frame") && Contains("unit"));
  CHECK_THAT(read_motors("part_number,maker,peak_curve\nA,X,0 rpm: 1 N.m; 3000 rpm: 1 N.m; 2000 rpm: 2 N.m\n")
                 .problems.front()
                 .text(),
             Contains("line 2") && Contains("rising"));
  const PartsRead cut = read_motors("part_number,maker\nA,X\nB,\"X\nC,X\n");
  CHECK(cut.parts.size() == 1);
  CHECK_THAT(cut.problems.back().text(), Contains("line 3") && Contains("closed"));
  CHECK(read_motors("part_number,maker,frame [kg]\nA,X,1\n").parts.empty());
}

TEST_CASE("a file too large to be one is named, the others load") {
  const Folder folder("large");
  folder.write("motors.csv", "part_number,maker\nA,X\n");
  folder.write("couplings.csv", "part_number,maker\nK,X\n");
  std::filesystem::resize_file(folder.path / "couplings.csv",
                               std::uintmax_t{1} << 30U); // sparse: takes no room
  const Catalogue catalogue = Catalogue::load({folder.source()});
  CHECK(catalogue.of("motor").size() == 1);
  CHECK(catalogue.of("coupling").empty());
  CHECK_THAT(troubles_of(catalogue), Contains("couplings.csv"));
}

TEST_CASE("of parts with one maker and number the later source counts, and the other one says so") {
  const Folder first("first"), second("second");
  first.write("motors.csv", "part_number,maker,price\nA,X,1\nB,X,2\n");
  second.write("motors.csv", "part_number,maker,price\nC,X,3\nA,X,10\nA2,Y,1\n");
  const Catalogue catalogue = Catalogue::load({first.source(), second.source()});
  const auto& all = catalogue.of("motor");
  REQUIRE(all.size() == 5);
  REQUIRE(all[0].hidden_by);
  CHECK(all[*all[0].hidden_by].part.text("price") == "10");
  CHECK(all[*all[0].hidden_by].source == 1);
  CHECK(all[3].line == 3);
  CHECK(all[3].file == "motors.csv");
  CHECK_FALSE(all[1].hidden_by);
  const Library library = catalogue.library();
  CHECK(library.of("motor").size() == 4);
  CHECK(library.find("motor", "A")->text("price") == "10");
  CHECK(catalogue.size_of(0) == 2);
  // the other way round the other one counts; a source that is off does not
  CHECK(Catalogue::load({second.source(), first.source()}).library().find("motor", "A")->text("price") ==
        "1");
  PartSource off = second.source();
  off.on = false;
  CHECK(Catalogue::load({first.source(), off}).library().find("motor", "A")->text("price") == "1");
}

TEST_CASE("a source that is not there, or says nothing of its kind, is named") {
  const Folder folder("strange");
  folder.write("list.csv", "a,b\n1,2\n");
  CHECK_THAT(troubles_of(Catalogue::load({{folder.path / "gone", "gone"}})), Contains("not there"));
  CHECK_THAT(troubles_of(Catalogue::load({folder.source()})), Contains("motors.csv"));
  CHECK_THAT(troubles_of(Catalogue::load({{folder.path / "list.csv", "list"}})), Contains("Import it"));
  CHECK(Catalogue::load({{folder.path / "own", "own", true}}).troubles().empty()); // nothing kept yet
  folder.write("brakes.csv", "part_number,maker\nQ,X\n");
  CHECK(Catalogue::load({{folder.path / "brakes.csv", "one file"}}).of("brake").size() == 1);
}

TEST_CASE("an own library keeps, changes, renames and removes parts without losing anything of them") {
  const Folder folder("own");
  const PartSource own = folder.source(true);
  const auto read = [&] { return Catalogue::load({own}).of("motor"); };
  for (const char* number : {"A", "B", "C"}) REQUIRE_FALSE(keep_part(own, "motor", motor(number)));
  REQUIRE(read().size() == 3);
  // everything typed comes back
  const Section before = motor("B");
  for (std::size_t i = 0; i < before.size(); ++i) {
    INFO(before.field(i).id);
    CHECK(read()[1].part.entry(i).text == before.entry(i).text);
  }
  Section changed = before;
  changed.type("price", "999");
  changed.type("inertia", "0.001 lb.in2");
  REQUIRE_FALSE(keep_part(own, "motor", changed));
  CHECK(read().size() == 3);
  CHECK(read()[1].part.text("price") == "999");
  CHECK(read()[1].part.text("inertia") == "0.001 lb.in2");
  Section renamed = changed;
  renamed.type("part_number", "B2");
  REQUIRE_FALSE(keep_part(own, "motor", renamed, name_of(changed)));
  CHECK(read().size() == 3);
  CHECK(read()[1].part.text("part_number") == "B2");
  // another maker's part of the same number would be refused when the file is read again
  CHECK_THAT(keep_part(own, "motor", motor("A", "Other"))->text(), Contains("another part of that number"));
  REQUIRE_FALSE(remove_part(own, "motor", read()[0].part));
  CHECK(read().size() == 2);
  CHECK(read()[0].part.text("part_number") == "B2");
  Section nameless = motor("");
  CHECK_THAT(keep_part(own, "motor", nameless)->text(), Contains("part number"));
  Section wrong = motor("W");
  wrong.type("inertia", "-1 kg.cm2");
  CHECK(keep_part(own, "motor", wrong));
  CHECK(read().size() == 2);
}

TEST_CASE("an own file with a line that cannot be read is not written over") {
  const Folder folder("damaged");
  const std::string text = "part_number,maker,frame [mm]\nA,X,40\nB,X,4o\n";
  folder.write("motors.csv", text);
  const auto problem = keep_part(folder.source(true), "motor", motor("N"));
  REQUIRE(problem);
  CHECK_THAT(problem->text(), Contains("line 3") && Contains("would lose"));
  CHECK(*read_text_file(folder.path / "motors.csv", 1U << 20U) == text);
}

TEST_CASE("parts of every kind are written with all they tell and read back the same") {
  for (const SlotSpec* slot : part_slots())
    for (const SlotKind& kind : slot->kinds()) {
      const Parts parts = parts_of_form(slot->id, *kind.form);
      if (parts.empty()) continue;
      INFO(kind.library);
      const PartsRead back = read_parts(write_parts(parts, columns_for(parts), "x"), *kind.form, "f.csv");
      CHECK(back.problems.empty());
      REQUIRE(back.parts.size() == parts.size());
      for (std::size_t i = 0; i < parts.size(); ++i) CHECK(back.parts[i] == parts[i]);
    }
}

TEST_CASE("a foreign list is mapped by its titles: other separator, decimal comma, units in parentheses") {
  const std::string text = "Order number;Weight (g);Rotor inertia / g.cm2;Max. speed (rpm);Torque constant "
                           "[N.m/A];Nonsense;List price\n"
                           "Z-1;480;45,5;6000;0,085;x;120,50\n"
                           "Z-2;600;80;5000;0,1;;1250\n"
                           "Z-2;600;80;5000;0,1;;1250\n"
                           "Z-3;600;heavy;5000;0,1;;1250\n";
  const auto table = look_into(text, 5);
  REQUIRE(table);
  CHECK(table->separator == ';');
  CHECK(table->titles.size() == 7);
  CHECK(table->rows.front()[2] == "45,5");
  CsvMapping mapping = guess_mapping(*table, servo_motor_section());
  std::vector<std::string> fields, units;
  for (const MappedColumn& column : mapping.columns) {
    fields.push_back(column.field);
    units.push_back(column.unit);
  }
  CHECK(fields == std::vector<std::string>{"part_number", "mass", "inertia", "max_speed", "kt", "", "price"});
  CHECK(units == std::vector<std::string>{"", "g", "g.cm2", "rpm", "N.m/A", "", ""});
  CHECK(mapping.decimal_comma);
  mapping.maker = "Zeisig (invented)";
  const PartsRead read = read_foreign(text, mapping, servo_motor_section(), "list.csv");
  REQUIRE(read.parts.size() == 2);
  CHECK(read.parts[0].term("inertia") == Approx(45.5e-7));
  CHECK(read.parts[0].term("mass") == Approx(0.48));
  CHECK(read.parts[0].term("price") == Approx(120.5));
  CHECK(read.parts[0].text("maker") == "Zeisig (invented)");
  CHECK(read.parts[1].text("source") == "list.csv, line 3");
  REQUIRE(read.problems.size() == 2);
  CHECK_THAT(read.problems[0].text(), Contains("line 4") && Contains("Z-2"));
  CHECK_THAT(read.problems[1].text(), Contains("line 5") && Contains("Rotor inertia"));
}

TEST_CASE("a mapping is remembered by the titles and refused where it makes no sense") {
  const auto table = look_into("Model,Speed,Speed 2\nA,1,2\n", 3);
  REQUIRE(table);
  CsvMapping mapping = guess_mapping(*table, servo_motor_section());
  CHECK(mapping.columns[0].field == "part_number");
  mapping.columns[1] = {"Speed", "max_speed", "rpm"};
  mapping.maker = "\"quoted\", with commas";
  CHECK(mapping_faults(mapping, servo_motor_section()).empty());
  const auto back = mappings_from_json(mappings_to_json({mapping, mapping}));
  REQUIRE(back.size() == 2);
  CHECK(back[0] == mapping);
  CHECK(back[0].key() == mapping.key());
  CsvMapping other = mapping;
  other.columns[1].title = "Velocity";
  CHECK(other.key() != mapping.key());
  CHECK(mappings_from_json("not json").empty());
  CHECK(mappings_from_json("[{\"form\": 3}, " + mappings_to_json({mapping}).substr(1)).size() == 1);
  mapping.columns[2] = {"Speed 2", "max_speed", "rpm"};
  CHECK_THAT(mapping_faults(mapping, servo_motor_section()).front().text(), Contains("same as"));
  mapping.columns[2] = {"Speed 2", "inertia", "rpm"};
  CHECK(mapping_faults(mapping, servo_motor_section()).size() == 1);
  mapping.columns[0].field.clear();
  CHECK_THAT(mapping_faults(mapping, servo_motor_section()).back().text(), Contains("part number"));
  CHECK(read_foreign("Model,Speed,Speed 2\nA,1,2\n", mapping, servo_motor_section(), "x").parts.empty());
}

TEST_CASE("a thousand with a comma is not taken for a decimal one") {
  const auto table = look_into("Model;Price\nA;1,250\nB;12,000\n", 3);
  REQUIRE(table);
  CHECK_FALSE(guess_mapping(*table, servo_motor_section()).decimal_comma);
}

TEST_CASE("pixels of a turned and sheared picture give back the values they were drawn from") {
  std::mt19937 random(29);
  std::uniform_real_distribution<double> any(-1.0, 1.0);
  for (int round = 0; round < 200; ++round) {
    // values → pixels by any map that does not lie flat
    const double ax = 0.1 + 0.05 * any(random), ay = 0.04 * any(random), bx = 3.0 * any(random),
                 by = -40.0 + 9.0 * any(random), ox = 80.0 + 30.0 * any(random), oy = 500.0;
    const auto drawn = [&](double x, double y) {
      return PicturePoint{ox + ax * x + bx * y, oy + ay * x + by * y};
    };
    const double x0 = 100.0 * any(random), y0 = any(random);
    const auto axes = PictureAxes::from({AxisMark{drawn(0.0, y0), 0.0}, {drawn(3000.0, y0), 3000.0}},
                                        {AxisMark{drawn(x0, 0.5), 0.5}, {drawn(x0, 4.0), 4.0}});
    REQUIRE(axes);
    const double x = 4000.0 * any(random), y = 5.0 * any(random);
    CHECK(axes->read(drawn(x, y))[0] == Approx(x).margin(1e-6));
    CHECK(axes->read(drawn(x, y))[1] == Approx(y).margin(1e-9));
    CHECK(axes->place({x, y}).x == Approx(drawn(x, y).x).margin(1e-6));
    CHECK(axes->place({x, y}).y == Approx(drawn(x, y).y).margin(1e-6));
  }
  const auto at = [](double x, double y, double value) { return AxisMark{{x, y}, value}; };
  CHECK_FALSE(PictureAxes::from({at(0, 0, 1), at(100, 0, 1)}, {at(0, 0, 0), at(0, 50, 1)}));
  CHECK_FALSE(PictureAxes::from({at(0, 0, 0), at(1, 0, 1)}, {at(0, 0, 0), at(0, 50, 1)}));
  CHECK_FALSE(PictureAxes::from({at(0, 0, 0), at(100, 0, 1)}, {at(0, 0, 0), at(50, 0, 1)}));
}

TEST_CASE("a sheet is checked with reasons: contradictions, sizes, what is missing") {
  const Section good = *testing::library().find("motor", "VK60-0400-325H");
  for (const PartRemark& remark : check_part("motor", good)) CHECK(remark.text == "");
  const auto with = [&](const char* field, const char* text) {
    Section part = good;
    part.type(field, text);
    return check_part("motor", part);
  };
  using Grade = PartRemark::Grade;
  CHECK(remarked(with("peak_current", "1 A"), Grade::contradiction, "rated_current"));
  CHECK(remarked(with("max_speed", ""), Grade::missing, "max_speed"));
  CHECK(remarked(with("continuous_curve", "0 rpm: 30 N.m; 6000 rpm: 30 N.m"), Grade::implausible,
                 "continuous_curve"));
  // both curves are straight between their points: they cross at 4000 rpm
  CHECK(remarked(with("peak_curve", "0 rpm: 3 N.m; 6000 rpm: 0.1 N.m"), Grade::contradiction,
                 "continuous_curve"));
  CHECK_FALSE(remarked(with("peak_curve", "0 rpm: 3.82 N.m; 6000 rpm: 1.2 N.m"), Grade::contradiction,
                       "continuous_curve"));
  const auto heavy = with("mass", "90 kg");
  CHECK(remarked(heavy, Grade::implausible, "mass"));
  CHECK(std::any_of(heavy.begin(), heavy.end(), [](const PartRemark& remark) {
    return remark.text.find(" kg/m³, usual are 800 to 9000 kg/m³.") != std::string::npos;
  }));
  CHECK(remarked(with("inertia", "-1 kg.cm2"), Grade::contradiction, "inertia"));
  CHECK_FALSE(check_part("motor",
                         [&] {
                           Section part = good;
                           part.type("kt", "10 N.m/A"); // against Ke
                           return part;
                         }())
                  .empty());
  const auto all = with("max_speed", "");
  CHECK(std::is_sorted(all.begin(), all.end(),
                       [](const PartRemark& a, const PartRemark& b) { return a.grade < b.grade; }));
  Section head = testing::library().of("gearhead").front();
  CHECK(check_part("gearhead", head).empty());
  head.type("peak_torque", "1 N.m");
  CHECK(remarked(check_part("gearhead", head), Grade::contradiction, "nominal_torque"));
  Section drive = testing::library().of("drive").front();
  CHECK(check_part("drive", drive).empty());
  drive.type("reads", "smoke signals");
  CHECK(remarked(check_part("drive", drive), Grade::contradiction, "reads"));
}

TEST_CASE("the shipped parts have no contradiction and nothing unusual for their size") {
  for (const SlotSpec* slot : part_slots()) {
    const Parts& parts = testing::library().of(slot->id);
    for (std::size_t i = 0; i < parts.size(); i += 3)
      for (const PartRemark& remark : check_part(slot->id, parts[i])) {
        INFO(parts[i].text("part_number") << ": " << remark.field << ": " << remark.text);
        CHECK(remark.grade == PartRemark::Grade::missing);
      }
  }
}
