#include "core/drive/formulas.hpp"
#include "core/evaluation/book.hpp"
#include "core/motor/servo.hpp"
#include "core/working/explain.hpp"
#include "support/axes.hpp"

#include <catch2/catch.hpp>

#include <cmath>
#include <set>

using namespace fulmox;
using namespace fulmox::testing;
using Catch::Contains;

namespace {

std::string problem_after(std::string_view slot, std::string_view field, std::string_view text) {
  Axis axis = picker();
  axis[slot].type(field, text);
  const auto result = evaluate(axis, house_rules());
  REQUIRE_FALSE(result);
  CHECK_FALSE(result.problem().remedy.empty());
  return result.problem().text();
}

} // namespace

TEST_CASE("bad input is told with place and remedy") {
  CHECK_THAT(problem_after("load", "moved_mass", "six kg"), Contains("load.moved_mass") && Contains("six"));
  CHECK_THAT(problem_after("load", "moved_mass", "-6 kg"), Contains("greater than 0"));
  CHECK_THAT(problem_after("load", "moved_mass", ""), Contains("missing"));
  CHECK_THAT(problem_after("mechanism", "length", "5 kg"), Contains("a length"));
  CHECK_THAT(problem_after("mechanism", "lead", "0 mm"), Contains("greater than 0"));
  CHECK_THAT(problem_after("mechanism", "efficiency", "1.2"), Contains("at most 1"));
  CHECK_THAT(problem_after("gearhead", "ratio", "0"), Contains("greater than 0"));
  CHECK_THAT(problem_after("motor", "kt_per", "sometimes"), Contains("none of the choices"));
  CHECK_THAT(problem_after("motor", "peak_curve", "0 rpm 3"), Contains("point 1"));
}

TEST_CASE("impossible cycles name what would fit") {
  Axis axis = picker();
  axis.cycle[0].type("acceleration_share", "0.4");
  axis.cycle[0].type("deceleration_share", "0.8");
  CHECK_THAT(evaluate(axis, house_rules()).problem().text(),
             Contains("cycle[0].deceleration_share") && Contains("At most 0.600"));
  axis.cycle.clear();
  CHECK_THAT(evaluate(axis, house_rules()).problem().text(), Contains("empty"));
  add_dwell(axis, "1 s");
  CHECK_THAT(evaluate(axis, house_rules()).problem().text(), Contains("nothing moves"));
}

TEST_CASE("a counterweight on a rope is refused where the rope goes slack or does nothing") {
  Axis axis = picker();
  axis["load"].type("counterweight", "4 kg");
  REQUIRE(evaluate(axis, house_rules()));
  axis.cycle[2].type("time", "0.15 s");
  CHECK_THAT(evaluate(axis, house_rules()).problem().text(), Contains("slack"));
  axis = picker();
  axis["load"].type("counterweight", "4 kg");
  axis["load"].type("angle", "0 deg");
  CHECK_THAT(evaluate(axis, house_rules()).problem().text(), Contains("level"));
}

TEST_CASE("an axis without motor and drive still gives its demand, and says what it cannot judge") {
  const Evaluation e = evaluated(plain_axis());
  CHECK(value(e, "demand.peak_torque") > 0.0);
  CHECK(e.find("demand.ratio") == nullptr);
  CHECK(limit(e, "motor.peak").state == LimitState::not_judged);
  CHECK_FALSE(limit(e, "motor.peak").reason.empty());
  CHECK(limit(e, "drive.peak").input == "motor.kt");
}

TEST_CASE("the demo's limits change as the trade expects") {
  const Evaluation before = evaluated(picker());
  Axis axis = picker();
  axis["load"].type("moved_mass", "2*4.5 kg");
  const Evaluation heavier = evaluated(axis);
  CHECK(limit(heavier, "motor.peak").used > limit(before, "motor.peak").used);
  CHECK(limit(heavier, "brake.hold").used == Approx(1.5 * limit(before, "brake.hold").used).epsilon(1e-9));
  axis["mechanism"].type("lead", "5 mm");
  const Evaluation finer = evaluated(axis);
  CHECK(value(finer, "demand.max_speed") == Approx(2.0 * value(before, "demand.max_speed")).epsilon(1e-9));
  CHECK(limit(finer, "motor.speed").state == LimitState::over);
  axis = picker();
  axis["gearhead"].type("ratio", "2");
  CHECK(value(evaluated(axis), "inertia.load") == Approx(value(before, "inertia.load") / 4.0).epsilon(1e-9));
}

