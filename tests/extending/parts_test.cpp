// What somebody adds to an axis in one file: a slot with its form, a limit with its house rule, a mechanism
// whose ratio changes with the position. Nothing else in the program knows of them.

#include "core/evaluation/book.hpp"
#include "core/limits/limit.hpp"
#include "core/limits/second_look.hpp"
#include "core/mechanism/variable_ratio.hpp"
#include "core/project/differences.hpp"
#include "core/project/footprint.hpp"
#include "core/rules/house_rules.hpp"
#include "support/axes.hpp"

#include <catch2/catch.hpp>

#include <cmath>

using namespace fulmox;
using namespace fulmox::testing;

namespace {

/// A shock absorber at the end of the travel.
const SectionSpec& absorber_section() {
  static const SectionSpec spec{
      "absorber",
      "Shock absorber",
      {part_number_field(), optional("energy", "Energy per stop", "E", Kind::energy, range::positive, "")}};
  return spec;
}

/// Another form for the same place: both know the energy.
const SectionSpec& bumper_section() {
  static const SectionSpec spec{
      "bumper",
      "Rubber bumper",
      {optional("energy", "Energy per stop", "E", Kind::energy, range::positive, ""),
       optional("travel", "Travel", "s", Kind::length, range::positive, "")}};
  return spec;
}

const SlotSpec& stop_slot() {
  static const SlotSpec slot{"stop", "End stop", [] {
                               return std::vector<SlotKind>{
                                   {.form = &absorber_section(), .summary = &part_summary},
                                   {.form = &bumper_section(), .summary = [](const Section& bumper) {
                                      return summary_of_fields(bumper, {"energy", "travel"});
                                    }}};
                             }};
  return slot;
}

/// Kinetic energy of the load against what the stop takes, with the house's own factor.
std::optional<Limit> stop_energy(const LimitContext& c) {
  const Term takes = c.axis["stop"].term("energy");
  if (std::isnan(takes)) return std::nullopt;
  const double v = c.demand.max_speed * std::abs(c.model.load->mechanism->lever(0.0));
  const double energy = 0.5 * c.axis["load"].term("moved_mass") * v * v;
  return compare(c, "stop.energy", {c.rules.term("stop_factor") * energy, ""}, takes, Kind::energy, "");
}
const LimitSpec stop_limit{"stop.energy", "Energy at the end stop", "", &stop_energy};

/// A yoke: the load goes with the sine of the shaft's angle, x = r·sin φ.
class Yoke final : public VariableRatio {
public:
  Yoke(double radius, Parts parts) : VariableRatio(std::move(parts)), radius_(radius) {}
  Drawing draw(const Pose&) const override {
    Drawing drawing;
    drawing.circle(Ink::part, {0.0, 0.0}, radius_);
    return drawing;
  }

protected:
  Term slope(double position, std::string_view id, Recorder&) const override {
    return {radius_ * std::cos(position), id};
  }
  Term bend(double position, Recorder&) const override { return {-radius_ * std::sin(position), ""}; }
  std::vector<double> steepest(const TravelExtremes& reach) const override {
    std::vector<double> all;
    for (double place = std::ceil(reach.lowest / M_PI) * M_PI; place <= reach.highest; place += M_PI)
      all.push_back(place);
    return all;
  }

private:
  double radius_;
};

const MechanismSpec& yoke() {
  static const MechanismSpec spec{
      {"yoke", "Scotch yoke", {needed("radius", "Radius", "r", Kind::length, range::positive, "50 mm", "")}},
      &linear_load_section,
      turning_against_force,
      true,
      [](const MechanismInput& input, Recorder& recorder) -> Expected<std::unique_ptr<Mechanism>> {
        auto load = LinearLoad::from(input, recorder);
        if (!load) return load.problem();
        // the formulas of the slider-crank are those of any slope
        static const ArmFormulas arm{
            *find_formula("crank.slider_speed"),   *find_formula("crank.slider_acceleration"),
            *find_formula("crank.torque_driving"), *find_formula("crank.torque_backdriven"),
            *find_formula("crank.torque_rest"),    *find_formula("inertia.crank_load")};
        VariableRatio::Parts parts;
        parts.arm = &arm;
        parts.breakaway = find_formula("crank.breakaway");
        parts.load = *load;
        parts.efficiency = parts.back_efficiency = {1.0, ""};
        parts.turning = {"yoke", "Yoke", {0.0, ""}, {0.0, ""}};
        parts.smooth_travel = M_PI / 16.0;
        return made<Yoke>(input.mechanism.term("radius"), std::move(parts));
      },
      "A pin in a slotted yoke."};
  return spec;
}

/// A supply of the machine, in a list of its own.
const SectionSpec& supply_unit_section() {
  static const SectionSpec spec{
      "supply_unit",
      "Supply",
      {needed("voltage", "Voltage", "V", Kind::voltage, range::positive, "48 V", "")}};
  return spec;
}
const MachineListSpec supplies{"supplies", "supply",
                               [] { return std::vector<const SectionSpec*>{&supply_unit_section()}; }};

const bool registered = [] {
  register_machine_list(supplies);
  register_slot(stop_slot());
  register_house_rule({needed("stop_factor", "Stop factor", "", Kind::number, {1.0, 10.0}, "1.5",
                              "On the energy at the end stop."),
                       "the end stop"});
  register_limit(stop_limit);
  register_warning({"no_stop", [](const LimitContext& c) -> std::optional<Warning> {
                      if (!c.axis["stop"].all_blank()) return std::nullopt;
                      return Warning{"", "No end stop", "Nothing stops the load.", "stop.energy"};
                    }});
  register_mechanism(yoke());
  return true;
}();

} // namespace

