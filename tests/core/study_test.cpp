// Studies: laws compared, ratio swept, sensitivities.

#include "core/demand/load_keeper.hpp"
#include "core/motion/law.hpp"
#include "core/study/law_study.hpp"
#include "core/study/ratio_study.hpp"
#include "core/study/sensitivity.hpp"
#include "core/ways/way_judge.hpp"
#include "support/axes.hpp"

#include <catch2/catch.hpp>

#include <cmath>
#include <set>

using namespace fulmox;
using namespace fulmox::testing;

namespace {

Axis inertia_only() {
  Axis axis = axis_on("general");
  axis["load"].type("inertia", "0.1 kg.m2");
  axis["load"].type("friction_torque", "0 N.m");
  add_segment(axis, "move", {{"distance", "180 deg"}, {"time", "0.6 s"}});
  add_segment(axis, "dwell", {{"time", "0.4 s"}});
  return axis;
}

const Influence& of(const std::vector<Influence>& all, std::string_view path) {
  for (const Influence& influence : all)
    if (influence.path == path) return influence;
  FAIL("no influence " << path);
  std::abort();
}

} // namespace

TEST_CASE("quick numbers are those of the full evaluation") {
  RandomAxes random(81);
  for (const MechanismSpec* spec : mechanism_specs()) {
    const Axis axis = random.next_on(spec->section.id);
    const Evaluation e = evaluated(axis);
    const auto numbers = quick(axis);
    REQUIRE(numbers);
    CHECK(numbers->peak_torque == Approx(value(e, "demand.peak_torque")).epsilon(1e-9));
    CHECK(numbers->rms_torque == Approx(value(e, "demand.rms_torque")).epsilon(1e-9));
    CHECK(numbers->max_speed == Approx(value(e, "demand.max_speed")).epsilon(1e-12));
    CHECK(numbers->inertia_ratio == Approx(value(e, "demand.ratio")).epsilon(1e-12));
  }
}

TEST_CASE("for an inertia the parabola has the least rms, the triangle the least peak") {
  const auto choices = compare_laws(inertia_only(), 0);
  REQUIRE(choices);
  CHECK(choices->size() == 1 + law_specs().size() + 3);
  std::string rms, peak;
  double thirds = 0.0, best = 0.0;
  for (const LawChoice& choice : *choices) {
    if (choice.least_rms) rms = choice.law;
    if (choice.least_peak) peak = choice.label;
    if (choice.label == "Trapezoid, thirds") thirds = choice.numbers.rms_torque;
    if (choice.label == "Trapezoid, least rms") best = choice.numbers.rms_torque;
  }
  CHECK(rms == "parabolic");
  CHECK((peak == "Triangle" || peak == "Trapezoid, least peak"));
  // thirds are the best of all trapezoids for an inertia: the search finds nothing better
  CHECK(best == Approx(thirds).epsilon(1e-4));
  CHECK(choices->front().present);
  CHECK(choices->front().numbers.rms_torque == Approx(thirds).epsilon(1e-9));
}

TEST_CASE("a law taken over gives the numbers that were promised") {
  Axis axis = demo().axes[2];
  const auto choices = compare_laws(axis, 0);
  REQUIRE(choices);
  const double time = evaluated(axis).model->load->cycle.facts[0].time;
  for (const LawChoice& choice : *choices) {
    if (choice.present) continue;
    Axis changed = axis;
    use_law(changed.cycle[0], choice, time);
    const auto numbers = quick(changed, 0);
    REQUIRE(numbers);
    CHECK(numbers->rms_torque == Approx(choice.numbers.rms_torque).epsilon(1e-9));
    CHECK(numbers->peak_torque == Approx(choice.numbers.peak_torque).epsilon(1e-9));
  }
  CHECK_FALSE(compare_laws(axis, 1));
  CHECK_FALSE(compare_laws(axis, 99));
}

