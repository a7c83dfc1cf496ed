// Servos with magnets inside their rotor (L_d ≠ L_q) against NLopt's SLSQP (D. Kraft, 1988), a walk over the
// current plane and dense sampling of a cycle; nothing of the program's closed forms is used for that.

#include "core/motor/interior.hpp"
#include "support/axes.hpp"

#include <catch2/catch.hpp>
#include <nlopt.h>

#include <array>
#include <cmath>
#include <numbers>

using namespace fulmox;
using namespace fulmox::testing;
using std::numbers::sqrt2;

namespace {

struct Asked {
  InteriorMachine m;
  double speed = 0.0, voltage = 0.0, current = 0.0, sense = 1.0;
};

double psi(const InteriorMachine& m) { return m.magnet * m.k / m.pole_pairs; }

double torque_of(unsigned, const double* i, double* gradient, void* data) {
  const auto& a = *static_cast<const Asked*>(data);
  const double c = 1.5 * a.m.pole_pairs * a.sense, dl = a.m.inductance_d - a.m.inductance_q;
  if (gradient != nullptr) {
    gradient[0] = c * dl * i[1];
    gradient[1] = c * (psi(a.m) + dl * i[0]);
  }
  return c * (psi(a.m) + dl * i[0]) * i[1];
}

double current_over(unsigned, const double* i, double* gradient, void* data) {
  const double scale = 1.0 / std::pow(static_cast<const Asked*>(data)->current, 2);
  if (gradient != nullptr) {
    gradient[0] = 2.0 * i[0] * scale;
    gradient[1] = 2.0 * i[1] * scale;
  }
  return (i[0] * i[0] + i[1] * i[1]) * scale - 1.0;
}

double voltage_over(unsigned, const double* i, double* gradient, void* data) {
  const auto& a = *static_cast<const Asked*>(data);
  const double w = a.m.pole_pairs * a.speed, r = a.m.resistance, scale = 1.0 / (a.voltage * a.voltage);
  const double vd = r * i[0] - w * a.m.inductance_q * i[1];
  const double vq = r * i[1] + w * a.m.inductance_d * i[0] + a.m.k * a.speed;
  if (gradient != nullptr) {
    gradient[0] = 2.0 * (vd * r + vq * w * a.m.inductance_d) * scale;
    gradient[1] = 2.0 * (-vd * w * a.m.inductance_q + vq * r) * scale;
  }
  return (vd * vd + vq * vq) * scale - 1.0;
}

/// Greatest torque by the optimiser from several starts; NaN where none ends at a point that is allowed.
double by_optimiser(Asked asked, bool voltage_counts) {
  double best = std::nan("");
  for (const double start_d : {-0.05, -0.3, -0.6, -0.9, 0.3})
    for (const double start_q : {0.1, 0.5}) {
      nlopt_opt solver = nlopt_create(NLOPT_LD_SLSQP, 2);
      nlopt_set_max_objective(solver, torque_of, &asked);
      nlopt_add_inequality_constraint(solver, current_over, &asked, 1e-11);
      if (voltage_counts) nlopt_add_inequality_constraint(solver, voltage_over, &asked, 1e-11);
      nlopt_set_xtol_rel(solver, 1e-12);
      nlopt_set_maxeval(solver, 500);
      double i[] = {start_d * asked.current, asked.sense * start_q * asked.current};
      double reached = 0.0;
      nlopt_optimize(solver, i, &reached);
      const bool allowed = current_over(2, i, nullptr, &asked) < 1e-8 &&
                           (!voltage_counts || voltage_over(2, i, nullptr, &asked) < 1e-8);
      if (allowed && !(reached <= best)) best = reached;
      nlopt_destroy(solver);
    }
  return best;
}

InteriorMachine some_machine(RandomAxes& random) {
  const double d = random.between(0.3e-3, 6e-3);
  return {random.between(0.05, 0.5),    random.between(0.85, 1.0),           random.between(0.05, 2.0), d,
          d * random.between(0.6, 4.0), std::round(random.between(2.0, 8.0))};
}

/// Size of the least current that makes a torque within a voltage, walked from +d to −d and halved in on;
/// negative where none is found.
double walked(const InteriorMachine& m, double torque, double speed, double voltage, double most) {
  const auto q_of = [&](double d) {
    return torque / (1.5 * m.pole_pairs * (psi(m) + (m.inductance_d - m.inductance_q) * d));
  };
  const auto fits = [&](double d) {
    const double linked = psi(m) + (m.inductance_d - m.inductance_q) * d;
    const double w = m.pole_pairs * speed, q = q_of(d);
    return linked > 0.0 && std::hypot(m.resistance * d - w * m.inductance_q * q,
                                      m.resistance * q + w * m.inductance_d * d + m.k * speed) <= voltage;
  };
  constexpr int many = 8000;
  const double step = 2.0 * most / many;
  double best = -1.0;
  for (int j = 0; j <= many; ++j) {
    double d = most - j * step;
    if (!fits(d)) continue;
    // the edge towards the walked side may lie between two steps
    if (!fits(d + step)) {
      double in = d, out = d + step;
      for (int k = 0; k < 50; ++k) {
        const double middle = 0.5 * (in + out);
        (fits(middle) ? in : out) = middle;
      }
      d = in;
    }
    const double size = std::hypot(d, q_of(d));
    if (best < 0.0 || size < best) best = size;
  }
  return best;
}

// K 0.12 V·s/rad, four pole pairs, 0.3 Ω, 2 and 5 mH a phase
constexpr InteriorMachine textbook{0.12, 1.0, 0.3, 2e-3, 5e-3, 4.0};

} // namespace

