// Steppers against published numbers of the trade, closed forms, and codes of their own: a switched chopper
// and a swinging rotor stepped in time.

#include "core/drive/stepper_drive.hpp"
#include "core/limits/stepper_band.hpp"
#include "core/motor/stepper.hpp"
#include "core/motor/stepper_formulas.hpp"
#include "reference/numbers.hpp"
#include "support/axes.hpp"

#include <catch2/catch.hpp>

#include <cmath>
#include <numbers>

using namespace fulmox;
using namespace fulmox::testing;

namespace {

/// 1.2 N·m with 3 A in both phases, 0.8 Ω, 3 mH, 36 V; crest 4.243 A: the same heat.
ChoppedStepper example(double microsteps = 256.0) {
  const double k = stepper_constant(1.2, 3.0);
  return {k, k, 0.8, 3e-3, 50.0, crest_for_rated(3.0), 36.0, microsteps};
}

double at_steps(const ChoppedStepper& machine, double full_steps) {
  return pull_out(machine, speed_of_steps(full_steps, 4.0 * machine.teeth)).phase.torque;
}

/// Mean torque of a bridge that really switches, 40 kHz, both switches at once (fast decay), speed and lead
/// imposed; several periods, the last one counts.
double switched_torque(const ChoppedStepper& m, double speed, double lead) {
  const double omega_e = m.teeth * speed, period = 2.0 * pi / omega_e, h = 1e-7;
  const double chop = 1.0 / 40e3;
  double i = 0.0, sum = 0.0, next = 0.0, sign = 1.0;
  const int periods = 6;
  long counted = 0;
  for (double t = 0.0; t < periods * period; t += h) {
    const double angle = omega_e * t, wanted = m.current * std::cos(angle + lead);
    const double emf = -m.k_emf * speed * std::sin(angle);
    if (t >= next) { // decided once a chop period: the voltage whose mean brings the current there
      const double volts = m.inductance * (wanted - i) / chop + m.resistance * i + emf;
      sign = std::clamp(volts / m.volts, -1.0, 1.0);
      next = t + chop;
    }
    const double phase = (t - (next - chop)) / chop; // duty of +V, then −V
    const double volts = phase < 0.5 * (1.0 + sign) ? m.volts : -m.volts;
    i += h * (volts - m.resistance * i - emf) / m.inductance;
    if (t > (periods - 1) * period) {
      sum += -2.0 * m.k_torque * i * std::sin(angle);
      ++counted;
    }
  }
  return sum / static_cast<double>(counted);
}

/// Fundamental of a leg that switches in squares of ±½ (apart 0), or between two legs `apart` rad. A
/// function, not a lambda: that would be worked out while compiling, in twenty seconds.
double fundamental(double apart) {
  const int many = 36000;
  double sum = 0.0;
  for (int i = 0; i < many; ++i) {
    const double angle = 2.0 * pi * (i + 0.5) / many;
    const double one = std::sin(angle) > 0.0 ? 0.5 : -0.5;
    const double other = apart == 0.0 ? 0.0 : std::sin(angle - apart) > 0.0 ? 0.5 : -0.5;
    sum += 2.0 / many * (one - other) * std::sin(angle - (apart == 0.0 ? 0.0 : 0.5 * (apart - pi)));
  }
  return sum;
}

} // namespace

// The numbers of the calculation reference, recomputed there by an independent program.
TEST_CASE("pull-out of the averaged chopper") {
  const double rates[] = {1000.0, 2000.0, 3000.0, 6000.0};
  const auto check = [&](double microsteps, std::initializer_list<double> expected, double within) {
    int k = 0;
    for (const double torque : expected) {
      INFO(microsteps << " microsteps at " << rates[k] << " steps/s");
      CHECK(at_steps(example(microsteps), rates[k++]) == Approx(torque).epsilon(within));
    }
  };
  check(256.0, {1.196, 1.121, 0.847, 0.438}, 0.015);
  check(16.0, {1.196, 1.113, 0.844, 0.437}, 0.015);
  check(4.0, {1.180, 1.073, 0.823, 0.427}, 0.02);
  check(1.0, {1.051, 0.966, 0.834, 0.445}, 0.01);
  ChoppedStepper both = example(1.0); // each phase at 4.243 A
  both.current *= std::numbers::sqrt2;
  CHECK(at_steps(both, 1000.0) == Approx(1.448).epsilon(0.01));
  CHECK(at_steps(both, 3000.0) == Approx(0.887).epsilon(0.01));
  CHECK(corner_speed(example()) / rpm == Approx(473.0).epsilon(2e-3));
}

