// Heat, stops, springs, accuracy, corners, house rules and what is often forgotten: as limits and results of
// an axis.

#include "core/asked.hpp"
#include "core/evaluation/corners.hpp"
#include "core/evaluation/heat_picture.hpp"
#include "core/evaluation/rule_changes.hpp"
#include "core/library/house_rule_sets.hpp"
#include "core/quantity/constants.hpp"
#include "support/axes.hpp"

#include <catch2/catch.hpp>

#include <algorithm>
#include <cmath>

using namespace fulmox;
using namespace fulmox::testing;

namespace {} // namespace

TEST_CASE("heat: hotter air, thin steel and a brake's coil all show, and data missing are named") {
  const Axis axis = picker();
  const double now = value(evaluated(axis), "heat.hottest");
  Axis warm = axis;
  warm["surroundings"].type("ambient", "60 degC");
  CHECK(value(evaluated(warm), "heat.hottest") > now + 14.0); // 45 °C before
  Axis thin = axis;
  thin["surroundings"].type("mounting", "thin");
  CHECK(value(evaluated(thin), "heat.case") > value(evaluated(axis), "heat.case") + 2.0);
  CHECK(limit(evaluated(thin), "motor.rms").capacity < limit(evaluated(axis), "motor.rms").capacity);
  Axis coil = axis;
  coil["brake"].type("power", "12 W");
  CHECK(value(evaluated(coil), "heat.case") > value(evaluated(axis), "heat.case") + 3.0);
  Axis high = axis;
  high["surroundings"].type("altitude", "2500 m");
  CHECK(value(evaluated(high), "heat.hottest") > now + 1.0);
  Axis gap = axis;
  gap["motor"].type("winding_limit", "");
  CHECK(limit(evaluated(gap), "motor.winding").state == LimitState::not_judged);
  CHECK(limit(evaluated(gap), "motor.winding").input == "motor.winding_limit");
}

TEST_CASE("heat estimated from the rated point errs on the hot side, and says that it is estimated") {
  for (const std::size_t index : {std::size_t{0}, std::size_t{2}, std::size_t{6}}) {
    const Axis axis = demo().axes[index];
    const double known = value(evaluated(axis), "heat.hottest") - axis["surroundings"].term("ambient");
    Axis guessed = axis;
    for (const char* field : {"r_winding_case", "r_case_ambient", "winding_time", "case_time"})
      guessed["motor"].type(field, "");
    const Evaluation e = evaluated(guessed);
    INFO(axis.name);
    CHECK(e.demand.heat.estimated);
    CHECK(limit(e, "motor.winding").rule.find("estimated") != std::string::npos);
    const double rise = e.demand.heat.hottest - axis["surroundings"].term("ambient");
    const Motor& motor = *e.model->motor;
    const double all = (motor.winding_limit - motor.catalogue_ambient) / motor.rated_loss();
    const bool brushed = motor.phases().number == 1.0;
    for (const double share : {brushed ? 0.5 : 0.25, brushed ? 0.65 : 0.4, brushed ? 0.8 : 0.55}) {
      Axis told = guessed; // every likely share is at most as hot as the estimate
      told["motor"].type("r_winding_case", std::to_string(share * all) + " K/W");
      told["motor"].type("r_case_ambient", std::to_string((1.0 - share) * all) + " K/W");
      CHECK(value(evaluated(told), "heat.hottest") <= e.demand.heat.hottest + 0.3);
    }
    CHECK(rise > 0.8 * known);
    CHECK(rise < 3.0 * known);
    guessed["motor"].type("mass", "");
    CHECK(evaluated(guessed).demand.heat.gap->input == "motor.winding_time");
  }
}

TEST_CASE("a winding that gets too hot says when, one that runs away says so") {
  Axis axis = picker();
  axis["motor"].type("resistance", "9 Ohm");
  axis["load"].type("moved_mass", "17 kg");
  const Evaluation hot = evaluated(axis);
  REQUIRE(limit(hot, "motor.winding").state == LimitState::over);
  CHECK(value(hot, "heat.time_to_limit") > 0.0);
  axis["motor"].type("resistance", "60 Ohm");
  const Evaluation away = evaluated(axis);
  CHECK(away.demand.heat.steady.runs_away);
  CHECK(std::isinf(limit(away, "motor.winding").used));
  CHECK(away.find("heat.hottest") == nullptr);
  CHECK(value(away, "heat.time_to_limit") < value(hot, "heat.time_to_limit"));
  CHECK(heat_picture(away).cycle.empty());
  CHECK(heat_picture(away).from_cold.size() > 2);
  // the first minutes finely, the hours coarsely, one after the other
  const auto cold = heat_picture(evaluated(picker())).from_cold;
  CHECK(cold[1].time < 4.0);
  CHECK(cold.back().time >= 4.0 * 3600.0);
  for (std::size_t i = 1; i < cold.size(); ++i) CHECK(cold[i].time > cold[i - 1].time);
}

