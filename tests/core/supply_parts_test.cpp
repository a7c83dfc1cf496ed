// Supplies and transformers of a library: how they fill in a bus, what their sheets must tell, and how they
// are tried.
#include "core/library/catalogue.hpp"
#include "core/machine/bus_data.hpp"
#include "core/machine/supply_choice.hpp"
#include "core/plan/buses.hpp"
#include "core/plan/supply_parts.hpp"
#include "core/sheets/part_checks.hpp"
#include "core/support/text_file.hpp"
#include "support/machines.hpp"

#include <catch2/catch.hpp>

#include <algorithm>
#include <unistd.h>

using namespace fulmox;
using namespace fulmox::testing;
using Catch::Matchers::Contains;

namespace {

Section part_of(std::string_view form,
                std::initializer_list<std::pair<std::string_view, std::string>> values) {
  for (const SlotKind& kind : bus_supply_slot().kinds())
    if (kind.form->id == form) {
      Section part(*kind.form);
      for (const auto& [field, text] : values) part.type(field, text, Origin::data_sheet);
      return part;
    }
  throw std::logic_error("no such form");
}

Section regulated_part(const std::string& number, const std::string& limit) {
  return part_of("regulated_supply", {{"part_number", number},
                                      {"maker", "Nobody (invented)"},
                                      {"volts", "48 V"},
                                      {"limit", limit},
                                      {"power", "480 W"},
                                      {"peak", "720 W"},
                                      {"peak_time", "4 s"},
                                      {"price", "77"}});
}

std::vector<std::string> faults_of(const Section& part) {
  std::vector<std::string> all;
  for (const Problem& problem : part_faults("bus_supply", part)) all.push_back(problem.text());
  return all;
}

const SupplyTrial* tried(const std::vector<SupplyTrial>& trials, std::string_view part) {
  const auto found =
      std::find_if(trials.begin(), trials.end(), [&](const SupplyTrial& t) { return t.part == part; });
  return found != trials.end() ? &*found : nullptr;
}
std::string reasons_of(const SupplyTrial& trial) {
  std::string all;
  for (const std::string& reason : trial.reasons) all += reason + "\n";
  return all;
}

} // namespace

TEST_CASE("a supply of the library fills in the bus and leaves what is of the bus") {
  Section bus(transformer_bus_section());
  bus.path = "buses[1]";
  for (const auto& [field, text] :
       std::initializer_list<std::pair<const char*, const char*>>{{"name", "Drives"},
                                                                  {"capacitance", "10 mF"},
                                                                  {"chopper_on", "56 V"},
                                                                  {"cable_length", "3 m"},
                                                                  {"derating", "80 %"},
                                                                  {"price", "900"},
                                                                  {"frequency", "60 Hz"},
                                                                  {"regulation", "7 %"}})
    bus.type(field, text);
  Section part = regulated_part("RX48", "16 A");
  part.type("overload", "hiccup");
  part.type("trip_time", "80 ms");
  part.type("off_time", "0.6 s");
  const Section with = with_supply_part(bus, part);
  CHECK(&with.spec() == &regulated_bus_section());
  CHECK(with.path == "buses[1]");
  CHECK(with.text("name") == "Drives");
  CHECK(with.text("capacitance") == "10 mF");
  CHECK(with.text("chopper_on") == "56 V");
  CHECK(with.text("cable_length") == "3 m");
  CHECK(with.text("derating") == "80 %");
  CHECK(with.text("part_number") == "RX48");
  CHECK(with.text("overload") == "hiccup");
  CHECK(with.term("trip_time").value == Approx(0.08));
  CHECK(with.term("peak_time").value == Approx(4.0));
  CHECK(with.text("price") == "77"); // the supply's, not that of the one before
  CHECK(with.entry("limit").origin == Origin::data_sheet);

  // without a price told, none of the one before stays
  part.type("price", "");
  CHECK(with_supply_part(bus, part).blank("price"));

  // a transformer brings its phases; frequency and swing are of the mains, and stay
  const Section other = with_supply_part(bus, part_of("transformer", {{"part_number", "TX"},
                                                                      {"volts", "30 V"},
                                                                      {"amps", "8 A"},
                                                                      {"regulation", "12 %"},
                                                                      {"phases", "3"}}));
  CHECK(&other.spec() == &transformer_bus_section());
  CHECK(other.text("phases") == "3");
  CHECK(other.text("frequency") == "60 Hz");
  CHECK(other.term("regulation").value == Approx(0.12));
}