TEST_CASE("the shape of the pull-out curve over the corner speed") {
  const double speeds[] = {1.1, 1.25, 1.5, 2.0, 3.0, 5.0};
  const auto check = [&](double kappa, std::initializer_list<double> expected) {
    ChoppedStepper m{0.0, 0.0, 0.3, 2e-3, 50.0, 4.0, 12.0, 256.0}; // V = 10·R·I
    m.k_torque = m.k_emf = kappa * m.teeth * m.inductance * m.current;
    int k = 0;
    for (const double share : expected) {
      const double torque = pull_out(m, speeds[k] * corner_speed(m)).phase.torque / (m.k_torque * m.current);
      INFO("kappa " << kappa << " at " << speeds[k]);
      CHECK(torque == Approx(share).margin(0.012));
      ++k;
    }
  };
  check(0.2, {0.989, 0.945, 0.842, 0.654, 0.436, 0.262});
  check(0.5, {0.990, 0.950, 0.862, 0.697, 0.479, 0.287});
  check(1.0, {0.989, 0.950, 0.866, 0.712, 0.511, 0.322});
  check(2.0, {0.982, 0.919, 0.781, 0.514, 0.092});
}

TEST_CASE("the averaged chopper stands for one that switches") {
  const ChoppedStepper m = example();
  for (const double steps : {1000.0, 2000.0, 3000.0, 6000.0}) {
    const double speed = speed_of_steps(steps, 4.0 * m.teeth);
    const PullOut best = pull_out(m, speed);
    INFO(steps << " steps/s");
    CHECK(switched_torque(m, speed, best.lead) == Approx(best.phase.torque).epsilon(0.06));
  }
}

TEST_CASE("power closes at the terminals of a stepper") {
  RandomAxes random(5);
  for (int n = 0; n < 60; ++n) {
    ChoppedStepper m = example();
    m.resistance = random.between(0.2, 3.0);
    m.inductance = random.between(0.5e-3, 8e-3);
    m.volts = random.between(12.0, 80.0);
    const double speed = random.between(5.0, 200.0);
    const SteadyPhase p = steady_phase(m, speed, random.between(-1.0, 2.5));
    // one constant for torque and EMF: what goes in is shaft and copper
    CHECK(p.power ==
          Approx(p.torque * speed + 2.0 * m.resistance * p.mean_square).epsilon(1e-6).margin(1e-3));
  }
}

TEST_CASE("the kept curve is never above the model and falls with speed") {
  for (const double volts : {24.0, 36.0, 72.0})
    for (const double microsteps : {1.0, 16.0}) {
      ChoppedStepper m = example(microsteps);
      m.volts = volts;
      const PullOutCurve curve(m);
      double before = 1e9;
      for (double n = 20.0; n < 3000.0; n += 37.0) {
        const double torque = curve(n * rpm), model = pull_out(m, n * rpm).phase.torque;
        INFO(volts << " V, " << n << " rpm");
        CHECK(torque <= before * (1.0 + 1e-12));
        CHECK(torque <= std::max(0.0, model) * 1.004 + 1e-6);
        CHECK(torque >= 0.97 * std::max(0.0, model) - 0.004);
        before = torque;
      }
    }
}

// Common practice: about half the holding torque near 500 rpm and a tenth near 1500 rpm at low voltage; twice
// the voltage roughly doubles the torque far up.
TEST_CASE("a low-voltage stepper is as weak at speed as the trade knows it") {
  ChoppedStepper m = example();
  m.volts = 12.0; // five times R·I
  CHECK(pull_out(m, 500.0 * rpm).phase.torque / 1.2 == Approx(0.5).margin(0.15));
  CHECK(pull_out(m, 1500.0 * rpm).phase.torque / 1.2 == Approx(0.08).margin(0.06));
  m.volts = 24.0;
  const double low = pull_out(m, 1200.0 * rpm).phase.torque;
  m.volts = 48.0;
  CHECK(pull_out(m, 1200.0 * rpm).phase.torque / low == Approx(2.0).margin(0.3));
}