TEST_CASE("a slot that was only registered is saved, read back, published and judged") {
  REQUIRE(registered);
  Axis axis = plain_axis();
  CHECK(evaluated(axis).warnings.back().id == "no_stop");
  axis["stop"].type("energy", "10 J");
  Document document;
  document.axes.push_back(axis);
  const auto again = from_json(to_json(document));
  REQUIRE(again);
  CHECK(*again == document);
  CHECK(document_schema().find("Shock absorber") != std::string::npos);
  axis["stop"].type("energy", "5 kg");
  CHECK(faults(axis).front().where == "stop.energy");
  CHECK(describe_path(axis, "stop.energy") == "End stop, energy per stop");
}

TEST_CASE("going to another form of a slot and back keeps what both know, and files name the kind") {
  Axis axis = plain_axis();
  axis["stop"].type("part_number", "SA-1");
  axis["stop"].type("energy", "10 J");
  choose_kind(axis, stop_slot(), bumper_section());
  CHECK(axis["stop"].spec().id == "bumper");
  CHECK(axis["stop"].text("energy") == "10 J");
  axis["stop"].type("travel", "20 mm");
  Document document;
  document.axes.push_back(axis);
  CHECK(to_json(document).find("\"kind\": \"bumper\"") != std::string::npos);
  const auto again = from_json(to_json(document));
  REQUIRE(again);
  CHECK(*again == document);
  choose_kind(axis, stop_slot(), absorber_section());
  CHECK(axis["stop"].text("part_number") == "SA-1");
  CHECK(axis["stop"].text("energy") == "10 J");
  // a kind nobody knows is refused with those that are
  std::string text = to_json(document);
  text.replace(text.find("\"bumper\""), 8, "\"pillow\"");
  CHECK_THAT(from_json(text).problem().text(),
             Catch::Contains("unknown stop 'pillow'") && Catch::Contains("absorber, bumper"));
}

TEST_CASE("a limit with a house rule of its own: old rules take the usual value") {
  Axis axis = plain_axis();
  axis["stop"].type("energy", "10 J");
  const auto used = [&](const Section& rules) {
    const auto result = evaluate(axis, rules);
    REQUIRE(result);
    for (const Limit& limit : result->limits)
      if (limit.id == "stop.energy") return limit.used;
    return 0.0;
  };
  const auto old = house_rules_from_json(R"({"name": "old"})");
  REQUIRE(old);
  const double before = used(*old);
  CHECK(before > 0.0);
  Section rules = *old;
  rules.type("stop_factor", "3");
  CHECK(used(rules) == Approx(2.0 * before));
}

TEST_CASE("a mechanism of variable ratio follows from its slope alone") {
  Axis axis = axis_on("yoke");
  axis["load"].type("moved_mass", "10 kg");
  axis["load"].type("friction", "0");
  axis["mechanism"].type("radius", "50 mm");
  add_segment(axis, "run", {{"speed", "60 rpm"}, {"time", "2 s"}});
  const Evaluation e = evaluated(axis);
  // x = r·sin ωt: T = m·a·dx/dφ = −m·ω²·r²·sin φ·cos φ, greatest at 45°; even speed, so energy comes back
  const double omega = 2.0 * M_PI, r = 0.05, m = 10.0;
  CHECK(value(e, "demand.peak_torque") == Approx(0.5 * m * omega * omega * r * r).epsilon(1e-6));
  CHECK(value(e, "demand.rms_torque") ==
        Approx(0.5 * m * omega * omega * r * r / std::sqrt(2.0)).epsilon(1e-6));
  CHECK(value(e, "energy.driven") == Approx(value(e, "energy.returned")).epsilon(1e-6));
  CHECK(e.demand.inertia.front().at_motor == Approx(m * r * r).epsilon(1e-9));
}

TEST_CASE("a list of the whole machine is saved, read back, published, compared and checked") {
  Document document;
  document.axes.push_back(plain_axis());
  const Document before = document;
  document.lists.at("supplies").emplace_back(supply_unit_section());
  document.lists.at("supplies").emplace_back(supply_unit_section());
  number_sections(document);
  find_section(document, 0, "supplies[1]")->type("voltage", "24 V");
  const auto again = from_json(to_json(document));
  REQUIRE(again);
  CHECK(*again == document);
  CHECK(find_section(*again, 0, "supplies[1]")->text("voltage") == "24 V");
  CHECK(document_schema().find("\"supplies\"") != std::string::npos);
  const auto told = differences(before, document);
  REQUIRE(told.size() == 2);
  CHECK(told[1].input == "supply 2");
  CHECK(told[1].after == "Supply");
  CHECK(own_size(document, before) > own_size(before, before));
  CHECK(own_size(document, document) < own_size(document, before));
  find_section(document, 0, "supplies[0]")->type("voltage", "5 kg");
  REQUIRE(machine_faults(document).size() == 1);
  CHECK(machine_faults(document).front().where == "supplies[0].voltage");
  CHECK(describe_path(document, 0, "supplies[0].voltage") == "Supply 1, voltage");
}
