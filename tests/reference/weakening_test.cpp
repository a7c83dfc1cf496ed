// Currents that the voltage shapes (weakened field, field turned ahead) against a search over the current
// plane and dense sampling of the cycle: nothing of the program's closed forms is used here.

#include "core/motor/block_heat.hpp"
#include "core/motor/brushed.hpp"
#include "core/motor/envelope.hpp"
#include "core/motor/servo.hpp"
#include "core/motor/six_step.hpp"
#include "core/motor/stepper.hpp"
#include "support/axes.hpp"

#include <catch2/catch.hpp>

#include <cmath>
#include <numbers>

using namespace fulmox;
using namespace fulmox::testing;

namespace {

struct Machine {
  double k, r, x_per_speed; ///< V·s/rad, Ω, Ω·s/rad
};

double volts(const Machine& m, double d, double q, double speed) {
  const double x = m.x_per_speed * speed;
  return std::hypot(m.r * d - x * q, m.r * q + x * d + m.k * speed);
}

/// Size of the least current with i_d <= 0 for i_q within a voltage: i_d walked down from 0, then halved in
/// on. Negative where none is found.
double walked(const Machine& m, double q, double speed, double limit, double most) {
  const double step = most / 4000.0;
  if (volts(m, 0.0, q, speed) <= limit) return std::abs(q);
  for (double d = -step; d > -most; d -= step)
    if (volts(m, d, q, speed) <= limit) {
      double in = d, out = d + step;
      for (int k = 0; k < 50; ++k) {
        const double middle = 0.5 * (in + out);
        (volts(m, middle, q, speed) <= limit ? in : out) = middle;
      }
      return std::hypot(in, q);
    }
  return -1.0;
}

} // namespace

TEST_CASE("the least current within a voltage is the one a walk over the field current finds") {
  RandomAxes random(21);
  int found = 0;
  for (int n = 0; n < 4000; ++n) {
    const double pairs = std::round(random.between(1.0, 50.0));
    const SineMachine ours{random.between(0.02, 0.6), random.between(0.05, 4.0), random.between(1e-4, 8e-3),
                           pairs};
    const Machine m{ours.k, ours.resistance, pairs * ours.inductance};
    const double speed = random.between(1.0, 500.0), limit = random.between(5.0, 300.0);
    const double q = random.between(-15.0, 15.0), most = 3.0 * m.k / m.x_per_speed + 40.0;
    const double there = walked(m, q, speed, limit, most);
    const DqCurrent i = least_current(ours, q, speed, limit);
    CHECK(i.q == q);
    CHECK(i.d <= 0.0);
    if (there < 0.0) {
      CHECK(volts(m, i.d, i.q, speed) > limit * (1.0 - 1e-3)); // at best touched between two steps
      continue;
    }
    ++found;
    CHECK(std::hypot(i.d, i.q) == Approx(there).epsilon(1e-6).margin(1e-9));
    CHECK(volts(m, i.d, i.q, speed) <= limit * (1.0 + 1e-9));
    CHECK((voltage_room(ours, q, speed, limit) < 0.0) == (i.d < 0.0));
    // and no torque is possible at the same voltage that the envelope denies
    const double all = std::hypot(i.d, i.q) * (1.0 + 1e-9);
    const DqCurrent best = best_current(ours, speed, limit, all, true, q < 0.0);
    CHECK(std::abs(best.q) >= std::abs(q) * (1.0 - 1e-6));
  }
  CHECK(found > 1500);
}

namespace {
/// A fast axis on a low bus: the servo leaves its base speed well behind.
Axis weakened_axis() {
  Axis axis = plain_axis();
  axis["surroundings"].type("bus", "48 V");
  choose_part(axis, "motor", *library().find("motor", "CR60-0400-048L"));
  choose_part(axis, "drive", *library().find("drive", "EL48-200"));
  axis["drive"].type("weakening", "yes");
  axis["mechanism"].type("lead", "5 mm");
  axis.cycle[0].type("time", "0.75 s");
  return axis;
}

struct Sampled {
  double rms = 0.0, peak = 0.0, bus = 0.0, most_share = 0.0;
};
template <class F> Sampled sampled(const Evaluation& e, const F& current_of) {
  constexpr int many = 60000;
  Sampled out;
  double square = 0.0;
  const double duration = e.model->load->cycle.duration;
  for (int i = 0; i < many; ++i) {
    const Instant now = e.at(duration * (i + 0.5) / many);
    const double gap = e.model->motor->air_gap(now.torque, now.speed, now.input.direction);
    const double current = current_of(now, gap);
    square += current * current / many;
    out.peak = std::max(out.peak, current);
    out.bus += std::max(0.0, e.model->bus_power(now.torque, now.speed, current)) / many;
  }
  out.rms = std::sqrt(square);
  return out;
}
} // namespace