TEST_CASE("the forms of a bus tell of the supply in the fields of a library's part") {
  for (const SlotKind& kind : bus_supply_slot().kinds()) {
    const SectionSpec& bus =
        kind.form->id == "transformer" ? transformer_bus_section() : regulated_bus_section();
    int shared = 0;
    for (const FieldSpec& field : kind.form->fields)
      if (bus.index_of(field.id) && field.id != "price") {
        ++shared;
        CAPTURE(field.id);
        CHECK_FALSE(stays_with_bus(field.id));
      }
    CHECK(shared >= 7);
    // and nothing else of the bus goes with its supply
    for (const FieldSpec& field : bus.fields)
      CHECK((stays_with_bus(field.id) || kind.form->index_of(field.id).has_value()));
  }
}

TEST_CASE("what a supply's sheet leaves out or contradicts is named") {
  Section part = regulated_part("RX48", "16 A");
  CHECK(faults_of(part).empty());
  part.type("overload", "hiccup");
  REQUIRE(faults_of(part).size() == 1);
  CHECK_THAT(faults_of(part)[0], Contains("bus_supply.trip_time") && Contains("Type both"));
  part.type("trip_time", "80 ms");
  CHECK_THAT(faults_of(part)[0], Contains("bus_supply.off_time"));
  part.type("off_time", "1 s");
  CHECK(faults_of(part).empty());
  part.type("overload", "foldback");
  CHECK_THAT(faults_of(part)[0], Contains("short_current"));
  part.type("short_current", "17 A");
  CHECK_THAT(faults_of(part)[0], Contains("above the current limit"));
  part.type("short_current", "16 A");
  CHECK(faults_of(part).empty());
  part.type("limit", "");
  CHECK_THAT(faults_of(part)[0], Contains("bus_supply.limit"));

  // at 48 V ten amperes are the 480 W; a hair less is not
  CHECK(faults_of(regulated_part("RX48", "10 A")).empty());
  CHECK_THAT(faults_of(regulated_part("RX48", "9.99 A")).at(0), Contains("less than the continuous power"));
  part = regulated_part("RX48", "16 A");
  part.type("peak", "479 W");
  CHECK_THAT(faults_of(part).at(0), Contains("bus_supply.peak"));
  part.type("peak", "480 W");
  CHECK(faults_of(part).empty());
  CHECK(check_part("bus_supply", part, UnitSet::si).empty()); // it is of no axis, and needs none
}

TEST_CASE("the shipped supplies and transformers are read and agree with themselves") {
  const Parts& parts = library().of("bus_supply");
  CHECK(parts.size() > 50);
  int transformers = 0, hiccup = 0, back = 0;
  for (const Section& part : parts) {
    CAPTURE(part.text("part_number"));
    CHECK(faults_of(part).empty());
    transformers += part.is("transformer") ? 1 : 0;
    hiccup += part.has("overload") && part.text("overload") == "hiccup" ? 1 : 0;
    back += part.has("sink") && !part.blank("sink") ? 1 : 0;
  }
  CHECK(transformers > 20);
  CHECK(hiccup > 10);
  CHECK(back > 3);
}

TEST_CASE("a library of supplies is read from its file, bad lines are named") {
  const auto folder =
      std::filesystem::temp_directory_path() / ("fulmox-supplies-" + std::to_string(::getpid()));
  std::filesystem::create_directories(folder);
  REQUIRE_FALSE(write_text_file(folder / "regulated_supplies.csv",
                                "part_number,maker,volts [V],limit [A],overload,trip_time [ms],off_time [s]\n"
                                "A1,Nobody (invented),48,20,hiccup,80,0.5\n"
                                "A2,Nobody (invented),48,20,hiccup,80,\n"
                                "A3,Nobody (invented),48,20,sometimes,,\n"));
  const Catalogue catalogue = Catalogue::load({PartSource{folder, "supplies", false, true}});
  REQUIRE(catalogue.library().of("bus_supply").size() == 2);
  // what is wrong between its columns is told where it is checked and where it is tried
  CHECK(faults_of(catalogue.library().of("bus_supply")[0]).empty());
  CHECK_THAT(faults_of(catalogue.library().of("bus_supply")[1]).at(0), Contains("Type both"));
  REQUIRE(catalogue.troubles().size() == 1);
  CHECK_THAT(catalogue.troubles()[0].problem.text(), Contains("line 4") && Contains("overload"));
  std::filesystem::remove_all(folder);
}

