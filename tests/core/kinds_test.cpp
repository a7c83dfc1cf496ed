// Kinds of motor on one axis: each candidate against the plain search, figures against the full evaluation,
// and the sentences that decide.

#include "core/evaluation/corners.hpp"
#include "core/match/kind_curves.hpp"
#include "core/match/kinds.hpp"
#include "core/quantity/constants.hpp"
#include "support/axes.hpp"

#include <catch2/catch.hpp>

#include <algorithm>
#include <cmath>

using namespace fulmox;
using namespace fulmox::testing;
using Catch::Contains;

namespace {

using Side = KindReason::Side;

/// The parts whose numbers begin so.
Library
beginning_with(const std::vector<std::pair<std::string_view, std::vector<std::string_view>>>& wanted) {
  Library all;
  for (const auto& [slot, beginnings] : wanted) {
    Parts parts;
    for (const Section& part : testing::library().of(slot))
      for (const std::string_view beginning : beginnings)
        if (part.text("part_number").starts_with(beginning)) parts.push_back(part);
    all.add(slot, std::move(parts));
  }
  return all;
}

/// Few of everything that goes with the second axis of the demo: fast to search.
const Library& few() {
  static const Library library =
      beginning_with({{"motor", {"VK60-0200", "HE23-76", "HS23-76", "KD52", "BW57"}},
                      {"gearhead", {"TP60-10", "TP60-5"}},
                      {"drive", {"EL48-08", "SS50-06", "SS110-06", "SD48", "SB48"}}});
  return library;
}

/// And with its light axes, the sixth and seventh.
const Library& light() {
  static const Library library =
      beginning_with({{"motor", {"KD32", "KD52", "BW42-006", "HS11-51", "CR40-0050-048"}},
                      {"gearhead", {"TP40-5"}},
                      {"drive", {"SD24", "SD48-02", "SB48-04", "SS36", "EL48-03"}}});
  return library;
}

Section duty(std::initializer_list<std::pair<std::string_view, std::string_view>> texts = {}) {
  Section section(duty_section());
  section.path = "duty";
  for (const auto& [field, text] : texts) section.type(field, text);
  return section;
}

KindsCompared compared(const Axis& axis, const Section& duties = duty(),
                       const Weights& weights = usual_weights()) {
  KindsRun run;
  run.weights = weights;
  return compare_kinds(axis, house_rules(), duties, few(), run);
}

const KindCandidate& of(const KindsCompared& all, std::string_view form) {
  const auto found = std::find_if(all.kinds.begin(), all.kinds.end(),
                                  [&](const KindCandidate& k) { return k.kind->slot.form->id == form; });
  REQUIRE(found != all.kinds.end());
  return *found;
}

std::string said(const KindsCompared& all, std::string_view form, Side side) {
  std::string text;
  for (const KindReason& reason : all.reasons)
    if (reason.side == side && all.kinds[reason.kind].kind->slot.form->id == form) text += reason.text + "\n";
  return text;
}

KindFigure figure(const KindCandidate& kind, std::string_view id, const Section& duties = duty()) {
  for (const KindFigureSpec& spec : kind_figures())
    if (spec.id == id) return spec.figure(kind, Duty::from(duties), UnitSet::si);
  FAIL("no such figure");
  return {};
}

} // namespace

TEST_CASE("each kind stands by the first of its own list, and every kind is there") {
  const Axis axis = demo().axes[1];
  const Weights weights{{"price", 1.0}, {"used", 0.5}};
  const KindsCompared all = compared(axis, duty(), weights);
  CHECK(all.finished);
  CHECK(all.kinds.size() == motor_kinds().size());
  const MatchSpace space = match_space(axis, few());
  const auto fits = search(axis, house_rules(), space).fits.each_by_itself();
  std::size_t fitting = 0;
  for (const KindCandidate& kind : all.kinds) {
    INFO(kind.title);
    // plainly: the best of the whole list whose motor is of the kind
    const auto order = ranked(space, fits, weights, {});
    const auto first = std::find_if(order.begin(), order.end(), [&](std::size_t place) {
      return &space.motors[fits[place].parts.motor].section.spec() == kind.kind->slot.form;
    });
    CHECK(kind.fits == (first != order.end()));
    if (!kind.fits) continue;
    ++fitting;
    CHECK(kind.parts() == name_of(space, fits[*first].parts));
    CHECK(kind.trial.used == fits[*first].used);
    double worst = 0.0;
    for (const Limit& limit : kind.evaluation->limits)
      if (limit.state != LimitState::not_judged && !limit.only_fits) worst = std::max(worst, limit.used);
    CHECK(kind.trial.used == Approx(worst).epsilon(1e-9));
  }
  CHECK(fitting >= 2);
  REQUIRE(all.first);
  for (const KindCandidate& kind : all.kinds)
    if (kind.fits) CHECK(all.kinds[*all.first].standing <= kind.standing);
  CHECK_THAT(all.advice, Contains(all.kinds[*all.first].name()));
}