TEST_CASE("held for ever: judged without a brake, 0.845 of the continuous torque at usual shares") {
  Axis axis = picker();
  CHECK_FALSE(has_limit(evaluated(axis), "motor.hold"));
  axis["brake"].type("fitted", "no");
  const Evaluation e = evaluated(axis);
  const Limit& hold = limit(e, "motor.hold");
  CHECK(hold.demand == Approx(value(e, "hold.torque")));
  const double wc = axis["motor"].term("r_winding_case"), ca = axis["motor"].term("r_case_ambient");
  const double standstill = e.model->motor->continuous_torque(0.0);
  CHECK(hold.capacity < standstill * std::sqrt((wc + ca) / (2.0 * wc + ca)) * (1.0 + 1e-9));
  axis["load"].type("angle", "0 deg");
  CHECK_FALSE(has_limit(evaluated(axis), "motor.hold"));
}

TEST_CASE("stops: a weak or slow brake, its energy and speed, the room that is left") {
  Axis axis = picker();
  const double travel = value(evaluated(axis), "stop.travel");
  Axis slow = axis;
  slow["brake"].type("delay", "150 ms");
  CHECK(value(evaluated(slow), "stop.travel") > travel);
  CHECK(value(evaluated(slow), "stop.drop") > 4.0 * value(evaluated(axis), "stop.drop"));
  Axis weak = axis;
  weak["brake"].type("torque", "0.12 N.m");
  const Evaluation falls = evaluated(weak);
  CHECK(limit(falls, "brake.stop").state == LimitState::over); // 0.6 of it is less than what pulls
  CHECK(falls.find("stop.travel") == nullptr);                 // it never stops
  weak["requirements"].type("room", "10 m");
  CHECK(limit(evaluated(weak), "stop.room").state == LimitState::over);
  axis["brake"].type("stop_energy", "8 J");
  axis["brake"].type("max_speed", "3000 rpm");
  axis["requirements"].type("room", "0.2 m");
  const Evaluation e = evaluated(axis);
  CHECK(limit(e, "brake.energy").used == Approx(value(e, "stop.brake_energy") / 8.0));
  CHECK(limit(e, "brake.speed").state == LimitState::over);
  CHECK(limit(e, "stop.room").used == Approx(travel / 0.2));
  axis["brake"].type("fitted", "no");
  CHECK(limit(evaluated(axis), "stop.room").state == LimitState::not_judged);
}

TEST_CASE("the end stop: only where it may be met, softer springs bear it better") {
  Axis axis = demo().axes[2];
  CHECK_FALSE(has_limit(evaluated(axis), "gear.jam"));
  axis["requirements"].type("end_speed", "50 mm/s");
  const Evaluation slow = evaluated(axis);
  const double gear = limit(slow, "gear.jam").demand;
  CHECK(limit(slow, "coupling.jam").demand == Approx(gear));
  axis["requirements"].type("end_speed", "500 mm/s");
  CHECK(limit(evaluated(axis), "gear.jam").demand > gear);
  Axis crank = axis_on("crank"); // the same travel is much or little of a turn there: nothing is promised
  crank["load"].type("moved_mass", "3 kg");
  add_move(crank, "20 mm", "0.5 s", "1/3", "1/3");
  add_move(crank, "-20 mm", "0.5 s", "1/3", "1/3");
  crank["coupling"] = axis["coupling"];
  crank["motor"] = axis["motor"];
  crank["requirements"].type("end_speed", "50 mm/s");
  const auto turned = evaluate(crank, house_rules());
  INFO((turned ? std::string() : turned.problem().text()));
  REQUIRE(turned);
  REQUIRE(turned->model->load->mechanism->travel() == Kind::length);
  CHECK(limit(*turned, "coupling.jam").state == LimitState::not_judged);
  const double hard = limit(evaluated(axis), "gear.jam").demand;
  axis["requirements"].type("stop_stiffness", "20 N/mm");
  CHECK(limit(evaluated(axis), "gear.jam").demand < hard);
}