TEST_CASE("closed forms of the stepper") {
  // the resonance example of the trade: 50 teeth, 0.28 N·m, 120 g·cm² is 172 Hz
  CHECK(step_resonance(50.0, 0.28, 120e-7) == Approx(172.0).epsilon(2e-3));
  CHECK(pulse_rate(300.0 * rpm, 200.0, 250.0) == Approx(250e3)); // 50 000 a turn
  CHECK(2.0 * pi / (4.0 * 50.0) == Approx(1.8 * pi / 180.0));
  // without friction exactly 8 f_res
  const double f = step_resonance(50.0, 1.2, 90e-6);
  CHECK(f == Approx(129.95).epsilon(1e-4));
  const auto start = [&](double share) {
    return pull_in_speed(50.0, 1.2, 90e-6, share * 1.2) / speed_of_steps(f, 200.0);
  };
  CHECK(start(0.0) == Approx(8.0));
  CHECK(start(0.1) == Approx(7.37).epsilon(1e-3));
  CHECK(start(0.3) == Approx(6.06).epsilon(1e-3));
  CHECK(start(0.5) == Approx(4.68).epsilon(1e-3));
  CHECK(start(1.0) == 0.0);
  // load angle of a tenth, a quarter and a half of the holding torque, 50 teeth
  const double degrees[] = {0.1148, 0.2896, 0.6};
  const double shares[] = {0.1, 0.25, 0.5};
  for (int k = 0; k < 3; ++k)
    CHECK(load_angle(shares[k], 1.0, 50.0) * 180.0 / pi == Approx(degrees[k]).epsilon(1e-3));
}

// A rotor in its magnetic spring whose field starts at once, stepped in time: an energy bound of its own.
TEST_CASE("the start speed is where a rotor still follows") {
  const double teeth = 50.0, hold = 1.2, inertia = 90e-6;
  const auto follows = [&](double field_speed, double friction) {
    double angle = 0.0, speed = 0.0, field = 0.0;
    const double h = 1e-7;
    for (int n = 0; n < 400000; ++n) {
      field += h * field_speed;
      const double torque = hold * std::sin(teeth * (field - angle));
      const double against = speed > 0.0 ? friction : std::min(friction, std::max(torque, 0.0));
      speed += h * (torque - against) / inertia;
      angle += h * speed;
      if (teeth * (field - angle) > 1.5 * pi) return false;
      if (speed > field_speed && teeth * (field - angle) < 0.5 * pi) return true; // caught up
    }
    return true;
  };
  for (const double share : {0.0, 0.1, 0.3, 0.5}) {
    const double limit = pull_in_speed(teeth, hold, inertia, share * hold);
    INFO("friction " << share);
    CHECK(follows(0.99 * limit, share * hold));
    CHECK_FALSE(follows(1.01 * limit, share * hold));
  }
}

TEST_CASE("connections: series at a voltage is parallel at half of it, and heat stays") {
  const auto motor = [](const char* connection, const char* setting) {
    Section sheet(stepper_motor_section()), drive(bipolar_drive_section());
    for (const auto& [field, text] :
         std::initializer_list<std::pair<std::string_view, std::string_view>>{{"inertia", "300 g.cm2"},
                                                                              {"holding_torque", "0.9 N.m"},
                                                                              {"rated_current", "2 A"},
                                                                              {"rated_for", "unipolar"},
                                                                              {"leads", "8"},
                                                                              {"resistance", "1.2 Ohm"},
                                                                              {"inductance", "2 mH"}})
      sheet.type(field, text);
    sheet.type("connection", connection);
    drive.type("current_setting", setting);
    drive.type("microsteps", "64");
    Recorder silent(false);
    return StepperMotor::from(sheet, StepperDrive(drive, Feed::bridges), silent);
  };
  const StepperMotor series = motor("series", "2 A"), parallel = motor("parallel", "4 A");
  CHECK(series.rated_current == Approx(2.0 / std::sqrt(2.0)));
  CHECK(parallel.rated_current == Approx(2.0 * std::sqrt(2.0)));
  CHECK(series.holding_rated == Approx(0.9 * std::sqrt(2.0))); // 41 % more than unipolar
  CHECK(parallel.holding_rated == Approx(0.9 * std::sqrt(2.0)));
  CHECK(motor("half", "2 A").holding_rated == Approx(0.9));
  CHECK(series.resistance == Approx(2.4));
  CHECK(series.inductance == Approx(8e-3));
  CHECK(parallel.resistance == Approx(0.6));
  for (const double n : {100.0, 400.0, 900.0, 1500.0})
    CHECK(series.pull_out_torque(n * rpm, 48.0) ==
          Approx(parallel.pull_out_torque(n * rpm, 24.0)).epsilon(1e-9));
  // the same copper loss at their ratings
  CHECK(series.copper(series.rated_current) == Approx(parallel.copper(parallel.rated_current)));
  CHECK(series.copper(series.rated_current) == Approx(2.0 * 1.2 * 4.0));
  CHECK(series.copper(series.current(0.0)) == Approx(2.4 * 2.0 * 2.0)); // R·I_set²
}