TEST_CASE("a kind of which nothing fits tells its nearest miss, one that is not there says so") {
  const KindsCompared all = compared(demo().axes[1]);
  const KindCandidate& brushed = of(all, "brushed_motor");
  CHECK(brushed.judged);
  CHECK_FALSE(brushed.fits);
  CHECK(brushed.trial.used > 1.0);
  CHECK_THAT(said(all, "brushed_motor", Side::excludes),
             Contains("Nothing of it fits") && Contains(brushed.parts()));
  const KindCandidate& five = of(all, "five_phase");
  CHECK_FALSE(five.in_library);
  CHECK_FALSE(five.judged);
  CHECK_THAT(said(all, "five_phase", Side::excludes), Contains("no motor of this kind"));
  // motors without a drive that feeds them
  Library lone;
  lone.add("motor", {testing::library().of("motor").front()});
  const KindsCompared none = compare_kinds(demo().axes[5], house_rules(), duty(), lone, {});
  CHECK_FALSE(none.first);
  CHECK_FALSE(none.advice.empty());
}

TEST_CASE("where a kind may not stand it is ruled out, whatever it costs") {
  Axis axis = demo().axes[6]; // the brush, turned by a brushed motor
  KindsRun run;
  const KindsCompared quiet = compare_kinds(axis, house_rules(), duty(), light(), run);
  REQUIRE(of(quiet, "brushed_motor").fits);
  CHECK(said(quiet, "brushed_motor", Side::excludes).empty());
  const Section place = duty({{"explosive", "yes"}, {"clean", "yes"}});
  KindsCompared strict = quiet;
  strict.reasons.clear();
  strict.first.reset();
  strict.second.reset();
  advise(strict, house_rules(), Duty::from(place), run);
  CHECK_THAT(said(strict, "brushed_motor", Side::excludes), Contains("Explosive") && Contains("spark"));
  for (const KindCandidate& kind : strict.kinds) {
    if (!kind.fits || kind.kind->slot.form->id == "brushed_motor") continue;
    CHECK_THAT(said(strict, kind.kind->slot.form->id, Side::doubt),
               Contains("only with") && Contains("does not make it explosion-proof"));
  }
  if (strict.first) CHECK(strict.kinds[*strict.first].kind->slot.form->id != "brushed_motor");
  CHECK(figure(of(strict, "brushed_motor"), "place", place).value == 1.0);
  CHECK(figure(of(strict, "brushed_motor"), "place").text == "nothing special");
}

TEST_CASE("a price of the motor's own brake that nobody told is asked for by its name") {
  Axis axis = demo().axes[1];
  axis["brake"].type("fitted", "yes");
  const auto compared_with = [&](const char* brake, const char* drive) {
    Library library;
    for (const char* slot : {"motor", "gearhead", "drive"}) {
      Parts parts = few().of(slot);
      for (Section& part : parts) {
        if (part.has("brake_price")) part.type("brake_price", brake);
        if (slot == std::string_view("drive")) part.type("price", drive);
      }
      library.add(slot, std::move(parts));
    }
    return compare_kinds(axis, house_rules(), duty(), library, KindsRun());
  };
  const KindsCompared told = compared_with("60", "100");
  CHECK_THAT(said(told, "motor", Side::doubt), !Contains("price"));
  const Section& motor = of(told, "motor").axis["motor"];
  const MatchSpace space = match_space(axis, few());
  const MatchSpace bare = match_space(demo().axes[1], few());
  for (std::size_t i = 0; i < space.motors.size(); ++i) {
    const double brake = space.motors[i].section.term_if("brake_price");
    CHECK(space.motors[i].price == Approx(bare.motors[i].price + (std::isnan(brake) ? 0.0 : brake)));
    CHECK(bare.motors[i].price == bare.motors[i].section.term("price"));
  }
  CHECK(motor.text("brake_price") == "60");
  CHECK_THAT(said(compared_with("", "100"), "motor", Side::doubt), Contains("tells no price of its brake"));
  CHECK_THAT(said(compared_with("60", ""), "motor", Side::doubt), Contains("A part has no price"));
}

