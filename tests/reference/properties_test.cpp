// What must hold for every axis whatever its numbers: energy, symmetry, scaling, independence of how the same
// thing is said.

#include "core/demand/statistics.hpp"
#include "support/axes.hpp"

#include <boost/math/quadrature/gauss.hpp>
#include <catch2/catch.hpp>

#include <cmath>
#include <cstdio>

using namespace fulmox;
using namespace fulmox::testing;

namespace {

/// An axis worked out without its working, which takes most of the time.
struct Numbers {
  AxisModel model;
  Course course;
  Demand demand;
};
Numbers numbers_of(const Axis& axis) {
  Recorder silent(false);
  auto model = AxisModel::build(axis, silent);
  REQUIRE(model);
  Course course = follow(*model);
  const Section rules = house_rules();
  Demand demand = work_out_demand(*model, course, Rules(rules), silent);
  return {std::move(*model), std::move(course), std::move(demand)};
}

} // namespace

TEST_CASE("energy balance closes on every mechanism, law and stage") {
  RandomAxes random(401);
  for (const std::string_view mechanism : all_mechanisms())
    for (int i = 0; i < 40; ++i) {
      const Demand demand = numbers_of(random.next_on(mechanism)).demand;
      INFO(mechanism << " " << i);
      const double driven = demand.driven, returned = demand.returned;
      const TorqueParts& energy = demand.integrals.energy;
      // back at the start and at rest: neither inertia nor weight kept anything
      for (const TorquePart part : {TorquePart::rotor, TorquePart::gearhead, TorquePart::transmission,
                                    TorquePart::moved_mass, TorquePart::gravity})
        CHECK(std::abs(energy[part]) <= 1e-8 * (driven + returned));
      CHECK(energy[TorquePart::friction] >= 0.0);
      CHECK(energy[TorquePart::drag] >= 0.0);
      CHECK(energy[TorquePart::losses] >= -1e-9 * driven);
      CHECK(driven - returned ==
            Approx(energy[TorquePart::friction] + energy[TorquePart::drag] + energy[TorquePart::losses])
                .epsilon(1e-8));
    }
}

TEST_CASE("parts of the torque add up on every mechanism") {
  RandomAxes random(402);
  for (const std::string_view mechanism : all_mechanisms())
    for (int i = 0; i < 5; ++i)
      for (const Instant& now : samples_of(evaluated(random.next_on(mechanism))))
        CHECK(now.parts.sum() == Approx(now.torque.value).epsilon(1e-9).margin(1e-12));
}

TEST_CASE("rms torque agrees with Boost's rule of 30 points on every mechanism and law") {
  RandomAxes random(403);
  for (const std::string_view mechanism : all_mechanisms())
    for (int i = 0; i < 25; ++i) {
      const Numbers e = numbers_of(random.next_on(mechanism));
      Recorder silent(false);
      double squares = 0.0;
      // between the program's own cuts, but with another rule
      for (const Stretch& span : e.course.stretches)
        squares += boost::math::quadrature::gauss<double, 30>::integrate(
            [&](double tau) { return std::pow(e.model.at(span.piece, tau, silent).torque.value, 2); },
            span.from, span.to);
      INFO(mechanism << " " << i);
      CHECK(e.demand.rms_torque == Approx(std::sqrt(squares / e.model.load->cycle.duration)).epsilon(1e-7));
    }
}

TEST_CASE("no moment of a fine grid beats the worst moment, on every mechanism") {
  RandomAxes random(404);
  for (const std::string_view mechanism : all_mechanisms())
    for (int i = 0; i < 6; ++i) {
      const Evaluation e = evaluated(random.next_on(mechanism));
      double most = 0.0;
      for (int k = 0; k <= 6000; ++k)
        most = std::max(most, std::abs(e.at(e.model->load->cycle.duration * k / 6000.0).torque.value));
      INFO(mechanism << " " << i);
      CHECK(value(e, "demand.peak_torque") >= most * (1.0 - 1e-4));
    }
}

