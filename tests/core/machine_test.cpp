// The machine as a whole: one result per axis, recomputed only where something changed; files of old
// versions.

#include "core/evaluation/machine.hpp"
#include "core/library/part_library.hpp"
#include "core/support/text_file.hpp"
#include "support/axes.hpp"

#include <catch2/catch.hpp>

#include <algorithm>
#include <cmath>

using namespace fulmox;
using namespace fulmox::testing;
using Catch::Contains;

TEST_CASE("a machine is worked out axis by axis, and only where something changed") {
  Document document = demo();
  document.axes.erase(document.axes.begin() + 5, document.axes.end());
  const MachineResult first = evaluate(document);
  REQUIRE(first.size() == document.axes.size());
  for (std::size_t i = 0; i < first.size(); ++i) {
    const auto alone = evaluate(document.axes[i], document.house_rules);
    CHECK(first[i]->worst_used() == worst_used(*alone));
    CHECK(first[i]->evaluation->find("demand.rms_torque")->value == alone->find("demand.rms_torque")->value);
  }
  const auto kept = [&](const MachineResult& now) {
    std::string told;
    for (const SharedResult& result : now)
      told += std::find(first.begin(), first.end(), result) != first.end() ? 'k' : 'n';
    return told;
  };
  CHECK(kept(evaluate(document, first)) == "kkkkk");
  SECTION("an edit") {
    document.axes[1]["load"].type("moved_mass", "9 kg");
    CHECK(kept(evaluate(document, first)) == "knkkk");
    document.axes[1] = demo().axes[1]; // and back
    CHECK(kept(evaluate(document, first)) == "kkkkk");
  }
  SECTION("an axis is removed, another moved") {
    document.axes.erase(document.axes.begin());
    std::swap(document.axes[0], document.axes[3]);
    const MachineResult now = evaluate(document, first);
    CHECK(kept(now) == "kkkk");
    CHECK(now[0] == first[4]);
  }
  SECTION("house rules concern all, units only how it is told") {
    document.units = UnitSet::inch;
    const MachineResult inch = evaluate(document, first);
    CHECK(kept(inch) == "nnnnn");
    CHECK(known_result(first, document, 2) == first[2]);
    document.units = UnitSet::si;
    document.house_rules.type("inertia_max", "3");
    CHECK(kept(evaluate(document, first)) == "nnnnn");
    CHECK(known_result(first, document, 2) == nullptr);
  }
  SECTION("one axis that cannot be worked out does not hide the others") {
    document.axes[2]["load"].type("moved_mass", "-1 kg");
    const MachineResult now = evaluate(document, first);
    CHECK(kept(now) == "kknkk");
    CHECK(now[2]->evaluation == nullptr);
    CHECK(now[2]->problem.where == "load.moved_mass");
    CHECK(std::isnan(now[2]->worst_used()));
  }
}

TEST_CASE("a machine of version 1 is read like the one of today") {
  const auto text = read_text_file(source_folder() / "tests" / "data" / "version-1.fulmox", 1U << 20U);
  REQUIRE(text);
  CHECK_THAT(*text, Contains("\"version\": 1"));
  const auto old = from_json(*text);
  REQUIRE(old);
  Document today = demo();
  today.axes.erase(today.axes.begin() + 5, today.axes.end()); // it was smaller then
  // prices and encoders came later, and the invented curves were drawn anew
  for (std::size_t i = 0; i < today.axes.size(); ++i)
    for (const SlotSpec* slot : axis_part_slots())
      for (const std::string_view field :
           {"price",          "encoder",           "peak_curve",      "mounting",       "delay",
            "in_motion",      "continuous_torque", "emergency_stops", "radial_load",    "capacitance",
            "brake_power",    "switching",         "rated_ambient",   "rated_altitude", "feedback",
            "length",         "lead_time",         "stock",           "pilot",          "bolt_circle",
            "shaft_length",   "max_volts",         "flange",          "input_pilot",    "input_bolt_circle",
            "input_bore_min", "input_bore_max",    "input_depth",     "reads",          "brake_volts",
            "shared_bus",     "brake_bus",         "waiting",         "brake_price"})
        if (Section& now = today.axes[i][slot->id]; now.has(field))
          now.put(field, old->axes[i][slot->id].entry(field));
  // presets of the mechanism before are not kept any more
  for (std::size_t i = 0; i < today.axes.size(); ++i)
    for (Section& now : today.axes[i].givens) now.unknown = old->axes[i][now.path].unknown;
  today.lists = old->lists; // the schedule, the buses and the duty came later
  today.duty = old->duty;
  today.pace = old->pace;
  CHECK(*old == today);
  CHECK_THAT(to_json(*old), Contains("\"version\": 2"));
  SECTION("a member \"kind\" that version 1 did not know is not taken for one of today") {
    std::string strange = *text;
    const auto motor = strange.find("\"motor\": {");
    REQUIRE(motor != std::string::npos);
    strange.insert(motor + 10, "\"kind\": \"stepper\", ");
    CHECK(from_json(strange));
    strange.replace(strange.find("\"version\": 1"), 12, "\"version\": 2");
    CHECK_THAT(from_json(strange).problem().text(), Contains("unknown motor 'stepper'"));
  }
}