// Numbers of an independent program's search over the current plane.
TEST_CASE("most torque per ampere, envelope and top end of an interior-magnet motor") {
  const DqCurrent i = most_torque_per_ampere(textbook, 20.0);
  CHECK(i.d == Approx(-11.861).epsilon(1e-4));
  CHECK(interior_torque(textbook, i) == Approx(6.3366).epsilon(1e-5));
  CHECK(interior_torque(textbook, {0.0, 20.0}) == Approx(3.6));
  const double volts = 0.95 * 310.0 / std::sqrt(3.0);
  const auto most = [&](double speed, bool braking) {
    return std::abs(
        interior_torque(textbook, best_interior_current(textbook, speed, volts, 20.0, true, braking)));
  };
  CHECK(most(600.0, false) == Approx(6.0791).epsilon(1e-4));
  CHECK(most(1000.0, false) == Approx(4.1439).epsilon(1e-4));
  CHECK(most(3000.0, false) == Approx(1.2836).epsilon(1e-4));
  CHECK(most(600.0, true) == Approx(6.2072).epsilon(1e-4));
  CHECK(most(1000.0, true) == Approx(4.3714).epsilon(1e-4));
  CHECK(most(3000.0, true) == Approx(1.3609).epsilon(1e-4));
  // characteristic current ψ/L_d = 15 A: with more than that power never ends, with less it does
  const auto watts = [&](double limit) {
    return 1e5 * interior_torque(textbook, best_interior_current(textbook, 1e5, volts, limit, true));
  };
  CHECK(watts(14.9) == Approx(3260.1).epsilon(1e-3));
  CHECK(watts(15.1) == Approx(3724.5).epsilon(1e-3));
  CHECK(watts(20.0) == Approx(3724.5).epsilon(1e-3));
}