TEST_CASE("supplies of the library are tried with what they do in overload") {
  Document d = one_axis();
  const MachineRun run = run_of(d);
  REQUIRE(run.complete);
  const double mean = run.power.buses[0].mean, most = run.buses[0].low->most_current;
  REQUIRE(most > 1.0);

  // both give half of what the peak takes; one gives it on, the other goes off
  const std::string limit = std::to_string(0.5 * most) + " A";
  Section on = regulated_part("ON", limit), off = regulated_part("OFF", limit),
          large = regulated_part("LARGE", "40 A");
  for (Section* part : {&on, &off, &large}) {
    part->type("power", std::to_string(std::min(20.0 * most, 2.0 * mean)) + " W");
    part->type("peak", "");
  }
  off.type("overload", "hiccup");
  off.type("trip_time", "0.1 ms");
  off.type("off_time", "2 s");
  Section near = large, beyond = large;
  near.type("part_number", "NEAR");
  near.type("volts", "49.4 V");
  beyond.type("part_number", "BEYOND");
  beyond.type("volts", "49.5 V");
  const auto transformer = [](const char* number, const char* volts, const char* amps) {
    return part_of("transformer", {{"part_number", number},
                                   {"maker", "Nobody (invented)"},
                                   {"volts", volts},
                                   {"amps", amps},
                                   {"regulation", "8 %"}});
  };
  Library all;
  all.add("bus_supply", {on, off, large, near, beyond, transformer("BIG", "30 V", "30 A"),
                         transformer("HIGH", "33 V", "30 A"), transformer("TINY", "33 V", "0.1 A"),
                         transformer("OTHER", "20 V", "30 A")});
  const auto trials = supply_trials(run, 0, d, all);
  for (const char* name : {"ON", "OFF", "LARGE", "NEAR", "BIG", "TINY"}) {
    CAPTURE(name);
    REQUIRE(tried(trials, name) != nullptr);
  }
  CHECK(tried(trials, "BEYOND") == nullptr); // 3 % off the bus
  CHECK(tried(trials, "OTHER") == nullptr);
  CHECK_THAT(reasons_of(*tried(trials, "OFF")), Contains("switches off for a while"));
  CHECK_THAT(reasons_of(*tried(trials, "ON")), Contains("gives its limit on"));
  CHECK_FALSE(tried(trials, "OFF")->fits);
  CHECK(tried(trials, "OFF")->used > tried(trials, "ON")->used);

  // without load: √2 · 30 V · 1.08 less 1.8 V of diodes
  CHECK_THAT(reasons_of(*tried(trials, "BIG")), Contains("900 VA") && Contains("44.0 V without load"));
  // with the mains 10 % high 33 V make 53.6 V: the chopper, which goes off at 52 V, would stay on
  REQUIRE(tried(trials, "HIGH") != nullptr);
  CHECK_FALSE(tried(trials, "HIGH")->fits);
  CHECK_THAT(reasons_of(*tried(trials, "HIGH")), Contains("heat from the mains"));
  const SupplyTrial& tiny = *tried(trials, "TINY");
  CHECK_FALSE(tiny.fits);
  CHECK(tiny.used == Approx(mean / 3.3));
  CHECK_THAT(reasons_of(tiny), Contains("the mean power alone"));

  // what is told of each is what the bus has once it is put in
  for (const char* name : {"ON", "OFF", "LARGE", "BIG", "HIGH", "TINY"}) {
    CAPTURE(name);
    const SupplyTrial& trial = *tried(trials, name);
    Document with = d;
    bus_of(with) = *trial.bus;
    const MachineRun after = run_of(with);
    const bool over =
        after.buses.empty() || std::any_of(after.buses[0].limits.begin(), after.buses[0].limits.end(),
                                           [](const Limit& l) { return l.state == LimitState::over; });
    CHECK(over != trial.fits);
  }
}