TEST_CASE("limits: states follow the house rule, the worst stands first, each has its working") {
  const Evaluation e = evaluated(picker());
  double previous = std::numeric_limits<double>::infinity();
  for (const Limit& l : e.limits) {
    if (l.state == LimitState::not_judged) continue;
    INFO(l.id);
    CHECK(l.used <= previous);
    previous = l.used;
    CHECK((l.state == LimitState::over) == (l.used > 1.0));
    REQUIRE(e.step(l.step) != nullptr);
    CHECK(e.step(l.step)->value == l.used);
    CHECK_FALSE(l.rule.empty());
    CHECK(l.used == Approx(std::abs(l.demand) / l.capacity).epsilon(1e-9));
  }
  Section strict = house_rules();
  strict.type("attention", "40 %");
  const auto tighter = evaluate(picker(), strict);
  REQUIRE(tighter);
  CHECK(limit(*tighter, "drive.voltage").state == LimitState::tight);
  CHECK(limit(*tighter, "drive.bus").state == LimitState::clear); // a range is kept or not, never tight
}

TEST_CASE("a drive on a bus below its least is told, on the bus at its lowest") {
  Axis axis = picker();
  axis["drive"].type("bus_min", "46 V"); // what the bus falls to
  CHECK(limit(evaluated(axis), "drive.bus_least").used == Approx(1.0));
  CHECK(limit(evaluated(axis), "drive.bus_least").state == LimitState::clear);
  axis["drive"].type("bus_min", "46.1 V");
  CHECK(limit(evaluated(axis), "drive.bus_least").state == LimitState::over);
  axis["surroundings"].type("bus_low", ""); // nobody says how low: a tenth below the nominal one
  CHECK(limit(evaluated(axis), "drive.bus_least").capacity == Approx(0.9 * 48.0));
  choose_part(axis, "drive", *library().find("drive", "EM325-010"));
  CHECK(limit(evaluated(axis), "drive.bus_least").state == LimitState::over);
}

TEST_CASE("limit ids are unique") {
  std::set<std::string_view> ids;
  for (const LimitSpec* spec : limit_specs()) CHECK(ids.insert(spec->id).second);
  CHECK(ids.size() >= 17);
}

TEST_CASE("a drive that cannot hold the rms current trips however short the peak") {
  Axis axis = picker();
  choose_part(axis, "drive", *library().find("drive", "EM325-010"));
  axis["surroundings"].type("bus", "325 V");
  const Evaluation e = evaluated(axis);
  CHECK(limit(e, "drive.rms").state == LimitState::over);
  CHECK(limit(e, "drive.peak_time").state == LimitState::over);
}

TEST_CASE("house rules that are wrong are named, not used") {
  Section rules = house_rules();
  rules.type("inertia_max", "-3");
  CHECK_THAT(evaluate(picker(), rules).problem().text(), Contains("house_rules.inertia_max"));
}