TEST_CASE("a weakened servo's current over a cycle is that of dense sampling") {
  for (const char* time : {"0.75 s", "0.62 s", "0.68 s"}) {
    Axis axis = weakened_axis();
    axis.cycle[0].type("time", time);
    const Evaluation e = evaluated(axis);
    const auto& motor = dynamic_cast<const ServoMotor&>(*e.model->motor);
    const double limit_volts = e.model->supply_at(e.model->surroundings.bus_low).voltage;
    double most = 0.0;
    const Sampled by_hand = sampled(e, [&](const Instant& now, double gap) {
      const double torque_current = motor.current(gap);
      const bool brakes = gap * now.speed < 0.0;
      const Machine m{motor.k, 0.5 * (brakes ? motor.resistance : motor.warm_resistance),
                      0.5 * motor.pole_pairs * motor.inductance};
      const double q = (brakes ? -1.0 : 1.0) * std::numbers::sqrt2 * torque_current;
      const double there = walked(m, q, std::abs(now.speed), limit_volts, 60.0) / std::numbers::sqrt2;
      most = std::max(most, there - torque_current);
      return there;
    });
    INFO(time);
    REQUIRE(most > 0.1); // the field is really weakened
    CHECK(value(e, "drive.rms_current") == Approx(by_hand.rms).epsilon(1e-5));
    CHECK(value(e, "drive.peak_current") == Approx(by_hand.peak).epsilon(1e-4));
    CHECK(value(e, "drive.peak_current") >= by_hand.peak * (1.0 - 1e-9));
    CHECK(value(e, "supply.mean_power") == Approx(by_hand.bus).epsilon(1e-4));
    CHECK(limit(e, "motor.heat").demand == Approx(by_hand.rms).epsilon(1e-5));
    // the same without weakening takes less: no current beside the torque's
    axis["drive"].type("weakening", "no");
    const Evaluation plain = evaluated(axis);
    CHECK(value(plain, "drive.rms_current") < value(e, "drive.rms_current"));
    for (const Limit& rung : plain.limits) CHECK(rung.id != "motor.heat");
  }
}

namespace {
/// The same, fastest where no torque is asked: the field takes its current there, the torque takes its own
/// elsewhere.
Axis fast_without_torque() {
  Axis axis = weakened_axis();
  axis.cycle[0].type("law", "cycloidal");
  axis.cycle[0].type("time", "0.9 s");
  return axis;
}
} // namespace

TEST_CASE("the greatest current is the field's where the motor is fastest, not where torque is greatest") {
  const Evaluation e = evaluated(fast_without_torque());
  const Instant hardest = e.at(e.demand.peak_at.time);
  REQUIRE(std::abs(e.demand.peak_current_at.time - e.demand.peak_at.time) > 0.05);
  const Sampled dense = sampled(e, [](const Instant& now, double) { return now.current; });
  CHECK(value(e, "drive.peak_current") == Approx(dense.peak).epsilon(1e-5));
  CHECK(value(e, "drive.peak_current") > 1.05 * hardest.current);
}

TEST_CASE("the overload of a weakened servo's drive counts the field's current") {
  for (Axis axis : {weakened_axis(), fast_without_torque()}) {
    const Evaluation first = evaluated(axis);
    const double rms = value(first, "drive.rms_current");
    axis["drive"].type("continuous_current", std::to_string(rms * 1.05) + " A");
    const Evaluation e = evaluated(axis);
    // W′ = I² − I_c², never below 0, in the second of two cycles
    constexpr int many = 60000;
    const double duration = e.model->load->cycle.duration, step = duration / many;
    double level = 0.0, most = 0.0;
    for (int cycle = 0; cycle < 2; ++cycle) {
      most = 0.0;
      for (int i = 0; i < many; ++i) {
        const double current = e.at(duration * (i + 0.5) / many).current;
        level = std::max(0.0, level + step * (current * current - rms * rms * 1.05 * 1.05));
        most = std::max(most, level);
      }
    }
    CHECK(limit(e, "drive.peak_time").demand == Approx(most).epsilon(1e-3));
  }
}