TEST_CASE("interior magnets: currents agree with a numerical optimiser") {
  RandomAxes random(41);
  int compared = 0, weakened = 0;
  for (int n = 0; n < 300; ++n) {
    Asked a{some_machine(random), random.between(5.0, 900.0), random.between(15.0, 300.0),
            random.between(3.0, 40.0), n % 2 == 0 ? 1.0 : -1.0};
    INFO(n);
    const DqCurrent mtpa = most_torque_per_ampere(a.m, a.sense * a.current);
    CHECK(std::hypot(mtpa.d, mtpa.q) == Approx(a.current));
    CHECK(a.sense * interior_torque(a.m, mtpa) == Approx(by_optimiser(a, false)).epsilon(1e-7));
    const DqCurrent ours = best_interior_current(a.m, a.speed, a.voltage, a.current, true, a.sense < 0.0);
    CHECK(std::hypot(ours.d, ours.q) <= a.current * (1.0 + 1e-9));
    const double reference = by_optimiser(a, true), torque = a.sense * interior_torque(a.m, ours);
    if (!(reference > 1e-6 * a.current)) {
      CHECK(torque <= 1e-4 * a.current);
      continue;
    }
    ++compared;
    if (torque < a.sense * interior_torque(a.m, mtpa) * (1.0 - 1e-6)) ++weakened;
    CHECK(interior_voltage(a.m, ours, a.speed) <= a.voltage * (1.0 + 1e-7));
    CHECK(torque == Approx(reference).epsilon(1e-6));
    // on the line of most torque per ampere there is never more
    const DqCurrent plain = best_interior_current(a.m, a.speed, a.voltage, a.current, false, a.sense < 0.0);
    CHECK(a.sense * interior_torque(a.m, plain) <= torque * (1.0 + 1e-9));
    CHECK((plain.q == 0.0 || interior_voltage(a.m, plain, a.speed) <= a.voltage * (1.0 + 1e-9)));
  }
  CHECK(compared > 200);
  CHECK(weakened > 100);
}

TEST_CASE("interior magnets: the least current of a torque is the one a walk over the plane finds") {
  RandomAxes random(42);
  int found = 0;
  for (int n = 0; n < 1500; ++n) {
    const InteriorMachine m = some_machine(random);
    const double current = random.between(1.0, 30.0), speed = random.between(1.0, 800.0);
    const double torque = (n % 2 == 0 ? 1.0 : -1.0) * interior_torque(m, most_torque_per_ampere(m, current));
    INFO(n);
    CHECK(interior_current(m, torque) == Approx(current).epsilon(1e-10));
    const double voltage = random.between(10.0, 300.0), most = 3.0 * psi(m) / m.inductance_d + 60.0;
    const double there = walked(m, torque, speed, voltage, most);
    const DqCurrent i = least_interior_current(m, torque, speed, voltage);
    CHECK(interior_torque(m, i) == Approx(torque));
    if (there < 0.0) continue;
    ++found;
    // what fits and makes the torque cannot be too little; the walk's steps leave it a little too much
    CHECK(std::hypot(i.d, i.q) <= there * (1.0 + 1e-9));
    CHECK(std::hypot(i.d, i.q) >= there * (1.0 - 2e-4));
    CHECK(interior_voltage(m, i, speed) <= voltage * (1.0 + 1e-9));
    // a torque that some current makes within the voltage is within the envelope of that current
    const double all = std::hypot(i.d, i.q) * (1.0 + 1e-9);
    const DqCurrent best = best_interior_current(m, speed, voltage, all, true, torque < 0.0);
    CHECK(std::abs(interior_torque(m, best)) >= std::abs(torque) * (1.0 - 1e-6));
  }
  CHECK(found > 700);
}

TEST_CASE(
    "interior magnets: driving torque falls with speed, braking with the same resistance never has less") {
  RandomAxes random(43);
  for (int n = 0; n < 400; ++n) {
    const InteriorMachine m = some_machine(random);
    const double voltage = random.between(15.0, 300.0), limit = random.between(3.0, 40.0);
    for (const bool weakening : {false, true}) {
      double before = 1e9;
      for (double speed = 0.0; speed < 900.0; speed += 60.0) {
        const double drives = interior_torque(m, best_interior_current(m, speed, voltage, limit, weakening));
        const double brakes =
            -interior_torque(m, best_interior_current(m, speed, voltage, limit, weakening, true));
        INFO(n << " " << speed << " " << weakening);
        CHECK(drives <= before * (1.0 + 1e-9));
        CHECK(brakes >= drives * (1.0 - 1e-9));
        before = drives;
      }
    }
  }
}

TEST_CASE("a torque constant at a current gives back the back-EMF behind it") {
  RandomAxes random(44);
  for (int n = 0; n < 300; ++n) {
    InteriorMachine m = some_machine(random);
    m.magnet = 1.0;
    const double rms = random.between(1.0, 20.0);
    const double kt = interior_torque(m, most_torque_per_ampere(m, sqrt2 * rms)) / rms;
    CHECK(emf_behind_kt(kt, rms, m.inductance_q - m.inductance_d, m.pole_pairs) == Approx(m.k).epsilon(1e-9));
  }
  // reluctance alone makes more than that
  CHECK(std::isnan(emf_behind_kt(0.01, 10.0, 3e-3, 4.0)));
}