TEST_CASE("second look") {
  // nothing to say about a healthy axis: every warning is silent there, and each speaks up below
  for (const Warning& warning : evaluated(picker()).warnings) UNSCOPED_INFO(warning.id);
  CHECK(evaluated(picker()).warnings.empty());
  const auto after = [](std::string_view slot, std::string_view field, std::string_view text) {
    Axis axis = picker();
    axis[slot].type(field, text);
    return evaluated(axis);
  };
  CHECK(warns(after("brake", "fitted", "no"), "vertical_without_brake"));
  CHECK(warns(after("mechanism", "efficiency", "1"), "efficiency_one"));
  CHECK(warns(after("motor", "kt_per", ""), "convention_missing"));
  CHECK(warns(after("motor", "kt_per", "peak"), "kt_ke_disagree"));
  CHECK(warns(after("motor", "winding_as", ""), "winding_kind_unknown"));
  CHECK(warns(after("coupling", "inertia", ""), "coupling_neglected"));
  CHECK(warns(after("surroundings", "bus_low", "15 V"), "bus_below_drive"));
  CHECK(warns(after("motor", "inertia", "50 kg.cm2"), "rotor_dominates"));
  Axis axis = picker();
  axis["load"].type("friction", "0");
  axis["load"].type("seal_drag", "0 N");
  CHECK(warns(evaluated(axis), "friction_zero"));
  axis = picker();
  axis.cycle.erase(axis.cycle.begin() + 1);
  axis.cycle.erase(axis.cycle.begin() + 2);
  number_sections(axis);
  CHECK(warns(evaluated(axis), "dwell_share"));
  axis = picker();
  axis.cycle[3].type("time", "30 s");
  CHECK(warns(evaluated(axis), "dwell_share"));
  axis = picker();
  axis.cycle[0].type("distance", "-140 mm");
  CHECK(warns(evaluated(axis), "open_cycle"));
  axis = picker();
  axis["brake"].type("fitted", "no");
  axis.cycle[1].type("held_by", "brake");
  CHECK(warns(evaluated(axis), "dwell_on_missing_brake"));
  axis = picker();
  for (const char* field : {"moved_mass", "angle", "friction", "seal_drag"}) {
    Entry entry = axis["load"].entry(field);
    entry.origin = Origin::guess;
    axis["load"].put(field, entry);
  }
  for (const char* field : {"lead", "diameter", "length"}) {
    Entry entry = axis["mechanism"].entry(field);
    entry.origin = Origin::guess;
    axis["mechanism"].put(field, entry);
  }
  CHECK(warns(evaluated(axis), "everything_guessed"));
  axis = picker();
  choose_part(axis, "motor", *library().find("motor", "CR80-1000-048L"));
  CHECK(warns(evaluated(axis), "motor_too_big"));
  const auto too_big = [&] {
    for (const Warning& warning : evaluated(axis).warnings)
      if (warning.id == "motor_too_big") return warning;
    return Warning();
  };
  CHECK(too_big().title == "The motor is far too big");
  CHECK(too_big().input == "motor.part_number");
  // where its rotor is needed the way to a smaller one leads over the ratio
  axis["motor"].type("brake_inertia", "0 kg.cm2");
  axis["motor"].type("inertia", std::to_string(1e4 * evaluated(axis).demand.load_inertia / 4.0) + " kg.cm2");
  REQUIRE(evaluated(axis).demand.inertia_ratio > 2.5);
  REQUIRE(evaluated(axis).demand.inertia_ratio < 5.0);
  CHECK(too_big().title == "Far more torque than is needed");
  CHECK(too_big().input == "gearhead.ratio");
  axis["drive"].type("weakening", "yes");
  axis["drive"].type("overvoltage", "20 V");
  CHECK(warns(evaluated(axis), "emf_overvoltage"));
  axis = picker();
  axis["load"].type("static_friction", "1");
  axis["load"].type("angle", "0 deg");
  axis["load"].type("moved_mass", "100 kg");
  CHECK(warns(evaluated(axis), "breakaway"));
}

TEST_CASE("the size of a wrong torque constant is named for what it looks like") {
  Axis axis = picker();
  axis["motor"].type("kt", "0.0711*0.7071 N.m/A");
  for (const Warning& w : evaluated(axis).warnings)
    if (w.id == "kt_ke_disagree") CHECK_THAT(w.reason, Contains("per peak ampere"));
  CHECK(warns(evaluated(axis), "kt_ke_disagree"));
}

TEST_CASE("the working leads from every result down to inputs") {
  const Axis axis = picker();
  const Evaluation e = evaluated(axis);
  for (const ResultValue& result : e.results) {
    INFO(result.id);
    const Step* step = e.step_behind(result.id);
    REQUIRE(step != nullptr);
    CHECK(step->value == Approx(result.value).epsilon(1e-12));
  }
  std::set<std::string_view> inputs;
  for (const Step* step : chain_of(e.steps, "demand.peak_torque"))
    for (const Term& term : step->terms)
      if (!describe_path(axis, term.ref).empty()) inputs.insert(term.ref);
  for (const char* needed :
       {"load.moved_mass", "load.angle", "load.friction", "load.seal_drag", "mechanism.lead",
        "mechanism.diameter", "mechanism.length", "mechanism.efficiency", "mechanism.drag", "motor.inertia",
        "cycle[2].distance", "cycle[2].time"}) {
    INFO(needed);
    CHECK(inputs.contains(needed));
  }
}