TEST_CASE("a current limit spares head and coupling: proposed, set, and then judged by") {
  Axis axis = demo().axes[2];
  axis["coupling"].type("rated_torque", "6 N.m");
  const Evaluation before = evaluated(axis);
  const double proposed = value(before, "protect.current");
  const double most =
      std::min(axis["drive"].term("peak_current").value, axis["motor"].term("peak_current").value);
  CHECK(proposed < most);
  const Motor& motor = *before.model->motor;
  CHECK(motor.torque_of_current(proposed) * before.model->gear.ratio <= 6.0 * (1.0 + 1e-9));
  const double overload = limit(before, "drive.peak_time").capacity;
  axis["drive"].type("current_limit", std::to_string(0.99 * proposed) + " A");
  const Evaluation after = evaluated(axis);
  CHECK(after.find("protect.current") == nullptr);
  CHECK(limit(after, "gear.estop").demand < limit(before, "gear.estop").demand);
  CHECK(limit(after, "drive.peak").capacity == Approx(0.99 * proposed));
  CHECK(limit(after, "motor.peak").capacity < limit(before, "motor.peak").capacity);
  CHECK(limit(after, "drive.peak_time").capacity == Approx(overload)); // the drive itself stays what it is
  axis["drive"].type("current_limit", "900 A");                        // more than it has: no matter
  CHECK(limit(evaluated(axis), "drive.peak").capacity == Approx(axis["drive"].term("peak_current").value));
}

TEST_CASE("bandwidth: what the antiresonance leaves over the house's share") {
  Axis axis = picker();
  CHECK_FALSE(has_limit(evaluated(axis), "compliance"));
  axis["requirements"].type("bandwidth", "60 Hz");
  const Evaluation e = evaluated(axis);
  CHECK(limit(e, "compliance").used == Approx(60.0 * 3.0 / value(e, "compliance.antiresonance")));
}

TEST_CASE("corners: two spreads are tried in full, on the grid and between") {
  Axis axis = picker();
  axis["load"].type("friction", "0.1 ±50%");
  axis["motor"].type("kt", axis["motor"].text("kt") + " ±10%");
  axis["mechanism"].type("efficiency", "0.9");
  const auto found = corners(axis, house_rules());
  REQUIRE(found);
  CHECK(found->spreads == std::vector<std::string>{"load.friction", "motor.kt"});
  CHECK(found->tried == 25);
  const double kt = axis["motor"].term("kt");
  for (const LimitCorner& corner : found->limits) {
    double worst = 0.0;
    for (const double mu : {0.05, 0.06, 0.075, 0.1, 0.1375, 0.15})
      for (const double k : {0.9, 0.95, 1.0, 1.05, 1.1}) {
        Axis there = axis;
        there["load"].type("friction", std::to_string(mu));
        there["motor"].type("kt", std::to_string(k * kt) + " N.m/A");
        const Evaluation e = evaluated(there);
        worst = std::max(worst, limit(e, corner.id).used);
      }
    INFO(corner.id);
    CHECK(corner.now == limit(evaluated(axis), corner.id).state);
    CHECK(corner.worst == Approx(worst).epsilon(1e-4));
    CHECK(corner.worst >= corner.nominal);
  }
  const auto rms = std::find_if(found->limits.begin(), found->limits.end(),
                                [](const auto& l) { return l.id == "drive.rms"; });
  REQUIRE(rms != found->limits.end());
  CHECK(rms->mainly == "motor.kt");
  CHECK(rms->at.size() == 2);
}

TEST_CASE("corners: many spreads are taken at the end that is worse for each limit") {
  Axis axis = picker();
  axis["load"].type("friction", "0.1 ±50%");
  axis["load"].type("moved_mass", "6 kg ±5%");
  axis["motor"].type("kt", axis["motor"].text("kt") + " ±10%");
  axis["surroundings"].type("ambient", "40 degC ±8 K");
  axis["mechanism"].type("efficiency", "0.9 ±3%");
  const auto found = corners(axis, house_rules());
  REQUIRE(found);
  CHECK(found->spreads.size() == 5);
  CHECK(found->tried > 11);
  // the same by all 3^5 combinations would be 243; the ends alone, by hand
  const auto shares = [&](std::string_view id, const char* mass, const char* ambient, double k) {
    Axis there = axis;
    there["load"].type("moved_mass", mass);
    there["surroundings"].type("ambient", ambient);
    there["motor"].type("kt", std::to_string(k * axis["motor"].term("kt")) + " N.m/A");
    return limit(evaluated(there), id).used;
  };
  for (const LimitCorner& corner : found->limits)
    if (corner.id == "motor.winding")
      CHECK(corner.worst > shares("motor.winding", "6.3 kg", "48 degC", 0.9) * (1.0 - 1e-6));
  Axis bare = picker();
  for (const char* field : {"friction", "efficiency"})
    for (const char* slot : {"load", "mechanism"})
      if (bare[slot].has(field)) bare[slot].type(field, field[0] == 'f' ? "0.01" : "0.9");
  const auto none = corners(bare, house_rules());
  REQUIRE(none);
  CHECK(none->tried == 1);
  CHECK(none->spreads.empty());
}