namespace {
/// What is moved travels per radian of the mechanism's shaft: by the speeds at both ends of the train, and
/// for a crank, whose moves are turns of its shaft, by the slider's place a little before and after.
double lever_of(std::string_view mechanism, const Axis& axis, const Evaluation& e, const Instant& now) {
  if (mechanism != "crank") return std::abs(now.load.speed) / std::abs(now.speed) * e.model->total_ratio();
  const double r = axis["mechanism"].term("radius"), l = axis["mechanism"].term("rod"), h = 1e-5;
  const auto slider = [&](double angle) {
    angle += axis["mechanism"].term("start_angle");
    return r * std::cos(angle) + std::sqrt(l * l - std::pow(r * std::sin(angle), 2.0));
  };
  return std::abs(slider(now.load.position + h) - slider(now.load.position - h)) / (2.0 * h);
}
} // namespace

TEST_CASE("no moment of a fine grid has a longer lever or twists the train more, on every mechanism") {
  RandomAxes random(405);
  for (const std::string_view mechanism : all_mechanisms())
    for (int i = 0; i < 4; ++i) {
      const Axis axis = random.next_on(mechanism);
      const Evaluation e = evaluated(axis);
      double longest = 0.0, lag = 0.0;
      for (int k = 0; k <= 6000; ++k) {
        const Instant now = e.at(e.model->load->cycle.duration * k / 6000.0);
        if (std::abs(now.speed) < 1e-6) continue;
        const double lever = lever_of(mechanism, axis, e, now);
        longest = std::max(longest, lever);
        lag = std::max(lag, std::abs(now.at_mechanism) * lever);
      }
      INFO(mechanism << " " << i);
      const LoadPeaks& peaks = e.model->load->peaks;
      CHECK(peaks.lever == Approx(longest).epsilon(2e-3));
      CHECK(peaks.lever >= longest * (1.0 - 1e-9));
      // at rest nothing is seen by speeds, but a load may hang there
      CHECK(peaks.twist.torque * peaks.twist.lever >= lag * (1.0 - 1e-6));
      CHECK(peaks.twist.torque <= peaks.mechanism.value * (1.0 + 1e-9));
      CHECK(peaks.twist.lever <= peaks.lever * (1.0 + 1e-9));
    }
}

TEST_CASE("the greatest of what falls with speed is found, wherever the stretches are cut") {
  RandomAxes random(406);
  for (const std::string_view mechanism : all_mechanisms())
    for (int i = 0; i < 3; ++i) {
      const Evaluation e = evaluated(random.next_on(mechanism));
      double fast = 0.0;
      for (const Stretch& s : e.course.stretches) fast = std::max(fast, s.speed.bound());
      const double little = 0.02 * fast;
      const auto value = [&](const Stretch&, double torque, double speed) {
        return std::abs(torque) / (little + std::abs(speed));
      };
      const auto bound = [&](const Stretch&, double torque, double slowest, double) {
        return torque / (little + slowest);
      };
      const auto corners = [&] { return std::vector{0.1 * fast, 0.3 * fast, 0.5 * fast, 0.7 * fast}; };
      const Moment found = greatest_of(*e.model, e.course, {value, bound, corners});
      double most = 0.0;
      for (const Stretch& s : e.course.stretches)
        for (int k = 0; k <= 200; ++k)
          if (const double u = 0.01 * k - 1.0; s.direction != 0.0)
            most = std::max(most, value(s, s.torque(u), s.speed(u)));
      INFO(mechanism << " " << i);
      CHECK(found.value >= most * (1.0 - 1e-9));
    }
}