TEST_CASE("recording changes no number") {
  RandomAxes random(22);
  for (int i = 0; i < 50; ++i) {
    const Evaluation e = evaluated(random.next());
    Recorder silent(false);
    const Instant now = e.model->at(e.demand.peak_at.piece, e.demand.peak_at.tau, silent);
    CHECK(std::abs(now.torque.value) == value(e, "demand.peak_torque"));
  }
}

TEST_CASE("working as text shows symbols, numbers, units and source") {
  const Evaluation e = evaluated(picker());
  const std::string text = explain(e.steps, "demand.peak_torque", UnitSet::si);
  CHECK_THAT(text, Contains("T = F·p/(2π·η)"));
  CHECK_THAT(text, Contains("99.90 N·10.00 mm/(2π·"));
  CHECK_THAT(text, Contains("source: virtual work"));
  CHECK_THAT(text, Contains("← load.moved_mass"));
}

TEST_CASE("the formula book is complete and unambiguous") {
  std::set<std::string_view> ids;
  for (const Formula* f : formula_book()) {
    INFO(f->id);
    CHECK(ids.insert(f->id).second);
    CHECK_FALSE(f->source.empty());
    CHECK_FALSE(f->title.empty());
    CHECK(in_symbols(*f).find('{') == std::string::npos);
    for (const Parameter& p : f->parameters) CHECK_FALSE(p.meaning.empty());
    CHECK(find_formula(f->id) == f);
  }
  for (const Step& step : evaluated(picker()).steps) CHECK(find_formula(step.formula->id) == step.formula);
}

TEST_CASE("properties: mirror, unit of entry, cutting a dwell, scale") {
  RandomAxes random(23);
  for (int i = 0; i < 60; ++i) {
    Axis axis = random.next();
    const Evaluation e = evaluated(axis);
    // turning axis and moves round leaves every magnitude as it was
    Axis mirrored = axis;
    const double angle = axis["load"].term("angle");
    char text[40];
    std::snprintf(text, sizeof text, "%.17g rad", -angle);
    mirrored["load"].type("angle", text);
    for (Section& s : mirrored.cycle)
      if (s.spec().id == "move") {
        std::snprintf(text, sizeof text, "%.17g m", -s.term("distance").value);
        s.type("distance", text);
      }
    CHECK(value(evaluated(mirrored), "demand.rms_torque") ==
          Approx(value(e, "demand.rms_torque")).epsilon(1e-9));
    CHECK(value(evaluated(mirrored), "demand.peak_torque") ==
          Approx(value(e, "demand.peak_torque")).epsilon(1e-9));
    // another unit of entry
    Axis inches = axis;
    std::snprintf(text, sizeof text, "%.17g in", axis["mechanism"].term("lead") / 0.0254);
    inches["mechanism"].type("lead", text);
    CHECK(value(evaluated(inches), "demand.rms_torque") ==
          Approx(value(e, "demand.rms_torque")).epsilon(1e-12));
    // a dwell cut in two
    Axis one = axis, two = axis;
    add_dwell(one, "0.5 s");
    add_dwell(two, "0.2 s");
    add_dwell(two, "0.3 s");
    CHECK(value(evaluated(two), "demand.rms_torque") ==
          Approx(value(evaluated(one), "demand.rms_torque")).epsilon(1e-12));
  }
}

TEST_CASE("braking at the voltage limit gives more than motoring") {
  for (const Section& part : parts_of_form("motor", servo_motor_section())) {
    Recorder silent(false);
    const ServoMotor motor = ServoMotor::from(part, silent);
    const MotorSupply supply{voltage_limit(48.0, 0.95), std::numeric_limits<double>::infinity(), false};
    for (const double share : {0.1, 0.5, 0.9})
      CHECK(motor.peak_torque(share * motor.max_speed, supply, true) >=
            motor.peak_torque(share * motor.max_speed, supply, false));
  }
}
