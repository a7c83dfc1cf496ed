// Load, screw, gearhead and the axis model at single instants.

#include "core/gearhead/gearhead.hpp"
#include "core/mechanism/linear_load.hpp"
#include "core/mechanism/screw_formulas.hpp"
#include "core/quantity/constants.hpp"
#include "support/axes.hpp"

#include <catch2/catch.hpp>

#include <cmath>
#include <set>

using namespace fulmox;
using namespace fulmox::testing;
using Catch::Contains;

namespace {

constexpr double g = 9.80665;

LoadState moving(double speed, double acceleration) {
  return {0.0, {speed, ""}, {acceleration, ""}, speed > 0.0 ? 1.0 : speed < 0.0 ? -1.0 : 0.0};
}

struct Screw {
  explicit Screw(const Axis& axis) : recorder(false) {
    model =
        std::move(*find_mechanism("screw")->build({axis["load"], axis["mechanism"], axis.pieces}, recorder));
  }
  ShaftState at(double speed, double acceleration) {
    return model->at(moving(speed, acceleration), recorder);
  }
  Recorder recorder;
  std::unique_ptr<Mechanism> model;
};

Gearhead gear(const char* ratio, const char* efficiency, const char* no_load) {
  Section section(gearhead_section());
  section.type("ratio", ratio);
  section.type("efficiency", efficiency);
  section.type("no_load", no_load);
  return Gearhead::from(section);
}

ShaftState shaft(double torque, double direction) {
  ShaftState s;
  s.torque = {torque, ""};
  s.direction = direction;
  s.speed = {10.0 * direction, ""};
  s.parts[TorquePart::moved_mass] = torque;
  return s;
}

} // namespace

TEST_CASE("mechanisms are registered once, each with a form and a builder") {
  REQUIRE_FALSE(mechanism_specs().empty());
  for (const MechanismSpec* spec : mechanism_specs()) {
    CHECK(find_mechanism(spec->section.id) == spec);
    CHECK(spec->build != nullptr);
    CHECK_FALSE(spec->section.fields.empty());
  }
  CHECK(find_mechanism("perpetual motion") == nullptr);
}

TEST_CASE("friction always opposes motion, and does nothing at rest") {
  Axis axis = plain_axis();
  axis["load"].type("friction", "0.1");
  axis["load"].type("seal_drag", "20 N");
  Screw screw(axis);
  const double forward = screw.at(0.1, 0.0).parts[TorquePart::friction];
  CHECK(forward > 0.0);
  CHECK(screw.at(-0.1, 0.0).parts[TorquePart::friction] == Approx(-forward));
  CHECK(screw.at(0.0, 0.0).parts[TorquePart::friction] == 0.0);
  CHECK(forward == Approx((0.1 * 10.0 * g + 20.0) * 0.01 / (2 * M_PI)));
}

TEST_CASE("at the start of a move friction already acts: the limit is taken from inside") {
  Axis axis = plain_axis();
  axis["load"].type("seal_drag", "50 N");
  Screw screw(axis);
  LoadState start = moving(0.0, 2.0);
  start.direction = 1.0;
  const double inside = screw.at(1e-9, 2.0).torque;
  CHECK(screw.model->at(start, screw.recorder).torque == Approx(inside).epsilon(1e-6));
  CHECK(screw.at(0.0, 2.0).torque < inside);
}

TEST_CASE("an external force helps one way and hinders the other") {
  Axis axis = plain_axis();
  axis["load"].type("friction", "0");
  axis["load"].type("process_force", "100 N");
  Screw screw(axis);
  const double eta = 0.9;
  CHECK(screw.at(0.1, 0.0).torque == Approx(100.0 * 0.01 / (2 * M_PI * eta)));
  CHECK(screw.at(-0.1, 0.0).torque == Approx(100.0 * 0.01 * (2.0 - 1.0 / eta) / (2 * M_PI)));
  CHECK(screw.at(0.0, 0.0).torque == Approx(100.0 * 0.01 / (2 * M_PI)));
}

TEST_CASE("a given back-driving efficiency is used instead of the rule") {
  Axis axis = plain_axis();
  axis["load"].type("friction", "0");
  axis["load"].type("process_force", "100 N");
  axis["mechanism"].type("back_efficiency", "0.5");
  Screw screw(axis);
  CHECK(screw.at(-0.1, 0.0).torque == Approx(100.0 * 0.01 * 0.5 / (2 * M_PI)));
}

TEST_CASE("a counterweight carries its weight, is accelerated, and a spring only pulls") {
  Axis axis = plain_axis();
  axis["load"].type("friction", "0");
  axis["load"].type("angle", "90 deg");
  axis["load"].type("counterweight", "10 kg");
  Screw balanced(axis);
  CHECK(balanced.at(0.1, 0.0).parts[TorquePart::gravity] == Approx(0.0).margin(1e-12));
  CHECK(balanced.at(0.1, 1.0).parts[TorquePart::moved_mass] == Approx(20.0 * 0.01 / (2 * M_PI)));
  axis["load"].type("counterweight", "");
  axis["load"].type("spring", "98.0665 N");
  Screw sprung(axis);
  CHECK(sprung.at(0.1, 0.0).parts[TorquePart::gravity] == Approx(0.0).margin(1e-12));
  CHECK(sprung.at(0.1, 1.0).parts[TorquePart::moved_mass] == Approx(10.0 * 0.01 / (2 * M_PI)));
}