TEST_CASE("a measured curve wins, and is scaled by the model") {
  const Section part = *library().find("motor", "HS23-56-28");
  const auto at = [&](const char* setting, double volts, double n) {
    Section drive(bipolar_drive_section());
    drive.type("current_setting", setting);
    drive.type("microsteps", "64");
    Recorder silent(false);
    return StepperMotor::from(part, StepperDrive(drive, Feed::bridges), silent)
        .pull_out_torque(n * rpm, volts);
  };
  const auto& table = part.entry("pullout_curve_2").curve; // at 48 V and the rated current
  for (const CurvePoint& point : table)
    CHECK(at("3.95979797 A", 48.0, point[0] / rpm) == Approx(point[1]).epsilon(1e-6));
  CHECK(at("3.95979797 A", 48.0, 20.0) == Approx(table.front()[1]));        // below the first point: as there
  CHECK(at("3.95979797 A", 48.0, table.back()[0] / rpm + 1.0) == 0.0);      // beyond the last: nothing
  CHECK(at("3.95979797 A", 36.0, 600.0) < at("3.95979797 A", 48.0, 600.0)); // between two voltages
  CHECK(at("3.95979797 A", 36.0, 600.0) > at("3.95979797 A", 24.0, 600.0));
  CHECK(at("2 A", 48.0, 100.0) == Approx(at("3.95979797 A", 48.0, 100.0) * 2.0 / 3.96).epsilon(0.05));
  // half the current at speed: within a tenth of what the model gives without any table
  Section bare = part;
  for (const auto& [volts, curve] : pull_out_fields()) {
    bare.type(volts, "");
    bare.type(curve, "");
  }
  for (const double n : {300.0, 700.0, 1200.0}) {
    Section drive(bipolar_drive_section());
    drive.type("current_setting", "2 A");
    drive.type("microsteps", "64");
    Recorder silent(false);
    const double model =
        StepperMotor::from(bare, StepperDrive(drive, Feed::bridges), silent).pull_out_torque(n * rpm, 48.0);
    INFO(n);
    CHECK(at("2 A", 48.0, n) == Approx(model).epsilon(0.1));
  }
  CHECK(at("3.95979797 A", 60.0, 1000.0) > at("3.95979797 A", 48.0, 1000.0));
}

TEST_CASE("a measured curve is not believed beyond twice the model, at its own voltage and current neither") {
  const Section part = *library().find("motor", "HS23-56-28");
  for (const char* setting : {"", "3 A"}) {
    Section drive(bipolar_drive_section());
    drive.type("current_setting", setting);
    drive.type("microsteps", "64");
    Recorder silent(false);
    StepperMotor measured = StepperMotor::from(part, StepperDrive(drive, Feed::bridges), silent);
    StepperMotor bare = measured;
    bare.tables.clear();
    PullOutTable& table = measured.tables.back();
    CHECK(table.volts == 48.0);
    for (CurvePoint& point : table.points) point[1] *= 8.0;
    for (const double n : {200.0, 1500.0, 2500.0}) {
      INFO(setting << " " << n);
      const double model = bare.pull_out_torque(n * rpm, 48.0);
      CHECK(model < 0.5 * table(n * rpm));
      if (n > 2000.0) CHECK(2.0 * model < measured.holding());
      CHECK(measured.pull_out_torque(n * rpm, 48.0) ==
            Approx(std::min(2.0 * model, measured.holding())).epsilon(1e-9));
    }
  }
}

namespace {
Axis axis_with_stepper() {
  Axis axis = plain_axis();
  axis["surroundings"].type("bus", "48 V");
  choose_part(axis, "motor", *library().find("motor", "HS23-76-42"));
  choose_part(axis, "drive", *library().find("drive", "SS50-060"));
  axis["drive"].type("microsteps", "16");
  axis["drive"].type("controller_rate", "100 kHz");
  axis.cycle[0].type("distance", "40 mm");
  return axis;
}
} // namespace