TEST_CASE("a trapezoid cut into ramp, run and ramp stays the same axis") {
  Axis whole = plain_axis();
  whole.cycle.clear();
  add_segment(whole, "move",
              {{"distance", "300 mm"}, {"time", ""}, {"peak_speed", "0.6 m/s"}, {"acceleration", "3 m/s2"}});
  add_segment(whole, "dwell", {{"time", "0.4 s"}});
  Axis cut = plain_axis();
  cut.cycle.clear();
  // 0.6 m/s at 3 m/s² takes 60 mm and 0.2 s
  add_segment(
      cut, "move",
      {{"distance", "60 mm"}, {"time", "0.2 s"}, {"acceleration_share", "1"}, {"deceleration_share", "0"}});
  add_segment(cut, "run", {{"speed", "0.6 m/s"}, {"time", "0.1 s"}});
  add_segment(cut, "run", {{"speed", "0.6 m/s"}, {"time", ""}, {"distance", "120 mm"}});
  add_segment(
      cut, "move",
      {{"distance", "60 mm"}, {"time", "0.2 s"}, {"acceleration_share", "0"}, {"deceleration_share", "1"}});
  add_segment(cut, "dwell", {{"time", "0.15 s"}});
  add_segment(cut, "dwell", {{"time", "0.25 s"}});
  check_same(evaluated(whole), evaluated(cut), 1e-6);
}

TEST_CASE("a repeated group is the same cycle as its segments written out") {
  const auto move = [](Axis& axis, const char* distance) {
    add_segment(axis, "move", {{"distance", distance}, {"law", "cycloidal"}, {"time", "0.5 s"}});
  };
  Axis out = plain_axis(), repeated = plain_axis();
  out.cycle.clear();
  repeated.cycle.clear();
  for (int i = 0; i < 2; ++i) {
    for (int k = 0; k < 3; ++k) move(out, "40 mm");
    move(out, "-120 mm");
  }
  add_segment(repeated, "repeat", {{"count", "2"}});
  add_segment(repeated, "repeat", {{"count", "3"}});
  move(repeated, "40 mm");
  add_segment(repeated, "end", {});
  move(repeated, "-120 mm");
  add_segment(repeated, "end", {});
  const Evaluation a = evaluated(out), b = evaluated(repeated);
  check_same(a, b, 1e-9);
  CHECK(b.model->load->cycle.passages.size() == 8);
}

TEST_CASE("a cycle mirrored on a level axis mirrors its torque") {
  RandomAxes random(405);
  for (const char* mechanism : {"screw", "belt", "rack", "conveyor", "drum", "table", "general"})
    for (int i = 0; i < 10; ++i) {
      Axis axis = random.next_on(mechanism);
      if (axis["load"].spec().index_of("angle")) axis["load"].type("angle", "0 deg");
      Axis mirrored = axis;
      for (Section& segment : mirrored.cycle)
        if (segment.spec().id == "move") segment.type("distance", "-1*(" + segment.text("distance") + ")");
      const Evaluation a = evaluated(axis), b = evaluated(mirrored);
      const auto there = samples_of(a), back = samples_of(b);
      REQUIRE(there.size() == back.size());
      for (std::size_t k = 0; k < there.size(); ++k)
        CHECK(back[k].torque.value == Approx(-there[k].torque.value).epsilon(1e-9).margin(1e-12));
      check_same(a, b, 1e-9);
    }
}

TEST_CASE("scaling: twice the inertia or 1/√2 of the time doubles a pure inertia's torque") {
  RandomAxes random(406);
  for (int i = 0; i < 30; ++i) {
    Axis axis = axis_on("general");
    const double inertia = random.between(0.01, 2.0), time = random.between(0.2, 3.0);
    const auto peak = [&](double j, double t) {
      axis["load"].type("inertia", std::to_string(j) + " kg.m2");
      axis["load"].type("friction_torque", "0 N.m");
      axis.cycle.clear();
      add_segment(axis, "move",
                  {{"distance", "90 deg"}, {"law", "4567"}, {"time", std::to_string(t) + " s"}});
      return value(evaluated(axis), "demand.peak_torque");
    };
    const double once = peak(inertia, time);
    CHECK(peak(2.0 * inertia, time) == Approx(2.0 * once).epsilon(1e-5));
    CHECK(peak(inertia, time / std::sqrt(2.0)) == Approx(2.0 * once).epsilon(1e-5));
  }
}