namespace {
/// A fast axis on a low bus whose rotor has its magnets inside.
Axis interior_axis() {
  Axis axis = plain_axis();
  axis["surroundings"].type("bus", "48 V");
  choose_part(axis, "motor", *library().find("motor", "CR60-0400-048L"));
  choose_part(axis, "drive", *library().find("drive", "EL48-200"));
  axis["drive"].type("weakening", "yes");
  axis["motor"].type("inductance", "0.25 mH");
  axis["motor"].type("inductance_q", "0.6 mH");
  axis["mechanism"].type("lead", "5 mm");
  axis.cycle[0].type("time", "0.7 s");
  return axis;
}
} // namespace

TEST_CASE("an axis with an interior-magnet servo: current, heat and power over the cycle") {
  for (const char* saturating : {"no", "yes"})
    for (const char* time : {"0.75 s", "0.62 s"}) {
      Axis axis = interior_axis();
      axis.cycle[0].type("time", time);
      if (saturating[0] == 'n') axis["motor"].type("peak_curve", "");
      axis["motor"].type("magnet", "NdFeB");
      const Evaluation e = evaluated(axis);
      const auto& motor = dynamic_cast<const InteriorServo&>(*e.model->motor);
      const double volts = e.model->supply_at(e.model->surroundings.bus_low).voltage;
      constexpr int many = 6000;
      double square = 0.0, peak = 0.0, drawn = 0.0, most = 0.0;
      for (int j = 0; j < many; ++j) {
        const Instant now = e.at(e.model->load->cycle.duration * (j + 0.5) / many);
        const double gap = motor.air_gap(now.torque, now.speed, now.input.direction);
        const bool brakes = gap * now.speed < 0.0;
        const InteriorMachine m{motor.k,
                                motor.magnet,
                                0.5 * (brakes ? motor.resistance : motor.warm_resistance),
                                0.5 * motor.inductance,
                                0.5 * motor.inductance_q,
                                motor.pole_pairs};
        double made = std::abs(gap);
        if (motor.saturates() && made > motor.rated_torque())
          made = motor.straight_torque(motor.current(made));
        const double plain = interior_current(m, made) / sqrt2;
        double current = plain;
        if (interior_voltage(m, most_torque_per_ampere(m, (brakes ? -sqrt2 : sqrt2) * plain),
                             std::abs(now.speed)) > volts)
          current = walked(m, brakes ? -made : made, std::abs(now.speed), volts, 60.0) / sqrt2;
        most = std::max(most, current - plain);
        square += current * current / many;
        peak = std::max(peak, current);
        drawn += std::max(0.0, e.model->bus_power(now.torque, now.speed, current)) / many;
      }
      INFO(saturating << time);
      REQUIRE(most > 0.05); // the field is really weakened
      CHECK(value(e, "drive.rms_current") == Approx(std::sqrt(square)).epsilon(1e-4));
      // samples may miss the very end of the ramp
      CHECK(value(e, "drive.peak_current") >= peak * (1.0 - 1e-9));
      CHECK(value(e, "drive.peak_current") <= peak * 1.003);
      CHECK(value(e, "supply.mean_power") == Approx(drawn).epsilon(5e-4));
      CHECK(limit(e, "motor.heat").demand == Approx(std::sqrt(square)).epsilon(1e-4));
    }
}