TEST_CASE("energy in a year, price and life by hand") {
  const KindsCompared all = compared(demo().axes[1]);
  const KindCandidate& servo = of(all, "motor");
  REQUIRE(servo.fits);
  const Section duties = duty({{"hours", "16 h"}, {"days", "300"}, {"years", "5"}, {"energy_price", "0.3"}});
  const Duty numbers = Duty::from(duties);
  CHECK(numbers.hours == Approx(4800.0));
  const Demand& demand = servo.evaluation->demand;
  const double cycle = servo.evaluation->model->load->cycle.duration;
  const double joules = demand.integrals.bus_drawn / cycle * 4800.0 * 3600.0;
  CHECK(energy_a_year(servo, numbers) == Approx(joules));
  CHECK(energy_a_year(servo, numbers) == Approx(demand.mean_power * 4800.0 * 3600.0));
  double price = 0.0;
  for (const char* slot : {"motor", "gearhead", "drive", "coupling"}) price += servo.axis[slot].term("price");
  CHECK(price_of_all(servo) == Approx(price));
  CHECK(figure(servo, "all_years", duties).value == Approx(price + joules / 3.6e6 * 0.3 * 5.0));
  CHECK(life_of(servo)[0] == 20'000.0);
  CHECK_THAT(figure(servo, "life", duties).text, Contains("4.17 to 6.25 years"));
  KindCandidate unpriced = servo;
  unpriced.axis["drive"].type("price", "");
  CHECK(std::isnan(price_of_all(unpriced)));
  CHECK(figure(unpriced, "price").text == "not known");
  // a brake that comes with the motor is paid with it
  KindCandidate held = servo;
  held.axis["brake"].type("fitted", "yes");
  held.axis["motor"].type("brake_price", "60");
  CHECK(price_of_all(held) == Approx(price + 60.0));
  held.axis["motor"].type("brake_price", "");
  CHECK(std::isnan(price_of_all(held)));
  held.axis["brake"].type("price", "75");
  CHECK(price_of_all(held) == Approx(price + 75.0));
  held.axis["brake"].type("price", "");
  held.axis["brake"].type("torque", "2 N.m"); // of another maker, and nobody told what it costs
  held.axis["motor"].type("brake_price", "60");
  CHECK(std::isnan(price_of_all(held)));
  // the supply's share goes by power
  KindCandidate supplied = servo;
  Section& supply = supplied.axis["surroundings"];
  supply.type("part_number", "PW48-100");
  supply.type("bus", "48 V");
  supply.type("supply_current", "10 A");
  supply.type("price", "100");
  CHECK(price_of_all(supplied) == Approx(price + 100.0 * demand.mean_power / 480.0));
  supply.type("supply_current", "0.001 A");
  CHECK(price_of_all(supplied) == Approx(price + 100.0));
}

TEST_CASE("brushes wear sooner when fast, later when lightly loaded") {
  constexpr double rpm = constants::rpm;
  CHECK(brush_life(3000 * rpm, 0.8) == std::array{1000.0, 5000.0});
  CHECK(brush_life(3000 * rpm, 0.4) == std::array{1000.0, 10000.0});
  CHECK(brush_life(10001 * rpm, 0.8) == std::array{100.0, 1000.0});
  CHECK(brush_life(9999 * rpm, 1.1) == std::array{100.0, 5000.0});
  CHECK(brush_life(3000 * rpm, std::nan("")) == std::array{1000.0, 5000.0});
}

TEST_CASE("what falls, wears, or hides its lost steps is told") {
  Axis upright = demo().axes[0];
  upright["brake"] = Section(upright["brake"].spec());
  upright["brake"].path = "brake";
  KindsRun run;
  const KindsCompared all = compare_kinds(upright, house_rules(), duty(), few(), run);
  for (const KindCandidate& kind : all.kinds)
    if (kind.judged && !kind.evaluation->model->motor->keeps_current())
      CHECK(figure(kind, "hold").text == "none");
  // the motor's own brake is wanted, and some sheets tell none: that is no brake that holds
  const KindsCompared with_brake = compare_kinds(demo().axes[0], house_rules(), duty(), few(), run);
  const KindCandidate& six_step = of(with_brake, "six_step_motor");
  REQUIRE(six_step.fits);
  CHECK(figure(six_step, "hold").text == "brake of unknown torque");
  CHECK(figure(six_step, "hold").value == 0.0);
  CHECK_THAT(said(with_brake, "six_step_motor", Side::against), Contains("its sheet tells none"));
  CHECK_THAT(figure(of(with_brake, "motor"), "hold").text, Contains("brake, "));
  CHECK(said(with_brake, "motor", Side::against).find("tells none") == std::string::npos);
  CHECK_THAT(said(with_brake, "motor", Side::speaks_for), Contains("Holds without power: brake, "));
  const KindsCompared spreader = compare_kinds(demo().axes[5], house_rules(), duty(), light(), run);
  const KindCandidate& stepper = of(spreader, "stepper_motor");
  REQUIRE(stepper.fits);
  CHECK_THAT(said(spreader, "stepper_motor", Side::against), Contains("nobody is told"));
  CHECK_THAT(figure(stepper, "lost_steps").text, Contains("pull-out used to"));
  CHECK(figure(of(spreader, "motor"), "lost_steps").text == "none");
  // blocks need no encoder, positions do
  CHECK_THAT(said(spreader, "brushed_motor", Side::against), Contains("no encoder"));
  CHECK(said(spreader, "motor", Side::against).find("encoder: positions") == std::string::npos);
  CHECK(said(spreader, "stepper_motor", Side::against).find("encoder: positions") == std::string::npos);
  REQUIRE(spreader.first);
  CHECK((spreader.advice.find("No encoder on the sheet of") != std::string::npos) ==
        (spreader.kinds[*spreader.first].kind->traits != &servo_traits()));
  CHECK(figure(stepper, "controller").text.starts_with("pulses up to "));
  const KindsCompared brush =
      compare_kinds(demo().axes[6], house_rules(), duty({{"years", "20"}}), light(), run);
  CHECK_THAT(said(brush, "brushed_motor", Side::against), Contains("changed on the way"));
  const KindsCompared seldom =
      compare_kinds(demo().axes[6], house_rules(), duty({{"hours", "0.1 h"}}), light(), run);
  CHECK(said(seldom, "brushed_motor", Side::against).find("changed") == std::string::npos);
}

TEST_CASE("two kinds within a tenth are both named, further apart the better one is") {
  KindsCompared all = compared(demo().axes[1]);
  std::vector<std::size_t> fitting;
  for (std::size_t i = 0; i < all.kinds.size(); ++i)
    if (all.kinds[i].fits) fitting.push_back(i);
  REQUIRE(fitting.size() >= 2);
  const auto with = [&](double first, double second) {
    KindsCompared changed = all;
    changed.reasons.clear();
    changed.first.reset();
    changed.second.reset();
    for (std::size_t i : fitting) changed.kinds[i].standing = {0, 50.0};
    changed.kinds[fitting[0]].standing = {0, first};
    changed.kinds[fitting[1]].standing = {0, second};
    advise(changed, house_rules(), Duty::from(duty()), {});
    return changed;
  };
  CHECK(with(1.0, 1.09).second == fitting[1]);
  CHECK_FALSE(with(1.0, 1.11).second);
  CHECK(with(1.0, 1.11).first == fitting[0]);
  CHECK(with(1.3, 1.0).first == fitting[1]);
  CHECK_THAT(with(1.0, 1.09).advice, Contains(" or ") && Contains("within a tenth"));
}

TEST_CASE("a spread that breaks a limit at its worst is told as a doubt") {
  Axis axis = demo().axes[1];
  axis["load"].type("moved_mass", "11 kg ±90%");
  axis["load"].type("friction", "0.25 ±90%");
  const KindsCompared all = compared(axis);
  REQUIRE(all.first);
  const std::string doubt = said(all, all.kinds[*all.first].kind->slot.form->id, Side::doubt);
  const auto worst = corners(all.kinds[*all.first].axis, house_rules());
  REQUIRE(worst);
  const bool breaks = std::any_of(worst->limits.begin(), worst->limits.end(), [](const LimitCorner& c) {
    return c.now != LimitState::over && c.state == LimitState::over;
  });
  CHECK((doubt.find("typed spreads") != std::string::npos) == breaks);
  CHECK(breaks);
}

TEST_CASE("the plane of all kinds is at the gearhead's output") {
  const KindsCompared all = compared(demo().axes[1]);
  const KindCandidate& servo = of(all, "motor");
  const auto points = capability_at_output(servo);
  REQUIRE(points.size() > 10);
  const AxisModel& model = *servo.evaluation->model;
  CHECK(points.front()[1] ==
        Approx(model.motor->peak_torque(0.0, model.supply_at(model.surroundings.bus_low), false) *
               model.gear.ratio.value * model.gear.efficiency.value));
  CHECK(points.back()[0] == Approx(model.motor->max_speed / model.gear.ratio));
  double fastest = 0.0;
  for (const auto& point : demand_at_output(model)) fastest = std::max(fastest, point[0]);
  CHECK(fastest == Approx(servo.evaluation->demand.max_speed / model.gear.ratio).epsilon(1e-6));
}

TEST_CASE("a search for kinds that nobody wants any more ends") {
  KindsRun run;
  run.wanted = [] { return false; };
  CHECK_FALSE(compare_kinds(demo().axes[1], house_rules(), duty(), few(), run).finished);
}