TEST_CASE("downhill axes mirror uphill ones") {
  Axis up = plain_axis();
  up["load"].type("angle", "60 deg");
  up["load"].type("spring", "30 N");
  Axis down = up;
  down["load"].type("angle", "-60 deg");
  Screw a(up), b(down);
  for (const double speed : {-0.2, 0.2})
    for (const double acceleration : {-3.0, 0.0, 3.0})
      CHECK(a.at(speed, acceleration).torque == Approx(-b.at(-speed, -acceleration).torque));
}

TEST_CASE("breakaway takes the harder direction and the static coefficient") {
  Axis axis = plain_axis();
  axis["load"].type("angle", "30 deg");
  axis["load"].type("friction", "0.05");
  Screw plain(axis);
  const double held = 10.0 * g * 0.5;
  const double normal = 10.0 * g * std::sqrt(3.0) / 2.0;
  CHECK(plain.model->breakaway_torque({}, plain.recorder) ==
        Approx((held + 0.05 * normal) * 0.01 / (2 * M_PI * 0.9)));
  axis["load"].type("static_friction", "0.2");
  Screw sticky(axis);
  CHECK(sticky.model->breakaway_torque({}, sticky.recorder) ==
        Approx((held + 0.2 * normal) * 0.01 / (2 * M_PI * 0.9)));
}

TEST_CASE("the parts of a screw's torque add up in all four quadrants") {
  RandomAxes random(61);
  for (int i = 0; i < 100; ++i) {
    Screw screw(random.next());
    for (const double speed : {-0.3, 0.0, 0.3})
      for (const double acceleration : {-5.0, 0.0, 5.0}) {
        const ShaftState s = screw.at(speed, acceleration);
        CHECK(s.parts.sum() == Approx(s.torque.value).epsilon(1e-12).margin(1e-15));
      }
  }
}

TEST_CASE("gearhead: efficiency acts with the direction of power") {
  Recorder silent(false);
  const Gearhead stage = gear("5", "0.9", "0 N.m");
  CHECK(stage.input(shaft(10.0, 1.0), silent).torque == Approx(10.0 / 4.5));
  CHECK(stage.input(shaft(-10.0, 1.0), silent).torque == Approx(-10.0 * 0.9 / 5.0));
  CHECK(stage.input(shaft(10.0, -1.0), silent).torque == Approx(10.0 * 0.9 / 5.0));
  CHECK(stage.input(shaft(-10.0, -1.0), silent).torque == Approx(-10.0 / 4.5));
  CHECK(stage.input(shaft(10.0, 0.0), silent).torque == Approx(2.0)); // at rest
  CHECK(stage.input(shaft(10.0, 1.0), silent).speed == Approx(50.0));
}

TEST_CASE("gearhead: no-load torque opposes rotation and does not cross the efficiency") {
  Recorder silent(false);
  const Gearhead stage = gear("5", "0.9", "0.3 N.m");
  CHECK(stage.input(shaft(10.0, 1.0), silent).torque == Approx(10.0 / 4.5 + 0.3));
  CHECK(stage.input(shaft(10.0, -1.0), silent).torque == Approx(1.8 - 0.3));
  CHECK(stage.input(shaft(10.0, 0.0), silent).torque == Approx(2.0));
}

TEST_CASE("gearhead: parts stay apart and add up, and no gearhead changes nothing") {
  Recorder silent(false);
  const ShaftState in = gear("4", "0.8", "0.1 N.m").input(shaft(8.0, 1.0), silent);
  CHECK(in.parts[TorquePart::moved_mass] == Approx(2.0));
  CHECK(in.parts[TorquePart::losses] == Approx(0.5));
  CHECK(in.parts[TorquePart::drag] == Approx(0.1));
  CHECK(in.parts.sum() == Approx(in.torque.value));
  const ShaftState same = gear("1", "", "").input(shaft(8.0, 1.0), silent);
  CHECK(same.torque == 8.0);
  CHECK_FALSE(gear("1", "", "").fitted);
  CHECK(gear("1.5", "", "").fitted);
}