TEST_CASE("limits of an axis with a stepper agree with its own moments") {
  Axis axis = axis_with_stepper();
  axis["drive"].type("start_speed", "60 rpm");
  const Evaluation e = evaluated(axis);
  const auto& motor = dynamic_cast<const StepperMotor&>(*e.model->motor);
  const MotorSupply supply = e.model->supply_at(48.0);
  double worst = 0.0;
  for (int i = 0; i <= 20000; ++i) {
    const Instant now = e.at(e.model->load->cycle.duration * i / 20000);
    if (now.input.direction != 0.0)
      worst = std::max(worst, 1.5 * std::abs(now.torque) / motor.peak_torque(now.speed, supply, false));
  }
  CHECK(limit(e, "stepper.pullout").used >= worst * (1.0 - 1e-9));
  CHECK(limit(e, "stepper.pullout").used == Approx(worst).epsilon(2e-3));
  CHECK(limit(e, "stepper.pullout_low").used > limit(e, "stepper.pullout").used);
  for (const Limit& rung : e.limits) { // those of servos do not stand beside them
    CHECK(rung.id != "motor.peak");
    CHECK(rung.id != "motor.rms");
    CHECK(rung.id != "drive.rms");
  }
  const double inertia = value(e, "inertia.load") + motor.inertia;
  CHECK(limit(e, "stepper.start").capacity ==
        Approx(pull_in_speed(50.0, motor.holding(), inertia, std::abs(value(e, "breakaway.torque")))));
  CHECK(limit(e, "stepper.pulses").demand ==
        Approx(value(e, "demand.max_speed") / (2.0 * pi) * 200.0 * 16.0));
  CHECK(limit(e, "inertia.ratio").capacity == 10.0);
  // the phase current does not follow the torque
  CHECK(value(e, "drive.rms_current") == Approx(motor.crest / std::sqrt(2.0)));
  // supply: copper all the time
  CHECK(value(e, "supply.mean_power") >= motor.copper(motor.crest / std::sqrt(2.0)));
}

TEST_CASE("the current kept at rest lowers heat with its square and the hold with it") {
  Axis axis = axis_with_stepper();
  axis["load"].type("angle", "30 deg"); // gravity pulls at rest
  add_dwell(axis, "0.6 s");
  const Evaluation full = evaluated(axis);
  axis["drive"].type("standing_current", "50 %");
  const Evaluation half = evaluated(axis);
  CHECK(limit(half, "stepper.standing").used == Approx(2.0 * limit(full, "stepper.standing").used));
  const double resting = 0.6 / full.model->load->cycle.duration, moving = 1.0 - resting;
  CHECK(std::pow(value(half, "drive.rms_current") / value(full, "drive.rms_current"), 2) ==
        Approx(moving + 0.25 * resting));
}

TEST_CASE("time in the resonance band is cut exactly") {
  Axis axis = axis_with_stepper();
  const Evaluation e = evaluated(axis);
  const double centre = speed_of_steps(limit(e, "stepper.resonance").capacity, 200.0);
  (void)centre;
  const auto& motor = dynamic_cast<const StepperMotor&>(*e.model->motor);
  const double inertia = value(e, "inertia.load") + motor.inertia;
  const double speed = speed_of_steps(step_resonance(50.0, motor.holding(), inertia), 200.0);
  const SpeedBand band = resonance_band(speed);
  const BandStay stay = longest_in_band(*e.model, e.course, band);
  // a straight ramp passes half its centre at a constant acceleration, twice in the move
  const double acceleration = e.at(1e-3).acceleration;
  CHECK(stay.longest == Approx(0.5 * speed / acceleration).epsilon(1e-9));
  CHECK(stay.total == Approx(2.0 * stay.longest).epsilon(1e-9));
  CHECK(limit(e, "stepper.resonance").demand == Approx(stay.longest));
  // a run in the band is all of it
  Axis slow = axis_with_stepper();
  slow.cycle.clear();
  char text[32];
  std::snprintf(text, sizeof text, "%.6f mm/s", speed / (2.0 * pi) * 10.0);
  add_segment(slow, "run", {{"speed", text}, {"time", "2 s"}});
  CHECK(limit(evaluated(slow), "stepper.resonance").demand == Approx(2.0));
}