TEST_CASE("house rules: what another set would change, and one's own kept in a file") {
  Document document = demo();
  const auto sets = load_house_rules(source_folder() / "data" / "house-rules");
  REQUIRE(sets);
  CHECK(rule_changes(document, document.house_rules).empty());
  Section strict = document.house_rules;
  strict.type("inertia_max", "1");
  const auto changes = rule_changes(document, strict);
  REQUIRE_FALSE(changes.empty());
  for (const RuleChange& change : changes) {
    CHECK(change.limit == "Inertia ratio");
    CHECK(change.then == LimitState::over);
    CHECK(change.used_then == Approx(5.0 * change.used_now));
  }
  CHECK(differing_rules(document.house_rules, strict) ==
        std::vector<std::size_t>{*strict.spec().index_of("inertia_max")});
  Section faulty = strict;
  faulty.type("inertia_max", "many");
  CHECK(rule_changes(document, faulty).empty());
  const TemporaryFolder folder;
  strict.type("name", "my own");
  REQUIRE_FALSE(write_house_rules(folder.file("own.json"), strict));
  const auto back = read_house_rules(folder.file("own.json"));
  REQUIRE(back);
  CHECK(*back == strict);
  CHECK_FALSE(read_house_rules(folder.file("none.json")));
}

TEST_CASE("often forgotten: each item is open, answered or no matter, and leads to an input") {
  Axis axis = picker();
  for (const Forgotten& item : often_forgotten(axis, evaluated(axis))) {
    INFO(item.id);
    CHECK_FALSE(describe_path(axis, item.input).empty());
  }
  struct Answer {
    const char *id, *slot, *field, *text;
  };
  for (const Answer& a : {Answer{"room", "requirements", "room", "0.2 m"},
                          Answer{"tolerance", "requirements", "tolerance", "0.1 mm"},
                          Answer{"bandwidth", "requirements", "bandwidth", "40 Hz"},
                          Answer{"end_speed", "requirements", "end_speed", "20 mm/s"},
                          Answer{"warming", "requirements", "warming", "8 K"},
                          Answer{"brake_energy", "brake", "stop_energy", "20 J"},
                          Answer{"nut_stiffness", "mechanism", "nut_stiffness", "90 N/um"},
                          Answer{"magnets", "motor", "magnet", "NdFeB"},
                          Answer{"static_friction", "load", "static_friction", "0.02"}}) {
    INFO(a.id);
    CHECK(open(axis, a.id));
    axis[a.slot].type(a.field, a.text);
    CHECK_FALSE(open(axis, a.id));
  }
  CHECK_FALSE(open(axis, "no_brake"));
  axis["brake"].type("fitted", "no");
  CHECK(open(axis, "no_brake"));
  CHECK_FALSE(open(axis, "brake_energy"));
  for (const char* constant : {"kt", "ke"}) { // without constants no current is told
    CHECK_FALSE(axis["motor"].blank(constant));
    axis["motor"].type(constant, "");
  }
  axis["motor"].type("magnet", "");
  CHECK_FALSE(open(axis, "magnets"));
  const Axis table = demo().axes[3]; // turns
  CHECK(open(table, "tolerance_angle"));
  CHECK_FALSE(open(table, "tolerance"));
}

TEST_CASE("bad values of heat, brakes, springs and accuracy are refused where they are typed") {
  Axis axis = picker();
  struct Bad {
    const char *slot, *field, *text;
  };
  for (const Bad& b :
       {Bad{"surroundings", "ambient", "-300 degC"}, Bad{"requirements", "tolerance", "0 mm"},
        Bad{"requirements", "bandwidth", "0 Hz"}, Bad{"requirements", "stop_stiffness", "-5 N/mm"},
        Bad{"coupling", "stiffness", "-1 N.m/rad"}, Bad{"mechanism", "nut_stiffness", "0 N/um"},
        Bad{"brake", "delay", "-1 s"}, Bad{"brake", "in_motion", "0 %"},
        Bad{"motor", "r_winding_case", "0 K/W"}, Bad{"motor", "winding_time", "-3 s"}}) {
    Axis wrong = axis;
    wrong[b.slot].type(b.field, b.text);
    INFO(b.slot << "." << b.field << " = " << b.text);
    const auto all = faults(wrong);
    REQUIRE(all.size() == 1);
    CHECK(all.front().where == std::string(b.slot) + "." + b.field);
    CHECK_FALSE(all.front().remedy.empty());
    CHECK_FALSE(evaluate(wrong, house_rules()));
  }
  axis["motor"].type("winding_limit", "30 degC"); // below the catalogue's ambient
  CHECK(evaluated(axis).demand.heat.gap->input == "motor.winding_limit");
}