TEST_CASE("jerk is without bound where acceleration jumps, and the number of the law where it does not") {
  Axis axis = inertia_only();
  CHECK(std::isinf(quick(axis)->peak_jerk));
  axis.cycle[0].type("law", "345");
  CHECK(std::isinf(quick(axis)->peak_jerk) == false);
  CHECK(quick(axis)->peak_jerk == Approx(60.0 * M_PI / std::pow(0.6, 3)).epsilon(1e-6));
}

TEST_CASE("sensitivities of a pure inertia are whole numbers") {
  const auto all = sensitivities(inertia_only());
  REQUIRE(all);
  CHECK(of(*all, "load.inertia").peak == Approx(1.0).epsilon(1e-4));
  CHECK(of(*all, "load.inertia").rms == Approx(1.0).epsilon(1e-4));
  CHECK(of(*all, "cycle[0].distance").peak == Approx(1.0).epsilon(1e-4));
  CHECK(of(*all, "cycle[0].time").peak == Approx(-2.0).epsilon(1e-4));
  // ∫T² goes with t⁻³, the cycle is 0.6 of it: −3/2 − 0.6/2
  CHECK(of(*all, "cycle[0].time").rms == Approx(-1.8).epsilon(1e-3));
  CHECK(of(*all, "cycle[1].time").rms == Approx(-0.2).epsilon(1e-3));
  CHECK(of(*all, "gearhead.ratio").rms == Approx(-1.0).epsilon(1e-4));
}

TEST_CASE("slopes agree with a wider difference, and a typed tolerance is swung exactly") {
  const Axis axis = demo().axes[0];
  const auto all = sensitivities(axis);
  REQUIRE(all);
  const double now = value(evaluated(axis), "demand.rms_torque");
  for (const char* path : {"load.moved_mass", "mechanism.lead", "mechanism.diameter", "cycle[2].time"}) {
    const Influence& influence = of(*all, path);
    const double h = 1e-3;
    const auto at = [&](double factor) {
      return value(evaluated(*with_input(axis, path, influence.value * factor)), "demand.rms_torque");
    };
    CHECK(influence.rms == Approx((at(1.0 + h) - at(1.0 - h)) / (2.0 * h) / now).epsilon(1e-3).margin(1e-5));
  }
  const Influence& friction = of(*all, "load.friction");
  CHECK(friction.tolerance_typed);
  CHECK(friction.tolerance == Approx(0.005));
  CHECK(friction.rms_high ==
        Approx(value(evaluated(*with_input(axis, "load.friction", 0.015)), "demand.rms_torque")));
  for (std::size_t i = 1; i < all->size(); ++i) CHECK((*all)[i - 1].swing >= (*all)[i].swing);
  std::set<std::string> paths;
  for (const Influence& influence : *all) CHECK(paths.insert(influence.path).second);
}

TEST_CASE("a zero with a tolerance is swung too, in numbers but not in percent of itself") {
  Axis axis = demo().axes[2]; // a level gantry
  axis["load"].type("angle", "0 deg ±2 deg");
  const auto all = sensitivities(axis);
  REQUIRE(all);
  const Influence& angle = of(*all, "load.angle");
  CHECK(std::isnan(angle.peak));
  Axis tilted = axis;
  tilted["load"].type("angle", "2 deg");
  CHECK(angle.peak_high == Approx(value(evaluated(tilted), "demand.peak_torque")));
  CHECK(angle.ratio_high == Approx(evaluated(axis).demand.inertia_ratio));
  axis["load"].type("angle", "0 deg");
  const auto without = sensitivities(axis);
  for (const Influence& influence : *without) CHECK(influence.path != "load.angle");
}

TEST_CASE("an input tried is the input typed, and no path that names none") {
  const Axis axis = demo().axes[0];
  Axis typed = axis;
  typed["load"].type("moved_mass", "7.5 kg");
  CHECK(value(evaluated(*with_input(axis, "load.moved_mass", 7.5)), "demand.peak_torque") ==
        Approx(value(evaluated(typed), "demand.peak_torque")));
  CHECK_FALSE(with_input(axis, "load.nothing", 1.0));
  CHECK_FALSE(with_input(axis, "nowhere.moved_mass", 1.0));
  CHECK_FALSE(with_input(axis, "load", 1.0));
  CHECK_FALSE(with_input(axis, "motor.part_number", 1.0));
}