TEST_CASE("closed over the load angle a stepper is judged like a servo, its current follows the torque") {
  Axis axis = axis_with_stepper();
  choose_part(axis, "motor", parts_of_form("motor", closed_stepper_section()).back());
  axis["motor"].type("least_current", "30 %");
  const Evaluation e = evaluated(axis);
  const auto& motor = dynamic_cast<const StepperMotor&>(*e.model->motor);
  REQUIRE(motor.by_load_angle);
  CHECK(limit(e, "motor.peak").capacity > 0.0);
  CHECK(limit(e, "motor.rms").capacity > 0.0);
  for (const Limit& rung : e.limits) {
    CHECK(rung.id != "stepper.pullout");
    CHECK(rung.id != "stepper.resonance");
    CHECK(rung.id != "drive.peak"); // rated by a crest: judged by what is set
  }
  CHECK(limit(e, "drive.setting").demand == Approx(motor.crest));
  CHECK_FALSE(warns(e, "stepper_lost"));
  // room for control is left below what voltage and current give
  const Instant worst = e.at(limit(e, "motor.peak").moment->time);
  CHECK(limit(e, "motor.peak").capacity ==
        Approx(motor.peak_torque(worst.speed, e.model->supply_at(48.0), false) / 1.2));
  CHECK(e.torque_use == Approx(1.0 / 1.2));
  CHECK(motor.torque_of_current(motor.current(0.9 * motor.holding())) == Approx(0.9 * motor.holding()));
  // an encoder that only makes up for lost steps changes nothing but the caution
  axis["motor"].type("control", "compensating");
  const Evaluation after = evaluated(axis);
  CHECK(limit(after, "stepper.pullout").capacity > 0.0);
  CHECK_FALSE(warns(after, "stepper_lost"));
}

TEST_CASE("leads, connection and drive that do not go together are told") {
  Axis axis = axis_with_stepper();
  const auto told = [&](std::string_view words) {
    const Evaluation e = evaluated(axis);
    INFO(words);
    REQUIRE(e.limits.front().id == "drive.match");
    CHECK(e.limits.front().rule.find(words) != std::string::npos);
  };
  axis["motor"].type("connection", "parallel");
  told("4 leads only whole phases");
  axis["motor"].type("leads", "6");
  told("cannot be put in parallel");
  axis["motor"].type("connection", "unipolar");
  told("feeds whole coils");
  choose_part(axis, "drive", *library().find("drive", "SU48-030"));
  for (const Limit& rung : evaluated(axis).limits) CHECK(rung.id != "drive.match");
  axis["motor"].type("connection", "series");
  told("needs the half coils");
  choose_part(axis, "drive", *library().find("drive", "EM325-017"));
  told("two separate phases");
}

TEST_CASE("a measured curve that rises, or without its voltage, is refused with the two points") {
  Axis axis = axis_with_stepper();
  axis["motor"].type("pullout_curve", "60 rpm: 1 N.m; 300 rpm: 1.2 N.m; 600 rpm: 0.4 N.m");
  auto problems = faults(axis);
  REQUIRE(problems.size() == 1);
  CHECK(problems.front().where == "motor.pullout_curve");
  CHECK(problems.front().what.find("60.0 rpm") != std::string::npos);
  CHECK(problems.front().what.find("300 rpm") != std::string::npos);
  CHECK_FALSE(evaluate(axis, house_rules()));
  axis["motor"].type("pullout_curve", "60 rpm: 1 N.m; 300 rpm: 1.02 N.m; 600 rpm: 0.4 N.m"); // scatter
  CHECK(faults(axis).empty());
  axis["motor"].type("pullout_volts", "");
  problems = faults(axis);
  REQUIRE(problems.size() == 1);
  CHECK(problems.front().where == "motor.pullout_volts");
}

TEST_CASE("what is set on a drive stays when another one is chosen") {
  Axis axis = axis_with_stepper();
  axis["drive"].type("current_setting", "3.5 A");
  choose_part(axis, "drive", *library().find("drive", "SS80-060"));
  CHECK(axis["drive"].text("current_setting") == "3.5 A");
  CHECK(axis["drive"].text("microsteps") == "16");
  CHECK(axis["drive"].text("part_number") == "SS80-060");
}

TEST_CASE("the ampere of a drive's setting") {
  CHECK(crest_of_setting(3.0, "crest") == 3.0);
  CHECK(crest_of_setting(3.0, "") == 3.0);
  CHECK(crest_of_setting(3.0, "rms") == Approx(3.0 * std::sqrt(2.0)));
  CHECK(crest_of_setting(3.0, "phase") == Approx(3.0 * std::sqrt(2.0)));
}