TEST_CASE("a stage never makes energy, whatever its numbers") {
  RandomAxes random(62);
  Recorder silent(false);
  for (int i = 0; i < 500; ++i) {
    Section section(gearhead_section());
    char text[40];
    std::snprintf(text, sizeof text, "%.12g", random.between(0.3, 20.0));
    section.type("ratio", text);
    std::snprintf(text, sizeof text, "%.12g", random.between(0.3, 1.0));
    section.type("efficiency", text);
    std::snprintf(text, sizeof text, "%.12g N.m", random.between(0.0, 0.2));
    section.type("no_load", text);
    const Gearhead stage = Gearhead::from(section);
    const ShaftState out = shaft(random.between(-20.0, 20.0), random.between(0.0, 1.0) > 0.5 ? 1.0 : -1.0);
    const ShaftState in = stage.input(out, silent);
    CHECK(in.torque * in.speed >= out.torque * out.speed - 1e-9);
  }
}

TEST_CASE("inertia shares are told at their own shaft and at the motor, and add up") {
  RandomAxes random(63);
  for (int i = 0; i < 50; ++i) {
    const Axis axis = random.next();
    const Evaluation e = evaluated(axis);
    double total = 0.0;
    for (const InertiaShare& share : e.demand.inertia) total += share.at_motor;
    CHECK(total == Approx(e.demand.total_inertia.value).epsilon(1e-12));
    CHECK(e.demand.inertia_ratio == Approx(e.demand.load_inertia / e.model->rotor).epsilon(1e-12));
    const double ratio = axis["gearhead"].term("ratio");
    CHECK(e.demand.inertia.front().at_motor ==
          Approx(e.demand.inertia.front().own / (ratio * ratio)).epsilon(1e-12));
  }
}

TEST_CASE("torque is inertia times acceleration plus what does not depend on it: a straight line in the "
          "rotor's inertia") {
  Axis axis = demo().axes[0];
  const auto torque_with = [&](const char* inertia) {
    axis["motor"].type("inertia", inertia);
    return evaluated(axis).at(0.65).torque.value;
  };
  const double low = torque_with("0.1 kg.cm2");
  const double middle = torque_with("0.2 kg.cm2");
  const double high = torque_with("0.3 kg.cm2");
  CHECK(high - middle == Approx(middle - low).epsilon(1e-9));
}

TEST_CASE("spans cover every piece without gap, and cut where power turns round") {
  RandomAxes random(64);
  for (int i = 0; i < 100; ++i) {
    const Evaluation e = evaluated(random.next());
    Recorder silent(false);
    double covered = 0.0;
    for (const Stretch& span : e.course.stretches) {
      CHECK(span.to > span.from);
      covered += span.to - span.from;
      const double first =
          e.model->at(span.piece, span.from + 1e-6 * (span.to - span.from), silent).shaft_power;
      const double last = e.model->at(span.piece, span.to - 1e-6 * (span.to - span.from), silent).shaft_power;
      const double scale = std::max(std::abs(first), std::abs(last));
      CHECK(first * last >= -1e-4 * scale * scale);
    }
    CHECK(covered == Approx(e.model->load->cycle.duration).epsilon(1e-9));
  }
}

TEST_CASE("worst moments are the worst: no sample of a fine grid beats them") {
  RandomAxes random(65);
  for (int i = 0; i < 60; ++i) {
    const Evaluation e = evaluated(random.next());
    Recorder silent(false);
    double greatest = 0.0;
    for (std::size_t p = 0; p < e.model->load->cycle.pieces.size(); ++p)
      for (int k = 0; k <= 500; ++k)
        greatest = std::max(
            greatest,
            std::abs(
                e.model->at(p, e.model->load->cycle.pieces[p].duration * k / 500.0, silent).torque.value));
    CHECK(value(e, "demand.peak_torque") >= greatest * (1.0 - 1e-9));
    CHECK(e.demand.peak_at.value == Approx(value(e, "demand.peak_torque")).epsilon(1e-9));
  }
}

TEST_CASE("stroke and screw must fit together") {
  Axis axis = demo().axes[0];
  CHECK_FALSE(warns(evaluated(axis), "stroke_beyond_screw"));
  axis["mechanism"].type("length", "140 mm");
  CHECK(warns(evaluated(axis), "stroke_beyond_screw"));
}

TEST_CASE("warnings have ids of their own, a reason and a place to go") {
  std::set<std::string_view> ids;
  for (const WarningSpec& spec : warning_specs()) CHECK(ids.insert(spec.id).second);
  RandomAxes random(66);
  for (int i = 0; i < 60; ++i) {
    const Axis axis = random.next();
    for (const Warning& warning : evaluated(axis).warnings) {
      CHECK(warning.reason.size() > 20);
      const bool place = warning.input == "cycle" || !describe_path(axis, warning.input).empty();
      INFO(warning.id << " -> " << warning.input);
      CHECK(place);
    }
  }
}

TEST_CASE("warnings are worded in the unit set asked for") {
  Axis axis = demo().axes[0];
  axis["brake"].type("fitted", "no");
  const auto inch = evaluate(axis, house_rules(), UnitSet::inch);
  REQUIRE(inch);
  for (const Warning& warning : inch->warnings)
    if (warning.id == "vertical_without_brake") CHECK_THAT(warning.reason, Contains("lbf·in"));
}