TEST_CASE("the unit of entry never changes a result") {
  Axis metric = axis_on("table"), other = axis_on("table");
  metric["load"].type("inertia", "0.113 kg.m2");
  other["load"].type("inertia", "1130 kg.cm2");
  metric["load"].type("friction_torque", "0.5 N.m");
  other["load"].type("friction_torque", "500 mN.m");
  add_segment(metric, "move", {{"distance", "90 deg"}, {"law", "modified_sine"}, {"time", "0.5 s"}});
  add_segment(other, "move", {{"distance", "0.25 rev"}, {"law", "modified_sine"}, {"time", "500 ms"}});
  check_same(evaluated(metric), evaluated(other), 1e-9);
}

TEST_CASE("half the lead or twice the ratio quarters what the motor sees of the load") {
  RandomAxes random(407);
  for (const char* mechanism : {"belt", "rack", "drum", "table", "arm", "general", "conveyor"}) {
    Axis axis = random.next_on(mechanism);
    axis.stages.clear();
    axis["gearhead"].type("ratio", "3");
    const double once = evaluated(axis).demand.inertia.front().at_motor;
    axis["gearhead"].type("ratio", "6");
    CHECK(evaluated(axis).demand.inertia.front().at_motor == Approx(0.25 * once).epsilon(1e-12));
  }
}

TEST_CASE("a move made again and again counts as often as it is made") {
  RandomAxes random(4711);
  int repeated = 0;
  for (const std::string_view mechanism : all_mechanisms())
    for (int round = 0; round < rounds(3); ++round) {
      Axis once = random.next_on(mechanism);
      // three rounds of the cycle; in `unlike` they last a little longer each, which nobody takes for the
      // same
      Axis thrice = once, unlike = once;
      for (int k = 1; k <= 2; ++k)
        for (const Section& segment : once.cycle) {
          thrice.cycle.push_back(segment);
          unlike.cycle.push_back(segment);
          if (!segment.has("time") || segment.blank("time")) continue;
          char time[40];
          std::snprintf(time, sizeof time, "%.15g s", segment.term("time") * (1.0 + 1e-11 * k));
          unlike.cycle.back().type("time", time);
        }
      number_sections(thrice);
      number_sections(unlike);
      const auto a = evaluate(thrice, house_rules()), b = evaluate(unlike, house_rules());
      if (!a || !b) continue; // an endless travel may have no room for three
      INFO(mechanism << ", " << round);
      check_same(*a, *b, 1e-7);
      CHECK(std::abs(a->demand.top_speed_at.value) == Approx(std::abs(a->demand.max_speed)).epsilon(1e-9));
      for (const Stretch& stretch : a->course.stretches) repeated += stretch.again ? 1 : 0;
    }
  CHECK(repeated > 100);
}

TEST_CASE("statistics of a span: the whole is the cycle, halves add up") {
  RandomAxes random(408);
  for (const std::string_view mechanism : all_mechanisms()) {
    const Evaluation e = evaluated(random.next_on(mechanism));
    const double duration = e.model->load->cycle.duration;
    const SpanStatistics whole = statistics(*e.model, e.course, 0.0, duration);
    CHECK(whole.rms_torque == Approx(value(e, "demand.rms_torque")).epsilon(1e-9));
    CHECK(whole.shaft_energy ==
          Approx(value(e, "energy.driven") - value(e, "energy.returned")).epsilon(1e-6).margin(1e-9));
    const double middle = random.between(0.1, 0.9) * duration;
    const SpanStatistics first = statistics(*e.model, e.course, middle, 0.0),
                         second = statistics(*e.model, e.course, middle, duration);
    CHECK(first.travel + second.travel == Approx(whole.travel).margin(1e-9));
    CHECK(first.shaft_energy + second.shaft_energy == Approx(whole.shaft_energy).epsilon(1e-6).margin(1e-9));
  }
}