TEST_CASE("a connection stays when another motor is chosen, unless its leads rule it out") {
  Axis axis = axis_with_stepper();
  const auto with_leads = [](std::string_view leads) {
    for (const Section& part : parts_of_form("motor", stepper_motor_section()))
      if (part.text("leads") == leads) return part;
    Section none(stepper_motor_section());
    none.type("leads", leads);
    return none;
  };
  choose_part(axis, "motor", with_leads("8"));
  axis["motor"].type("connection", "parallel");
  choose_part(axis, "motor", with_leads("8"));
  CHECK(axis["motor"].text("connection") == "parallel");
  choose_part(axis, "motor", with_leads("4"));
  CHECK(axis["motor"].text("connection") == "series");
  axis["motor"].type("connection", "unipolar");
  choose_part(axis, "motor", with_leads("6"));
  CHECK(axis["motor"].text("connection") == "unipolar");
  axis["motor"].type("connection", "parallel");
  choose_part(axis, "motor", with_leads("6"));
  CHECK(axis["motor"].text("connection") == "series");
  choose_part(axis, "motor", with_leads("5"));
  CHECK(axis["motor"].text("connection") == "unipolar");
}

// Five phases 72° apart, written out: vectors of the phases that are on, torque of sine currents, volts of
// legs that switch in squares (calculation reference, M6.7: 3.0777, 3.2361; 0.6366, 1.2109, 0.7484).
TEST_CASE("five phases: torque per ampere and volts of a phase") {
  const auto vectors = [](int on) { // each phase turned so that it helps, the best of all rotor places
    double most = 0.0;
    for (int place = 0; place < 3600; ++place) {
      std::vector<double> help;
      for (int k = 0; k < 5; ++k) help.push_back(std::abs(std::sin(2.0 * pi * (place / 3600.0 + k / 5.0))));
      std::sort(help.rbegin(), help.rend());
      double sum = 0.0;
      for (int k = 0; k < on; ++k) sum += help[static_cast<std::size_t>(k)];
      most = std::max(most, sum);
    }
    return most;
  };
  Section sheet(five_phase_section());
  for (const auto& [field, text] :
       std::initializer_list<std::pair<std::string_view, std::string_view>>{{"inertia", "100 g.cm2"},
                                                                            {"holding_torque", "1 N.m"},
                                                                            {"rated_current", "2 A"},
                                                                            {"resistance", "1 Ohm"},
                                                                            {"inductance", "2 mH"}})
    sheet.type(field, text);
  Section drive(five_phase_drive_section());
  drive.type("peak_current", "5 A");
  drive.type("microsteps", "64");
  Recorder silent(false);
  const auto motor = [&] { return StepperMotor::five_phase(sheet, StepperDrive(drive, Feed::five), silent); };
  const auto constant_with = [&](const char* on) {
    sheet.type("phases_on", on);
    return motor();
  };
  CHECK(vectors(4) == Approx(3.0777).epsilon(1e-4));
  CHECK(vectors(5) == Approx(3.2361).epsilon(1e-4));
  // 1 N·m at 2 A: one phase gives 1/(3.0777·2); sine currents of five give 2.5 times that per crest ampere
  CHECK(constant_with("4").k_torque == Approx(2.5 / (vectors(4) * 2.0)).epsilon(1e-4));
  CHECK(constant_with("5").k_torque == Approx(2.5 / (vectors(5) * 2.0)).epsilon(1e-4));
  double sines = 0.0;
  for (int k = 0; k < 5; ++k) sines += std::pow(std::sin(0.7 + 2.0 * pi * k / 5.0), 2);
  CHECK(sines == Approx(2.5));
  const StepperMotor star = constant_with("4");
  CHECK(star.k_emf == Approx(star.k_torque / 2.5));
  CHECK(star.steps() == 500.0); // 0.72°
  // equal heat: four phases on at the rating, five of the sine
  CHECK(star.crest == Approx(2.0 * std::sqrt(2.0 * 4.0 / 5.0)));
  CHECK(star.copper(star.current(0.0)) == Approx(4.0 * 1.0 * 2.0 * 2.0));
  // of a leg that switches in squares of ±½, and between two legs
  CHECK(fundamental(0.0) == Approx(0.6366).epsilon(1e-3));
  CHECK(fundamental(0.8 * pi) == Approx(1.2109).epsilon(1e-3));
  CHECK(fundamental(0.4 * pi) == Approx(0.7484).epsilon(1e-3));
  // sines that are not driven into their rails have π/4 of it: the safe side
  const auto share = [&](const char* winding) {
    sheet.type("winding", winding);
    return motor().system.volts;
  };
  CHECK(share("star") == Approx(0.25 * pi * fundamental(0.0)).epsilon(1e-3));
  CHECK(share("pentagon 144") == Approx(0.25 * pi * fundamental(0.8 * pi)).epsilon(1e-3));
  CHECK(share("pentagon 72") == Approx(0.25 * pi * fundamental(0.4 * pi)).epsilon(1e-3));
  // what a phase gains in volts its lead pays in current
  CHECK(motor().system.leads == Approx(2.0 * motor().system.volts));
  // the pull-out is the best of all sine currents within current and voltage
  sheet.type("winding", "pentagon 144");
  const StepperMotor m = motor();
  for (const double speed : {20.0, 60.0, 120.0, 200.0}) {
    const double x = 50.0 * speed * 2e-3, emf = m.k_emf * speed, most = m.crest, bus = 36.0 * m.system.volts;
    double best = 0.0;
    for (int i = 0; i <= 720; ++i)
      for (int j = 0; j <= 200; ++j) {
        const double lead = 0.5 * pi * i / 720.0, size = most * j / 200.0;
        const double d = -size * std::sin(lead), q = size * std::cos(lead);
        if (std::hypot(m.warm_resistance * d - x * q, m.warm_resistance * q + x * d + emf) <= bus)
          best = std::max(best, m.k_torque * q);
      }
    INFO(speed);
    CHECK(m.pull_out_torque(speed, 36.0) == Approx(best).epsilon(0.01).margin(2e-3));
  }
}