TEST_CASE("a stepper under control of its load angle takes the current that a walk finds") {
  Axis axis = plain_axis();
  axis["surroundings"].type("bus", "48 V");
  choose_part(axis, "motor", parts_of_form("motor", closed_stepper_section()).back());
  choose_part(axis, "drive", *library().find("drive", "SS50-060"));
  for (const auto& [volts_field, curve] : pull_out_fields()) {
    axis["motor"].type(curve, "");
    axis["motor"].type(volts_field, "");
  }
  for (const char* distance : {"40 mm", "80 mm", "110 mm"}) {
    axis.cycle[0].type("distance", distance);
    for (const char* least : {"", "30 %"}) {
      axis["motor"].type("least_current", least);
      const Evaluation e = evaluated(axis);
      const auto& motor = dynamic_cast<const StepperMotor&>(*e.model->motor);
      const double limit_volts = e.model->supply_at(e.model->surroundings.bus_low).voltage;
      const Sampled by_hand = sampled(e, [&](const Instant& now, double gap) {
        const bool brakes = gap * now.speed < 0.0;
        const Machine m{motor.k_emf, brakes ? motor.resistance : motor.warm_resistance,
                        motor.teeth * motor.inductance};
        const double q = std::abs(gap) / motor.k_torque;
        double all = now.input.direction == 0.0
                         ? q
                         : walked(m, brakes ? -q : q, std::abs(now.speed), limit_volts, 40.0);
        if (all < 0.0 || all > motor.crest) all = motor.crest;
        return std::max({all, q, motor.least_share * motor.crest}) / std::numbers::sqrt2;
      });
      INFO(distance << ", least " << least);
      CHECK(value(e, "drive.rms_current") == Approx(by_hand.rms).epsilon(1e-4));
      CHECK(value(e, "drive.peak_current") == Approx(by_hand.peak).epsilon(1e-3));
      CHECK(value(e, "supply.mean_power") == Approx(by_hand.bus).epsilon(1e-3));
      CHECK(limit(e, "motor.heat").demand == Approx(by_hand.rms).epsilon(1e-4));
      CHECK(limit(e, "motor.heat").capacity ==
            Approx(std::max(motor.least_share * motor.crest,
                            (limit(e, "motor.rms").capacity + motor.drag(value(e, "demand.mean_speed"))) /
                                motor.k_torque) /
                   std::numbers::sqrt2));
    }
  }
}

TEST_CASE("what a stepper gives under control of its load angle is the best a search finds") {
  RandomAxes random(22);
  for (int n = 0; n < rounds(200); ++n) {
    StepperMotor motor;
    motor.by_load_angle = true;
    motor.microsteps = {256.0, ""};
    motor.k_torque = {random.between(0.1, 1.0), ""};
    motor.k_emf = {motor.k_torque * random.between(1.0, 1.3), ""};
    motor.crest = {random.between(1.0, 8.0), ""};
    motor.resistance = {random.between(0.2, 3.0), ""};
    motor.warm_resistance = {motor.resistance * 1.3, ""};
    motor.inductance = {random.between(0.5e-3, 8e-3), ""};
    const double speed = random.between(1.0, 200.0), supply = random.between(20.0, 80.0);
    const Machine m{motor.k_emf, motor.warm_resistance, motor.teeth * motor.inductance};
    double best = 0.0;
    for (int k = 0; k <= 9000; ++k) { // along the greatest current, and inside on the voltage's limit
      const double angle = 0.5 * std::numbers::pi * k / 9000.0;
      double in = 0.0, out = motor.crest;
      const auto fits = [&](double size) {
        return volts(m, -size * std::sin(angle), size * std::cos(angle), speed) <= supply;
      };
      if (!fits(out)) {
        // the voltage's circle may leave out the origin: walk from outside
        double size = out;
        while (size > 0.0 && !fits(size)) size -= motor.crest / 400.0;
        if (size <= 0.0) continue;
        in = size;
        out = std::min(motor.crest.value, size + motor.crest / 400.0);
        for (int h = 0; h < 30; ++h) (fits(0.5 * (in + out)) ? in : out) = 0.5 * (in + out);
      } else {
        in = out;
      }
      best = std::max(best, motor.k_torque * in * std::cos(angle));
    }
    INFO(n);
    CHECK(motor.peak_torque(speed, {supply, 1e9, false}, false) == Approx(best).epsilon(2e-4).margin(1e-3));
    // sine currents never give more than a chopper that runs into its rails; where the back-EMF rules, it is
    // its fixed setting that gives less
    if (motor.k_emf > 0.7 * motor.teeth * motor.inductance * motor.crest) continue;
    const double chopped = (*pull_out_curve(motor.machine_at(supply)))(speed);
    if (chopped > 0.0) CHECK(best <= 1.02 * chopped + 1e-3);
  }
}