TEST_CASE("with equal inductances an interior motor is the round one") {
  Axis axis = interior_axis();
  for (const char* weakening : {"yes", "no"}) {
    axis["drive"].type("weakening", weakening);
    axis["motor"].type("inductance_q", "");
    const Evaluation round = evaluated(axis);
    axis["motor"].type("inductance_q", "0.2500000001 mH");
    const Evaluation interior = evaluated(axis);
    REQUIRE(dynamic_cast<const InteriorServo*>(interior.model->motor.get()) != nullptr);
    for (const char* id : {"drive.rms_current", "drive.peak_current", "supply.mean_power"})
      CHECK(value(interior, id) == Approx(value(round, id)).epsilon(1e-4)); // the sheet's Kt is rounded
    for (const char* id : {"motor.peak", "motor.peak_low"}) {
      INFO(weakening << id);
      CHECK(limit(interior, id).used == Approx(limit(round, id).used).epsilon(1e-4));
    }
  }
}

TEST_CASE("the magnets' share of an interior motor is told by Ke, or taken out of Kt at the rated current") {
  Axis axis = interior_axis();
  const auto motor = [&] {
    return std::dynamic_pointer_cast<const InteriorServo>(evaluated(axis).model->motor);
  };
  const auto by_ke = motor();
  REQUIRE(by_ke != nullptr);
  // the sheet's Kt is the torque over the current at the rated one: then Ke can be left out
  axis["motor"].type("kt", std::to_string(by_ke->rated_torque() / by_ke->rated_current) + " N.m/A");
  CHECK_FALSE(warns(evaluated(axis), "kt_ke_disagree"));
  axis["motor"].type("ke", "");
  const auto by_kt = motor();
  REQUIRE(by_kt != nullptr);
  CHECK(by_kt->k == Approx(by_ke->k).epsilon(1e-4));
  CHECK(by_kt->kt == Approx(by_ke->kt).epsilon(1e-4));
  // and where the rated current is unknown as well, the rotor counts as round with the larger inductance
  axis["motor"].type("rated_current", "");
  CHECK(motor() == nullptr);
  CHECK(dynamic_cast<const ServoMotor&>(*evaluated(axis).model->motor).inductance == Approx(0.6e-3));
}

TEST_CASE(
    "interior magnets: where torque saturates the voltage carries what the current would make unsaturated") {
  Axis axis = interior_axis();
  const auto built = evaluated(axis).model->motor;
  const auto& motor = dynamic_cast<const InteriorServo&>(*built);
  REQUIRE(motor.saturates());
  int weakened = 0;
  for (const double share : {0.2, 0.6, 0.8, 1.0})
    for (const double speed : {150.0, 250.0, 350.0, 450.0})
      for (const double volts : {14.0, 17.0, 20.0, 23.0, 26.0}) {
        const double torque = share * motor.peak_air_gap(), current = motor.current(torque);
        const InteriorMachine m{motor.k,
                                1.0,
                                0.5 * motor.warm_resistance,
                                0.5 * motor.inductance,
                                0.5 * motor.inductance_q,
                                motor.pole_pairs};
        const double whole = interior_torque(m, most_torque_per_ampere(m, sqrt2 * current));
        CHECK(whole >= torque * (1.0 - 1e-9));
        const double there = walked(m, whole, speed, volts, 80.0);
        if (there < 0.0) continue;
        if (torque > motor.rated_torque() && there > 1.01 * sqrt2 * current) ++weakened;
        CHECK(motor.current_at(torque, speed, volts) ==
              Approx(std::max(there / sqrt2, current)).epsilon(5e-4));
      }
  CHECK(weakened > 0);
}

TEST_CASE("interior magnets: no torque between two speeds lies below the bound") {
  RandomAxes random(45);
  Axis axis = interior_axis();
  for (const char* curve : {"with", "without"}) {
    if (curve[4] == 'o') axis["motor"].type("peak_curve", "");
    const auto built = evaluated(axis).model->motor;
    for (int n = 0; n < 400; ++n) {
      const double slow = random.between(0.0, 500.0), fast = slow + random.between(1.0, 400.0);
      const bool braking = n % 2 == 1;
      const MotorSupply supply{random.between(10.0, 40.0), random.between(3.0, 30.0), n % 3 == 0};
      const double bound = built->least_peak(slow, fast, supply, braking);
      for (double speed = slow; speed <= fast; speed += (fast - slow) / 25.0) {
        INFO(curve << n << " " << speed);
        CHECK(bound <= built->peak_torque(speed, supply, braking) * (1.0 + 1e-9) + 1e-12);
      }
    }
  }
}