TEST_CASE("a five-phase axis is judged as a stepper, on a drive of five legs only") {
  Axis axis = axis_with_stepper();
  choose_part(axis, "motor", parts_of_form("motor", five_phase_section()).back());
  CHECK(limit(evaluated(axis), "drive.match").rule.find("five phases") != std::string::npos);
  choose_part(axis, "drive", parts_of_form("drive", five_phase_drive_section()).back());
  const Evaluation e = evaluated(axis);
  const auto& motor = dynamic_cast<const StepperMotor&>(*e.model->motor);
  CHECK(limit(e, "stepper.pullout").used > 0.0);
  CHECK(limit(e, "stepper.pulses").demand ==
        Approx(value(e, "demand.max_speed") / (2.0 * pi) * 500.0 * 16.0));
  // the drive's legs carry more than a phase of the pentagon
  CHECK(limit(e, "drive.setting").demand == Approx(motor.crest * 2.0 * std::sin(0.4 * pi)));
  const double f = step_resonance(50.0, motor.holding(), value(e, "inertia.load") + motor.inertia);
  REQUIRE(e.resonance);
  CHECK(std::sqrt(e.resonance->low * e.resonance->high) ==
        Approx(std::sqrt(0.75 * 1.25) * 2.0 * pi * f / 500.0).epsilon(0.02));
  for (const ResultValue& result : e.results) CHECK(result.id != "supply.all_phases");
  choose_part(axis, "motor", *library().find("motor", "HS23-76-42"));
  CHECK(limit(evaluated(axis), "drive.match").rule.find("five phases") != std::string::npos);
}

TEST_CASE("what a stepper may start at is told without asking for a start speed") {
  Axis axis = axis_with_stepper();
  const Evaluation e = evaluated(axis);
  const auto& motor = dynamic_cast<const StepperMotor&>(*e.model->motor);
  const double inertia = value(e, "inertia.load") + motor.inertia;
  CHECK(value(e, "stepper.f_res") == Approx(std::sqrt(50.0 * motor.holding() / inertia) / (2.0 * pi)));
  axis["drive"].type("start_speed", "60 rpm");
  CHECK(value(e, "stepper.pull_in") == Approx(limit(evaluated(axis), "stepper.start").capacity));
  choose_part(axis, "motor", parts_of_form("motor", closed_stepper_section()).back());
  CHECK(evaluated(axis).find("stepper.pull_in") == nullptr);
}

TEST_CASE("three estimates of a stepper's supply, and both schools of its voltage") {
  const Evaluation e = evaluated(axis_with_stepper());
  const auto& motor = dynamic_cast<const StepperMotor&>(*e.model->motor);
  CHECK(value(e, "supply.all_phases") == Approx(2.0 * motor.crest));
  CHECK(value(e, "supply.microstepped") == Approx(0.7071 * 2.0 * motor.crest).epsilon(1e-4));
  // nothing in steady motoring takes more than sines at full volts, drive apart: 4/π of a crest
  CHECK(value(e, "supply.microstepped") > 4.0 / pi * motor.crest);
  CHECK(value(e, "stepper.school_rated") == Approx(15.0 * motor.resistance * motor.rated_current));
  CHECK(value(e, "stepper.school_inductance") == Approx(32.0 * std::sqrt(motor.inductance * 1e3)));
  CHECK(value(e, "supply.peak_current") < value(e, "supply.all_phases"));
}