TEST_CASE("a ratio sweep passes through the present ratio's own numbers") {
  const Axis axis = demo().axes[2];
  const auto sweep = sweep_ratio(axis, 2.5, 10.0, 2);
  REQUIRE(sweep);
  REQUIRE(sweep->points.size() == 3);
  CHECK(sweep->points[1].ratio == Approx(5.0));
  CHECK(sweep->points[1].with_motor.rms_torque ==
        Approx(value(evaluated(axis), "demand.rms_torque")).epsilon(1e-9));
  CHECK(sweep->points[1].bare.rms_torque < sweep->points[1].with_motor.rms_torque);
  CHECK(sweep->points[2].with_motor.max_speed == Approx(2.0 * sweep->points[1].with_motor.max_speed));
}

namespace {

/// Every section of an axis: slots and lists.
std::vector<Section*> sections_of(Axis& axis) {
  std::vector<Section*> all;
  for (Section& section : axis.givens) all.push_back(&section);
  for (const ListInfo& list : section_lists())
    for (Section& section : axis.*list.member) all.push_back(&section);
  return all;
}

void check_same_limits(const std::optional<std::vector<Limit>>& a,
                       const std::optional<std::vector<Limit>>& b) {
  REQUIRE(a.has_value() == b.has_value());
  if (!a) return;
  REQUIRE(a->size() == b->size());
  for (std::size_t i = 0; i < a->size(); ++i) {
    const Limit &one = (*a)[i], &other = (*b)[i];
    CAPTURE(one.id);
    CHECK(one.state == other.state);
    CHECK(!(one.used < other.used || one.used > other.used));
    CHECK(!(one.demand < other.demand || one.demand > other.demand));
  }
}

} // namespace

TEST_CASE("whichever input changes, a load's side that is kept belongs to the axis") {
  const Document machine = demo();
  for (const Axis& given : machine.axes) {
    Axis axis = given;
    axis["requirements"].type("bandwidth", "5 Hz"); // nothing else of what is asked is told there
    WayJudge keeps(machine.house_rules);
    keeps(axis);
    for (Section* section : sections_of(axis))
      for (std::size_t i = 0; i < section->size(); ++i) {
        const Entry typed = section->entry(i);
        if (section->field(i).type != FieldType::quantity || !std::isfinite(typed.value)) continue;
        CAPTURE(axis.name, section->path, section->field(i).id);
        const Section before = *section;
        section->put(i, with_value(typed, 1.1 * typed.value + 1e-3));
        check_same_limits(keeps(axis), WayJudge(machine.house_rules)(axis));
        *section = before;
        keeps(axis); // the next one finds the load's side of the axis as it was
      }
  }
}

TEST_CASE("a load's side is made anew for what it is made from, and for nothing else") {
  Axis axis = demo().axes[2];
  LoadKeeper keeper;
  const auto first = keeper(axis);
  REQUIRE(first);
  for (const std::string_view slot : {"motor", "gearhead", "drive", "brake", "surroundings"})
    for (std::size_t i = 0; i < axis[slot].size(); ++i)
      if (axis[slot].field(i).type == FieldType::quantity && std::isfinite(axis[slot].entry(i).value))
        axis[slot].put(i, with_value(axis[slot].entry(i), 1.01 * axis[slot].entry(i).value));
  const auto kept = keeper(axis);
  REQUIRE(kept);
  CHECK(*kept == *first);
  const Axis before = axis;
  axis["motor"].type("peak_curve", "not a curve");
  CHECK_FALSE(keeper(axis)); // a fault is told wherever it stands
  axis = before;
  axis["load"].type("moved_mass", "19 kg");
  const auto other = keeper(axis);
  REQUIRE(other);
  CHECK(*other != *first);
}