TEST_CASE("set above its rating a stepper promises no more torque") {
  Axis axis = plain_axis();
  axis["surroundings"].type("bus", "48 V");
  choose_part(axis, "motor", *library().find("motor", "HS23-76-42"));
  choose_part(axis, "drive", *library().find("drive", "SS50-060"));
  for (const auto& [volts_field, curve] : pull_out_fields()) {
    axis["motor"].type(curve, "");
    axis["motor"].type(volts_field, "");
  }
  axis["drive"].type("current_as", "crest");
  axis["drive"].type("current_setting", "");
  const auto motor = [&] {
    return std::dynamic_pointer_cast<const StepperMotor>(evaluated(axis).model->motor);
  };
  const auto rated = motor();
  axis["drive"].type("current_setting", std::to_string(1.3 * rated->crest) + " A");
  const auto above = motor();
  REQUIRE(above->crest == Approx(1.3 * rated->crest));
  CHECK(above->holding() == Approx(rated->holding()));
  CHECK(above->k_emf == Approx(rated->k_emf));
  CHECK(above->pull_out_torque(1.0, 48.0) <= rated->pull_out_torque(1.0, 48.0) * 1.001);
  axis["drive"].type("current_setting", std::to_string(0.7 * rated->crest) + " A");
  CHECK(motor()->holding() == Approx(0.7 * rated->holding()));
}

// NdFeB −0.12 %/K, SmCo −0.03 %/K, ferrite −0.20 %/K (common practice); class F 155 °C from 40 °C: 109 °C.
TEST_CASE("hot magnets cost amperes and torque, cold ones volts") {
  Axis axis = plain_axis();
  axis["surroundings"].type("bus", "48 V");
  choose_part(axis, "motor", *library().find("motor", "CR60-0400-048L"));
  choose_part(axis, "drive", *library().find("drive", "EL48-200"));
  axis["motor"].type("peak_current", ""); // no maker's peak point: torque is straight
  const Evaluation cold = evaluated(axis);
  for (const auto& [kind, factor] : {std::pair{"NdFeB", 1.0 - 0.0012 * 89.0},
                                     {"SmCo", 1.0 - 0.0003 * 89.0},
                                     {"ferrite", 1.0 - 0.002 * 89.0}}) {
    axis["motor"].type("magnet", kind);
    const Evaluation hot = evaluated(axis);
    INFO(kind);
    CHECK(value(hot, "drive.rms_current") == Approx(value(cold, "drive.rms_current") / factor).epsilon(1e-6));
    CHECK(value(hot, "drive.peak_current") == Approx(value(cold, "drive.peak_current") / factor));
    const auto& before = dynamic_cast<const ServoMotor&>(*cold.model->motor);
    const auto& after = dynamic_cast<const ServoMotor&>(*hot.model->motor);
    CHECK(after.k == Approx(before.k));
    CHECK(after.emf(100.0) == Approx(before.emf(100.0)));
    // volts: the current of hot magnets against the back-EMF of cold ones, above either alone
    CHECK(limit(hot, "drive.voltage").demand > limit(cold, "drive.voltage").demand);
    const MotorSupply supply{hot.model->supply_at(48.0).voltage, 30.0, false};
    CHECK(
        after.peak_limits(0.0, supply, false).current ==
        Approx(factor * before.peak_limits(0.0, supply, false).current + (factor - 1.0) * before.drag(0.0)));
    CHECK(after.peak_limits(400.0, supply, false).voltage ==
          Approx(factor * (before.peak_limits(400.0, supply, false).voltage + before.drag(400.0)) -
                 before.drag(400.0)));
    CHECK(after.least_peak(50.0, 420.0, supply, true) <=
          after.peak_torque(420.0, supply, true) * (1.0 + 1e-12));
    // a stop meets the cold motor
    CHECK(after.most_torque_of_current(10.0) == Approx(before.torque_of_current(10.0)));
    CHECK(value(hot, "motor.constant_hot") == Approx(factor * before.kt));
    CHECK(value(hot, "motor.resistance_warm") == Approx(before.resistance * (1.0 + 0.00393 * 135.0)));
    CHECK_FALSE(warns(hot, "kt_ke_disagree"));
    CHECK_FALSE(warns(hot, "sheet_rated"));
  }
  axis["motor"].type("magnet", "NdFeB");
  axis["motor"].type("magnet_temperature", "70 °C");
  CHECK(value(evaluated(axis), "drive.rms_current") ==
        Approx(value(cold, "drive.rms_current") / (1.0 - 0.0012 * 50.0)).epsilon(1e-6));
}

TEST_CASE("six-step and brushed motors: hot magnets cost amperes and torque, cold ones volts") {
  for (const SectionSpec* form : {&six_step_motor_section(), &brushed_motor_section()}) {
    Axis axis = plain_axis();
    axis["surroundings"].type("bus", "48 V");
    axis["mechanism"].type("lead", "5 mm");
    choose_part(axis, "motor", parts_of_form("motor", *form).back());
    axis["motor"].type("peak_curve", "");
    const Evaluation cold = evaluated(axis);
    axis["motor"].type("magnet", "ferrite");
    axis["motor"].type("magnet_temperature", "70 °C");
    const Evaluation hot = evaluated(axis);
    constexpr double factor = 1.0 - 0.002 * 50.0;
    INFO(form->title);
    const auto& before = dynamic_cast<const DcFedMotor&>(*cold.model->motor);
    const auto& after = dynamic_cast<const DcFedMotor&>(*hot.model->motor);
    CHECK(after.kt == Approx(factor * before.kt));
    CHECK(after.current(0.3) == Approx(before.current(0.3) / factor));
    CHECK(after.most_torque_of_current(5.0) == Approx(before.torque_of_current(5.0)));
    // volts: the current of hot magnets against the back-EMF of cold ones
    CHECK(after.voltage(0.3, 100.0, 1.0) >= before.voltage(0.3 / factor, 100.0, 1.0) * (1.0 - 1e-9));
    CHECK(after.voltage(1e-9, 100.0, 1.0) == Approx(before.voltage(1e-9, 100.0, 1.0)));
    CHECK(after.emf(50.0) == before.emf(50.0));
    for (const double speed : {0.0, 100.0, 200.0}) {
      const PeakLimits a = after.peak_limits(speed, {40.0, 8.0, false}, false),
                       b = before.peak_limits(speed, {40.0, 8.0, false}, false);
      CHECK(a.voltage + after.drag(speed) == Approx(factor * (b.voltage + before.drag(speed))));
      CHECK(a.current + after.drag(speed) == Approx(factor * (b.current + before.drag(speed))));
    }
    CHECK(value(hot, "drive.peak_current") > value(cold, "drive.peak_current"));
  }
}

TEST_CASE("a six-step motor's peak current counts overlapping phases also where no bus is told") {
  Axis axis = plain_axis();
  axis["surroundings"].type("bus", "48 V");
  axis["mechanism"].type("lead", "5 mm");
  choose_part(axis, "motor", parts_of_form("motor", six_step_motor_section()).back());
  const Evaluation with = evaluated(axis);
  axis["surroundings"].type("bus", "");
  const Evaluation without = evaluated(axis);
  CHECK(value(without, "drive.rms_current") == Approx(value(with, "drive.rms_current")));
  CHECK(value(without, "drive.peak_current") == Approx(value(with, "drive.peak_current")));
  const Instant hardest = with.at(with.demand.peak_current_at.time);
  CHECK(value(without, "drive.peak_current") >
        1.0001 * with.model->motor->current(
                     with.model->motor->air_gap(hardest.torque, hardest.speed, hardest.input.direction)));
}
