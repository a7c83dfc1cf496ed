#include "core/motor/constants.hpp"
#include "core/motor/envelope.hpp"
#include "core/quantity/constants.hpp"
#include "support/axes.hpp"

#include <catch2/catch.hpp>
#include <nlopt.h>

#include <array>
#include <cmath>
#include <random>

using namespace fulmox;
using namespace fulmox::testing;

// Identity of the sinusoidal permanent-magnet machine (power balance: 3·E_ph·I = T·ω): Kt(rms) =
// √3·Ke(line-line rms).
TEST_CASE("torque constant per rms ampere is √3 times the line-line rms back-EMF constant") {
  const double ke_ll_rms = 0.25; // V·s/rad
  CHECK(kt_from_ke(ke_from_line_rms(ke_ll_rms)) == Approx(std::sqrt(3.0) * ke_ll_rms).epsilon(1e-12));
  // 1 V/krpm gives 0.016540 N·m/A
  const double one = 1.0 / (1000.0 * constants::rpm);
  CHECK(kt_from_ke(ke_from_line_rms(one)) == Approx(0.016540).epsilon(1e-4));
}

// Power balance again, by integrating three phase currents against three phase EMFs over a turn.
TEST_CASE("mean of the three phase powers gives the same torque constant") {
  const double k = 0.13; // V·s/rad, phase peak
  const double current_rms = 3.0;
  double torque = 0.0;
  constexpr int steps = 3600;
  for (int i = 0; i < steps; ++i)
    for (int phase = 0; phase < 3; ++phase) {
      const double angle = 2.0 * M_PI * i / steps + phase * 2.0 * M_PI / 3.0;
      torque += k * std::sin(angle) * std::sqrt(2.0) * current_rms * std::sin(angle) / steps;
    }
  CHECK(kt_from_ke(std::sqrt(3.0) * k) * current_rms == Approx(torque).epsilon(1e-9));
}

TEST_CASE("every way of stating the constants leads to the same motor") {
  const double ke_ll_pk = 0.4;
  const double kt = kt_from_ke(ke_ll_pk);
  CHECK(ke_from_line_rms(ke_ll_pk / std::sqrt(2.0)) == Approx(ke_ll_pk));
  CHECK(ke_from_phase_peak(ke_ll_pk / std::sqrt(3.0)) == Approx(ke_ll_pk));
  CHECK(ke_from_phase_rms(ke_ll_pk / std::sqrt(6.0)) == Approx(ke_ll_pk));
  CHECK(ke_from_kt(kt) == Approx(ke_ll_pk));
  CHECK(kt_from_peak(kt / std::sqrt(2.0)) == Approx(kt));
  CHECK(kt_from_dc(3.0 / M_PI * ke_ll_pk) == Approx(kt));
  // copper loss from phase quantities, wye: 3·I²·R_ph; delta: 3·(I/√3)²·R_ph
  CHECK(copper_loss(5.0, line_from_wye(0.7)) == Approx(3.0 * 25.0 * 0.7));
  CHECK(copper_loss(5.0, line_from_delta(0.7)) == Approx(25.0 * 0.7));
}

namespace {

struct Limits {
  SineMachine machine;
  double speed, voltage, current, sense;
};

double objective(unsigned, const double* i, double* gradient, void* data) {
  const double sense = static_cast<const Limits*>(data)->sense;
  if (gradient != nullptr) {
    gradient[0] = 0.0;
    gradient[1] = sense;
  }
  return sense * i[1];
}

double current_rule(unsigned, const double* i, double* gradient, void* data) {
  const auto& l = *static_cast<const Limits*>(data);
  const double scale = 1.0 / (l.current * l.current);
  if (gradient != nullptr) {
    gradient[0] = 2.0 * i[0] * scale;
    gradient[1] = 2.0 * i[1] * scale;
  }
  return (i[0] * i[0] + i[1] * i[1]) * scale - 1.0;
}

double voltage_rule(unsigned, const double* i, double* gradient, void* data) {
  const auto& l = *static_cast<const Limits*>(data);
  const double x = l.machine.pole_pairs * l.speed * l.machine.inductance;
  const double vd = l.machine.resistance * i[0] - x * i[1];
  const double vq = l.machine.resistance * i[1] + x * i[0] + l.machine.k * l.speed;
  const double scale = 1.0 / (l.voltage * l.voltage);
  if (gradient != nullptr) {
    gradient[0] = 2.0 * (vd * l.machine.resistance + vq * x) * scale;
    gradient[1] = 2.0 * (-vd * x + vq * l.machine.resistance) * scale;
  }
  return (vd * vd + vq * vq) * scale - 1.0;
}

/// Largest i_q by NLopt's SLSQP from several starts; NaN when no start ends at a feasible point.
double by_optimiser(Limits limits, bool weakening) {
  double best = std::nan("");
  for (const double start_d : {0.0, -0.3, -0.6, -0.9}) {
    for (const double start_q : {0.05, 0.4}) {
      nlopt_opt solver = nlopt_create(NLOPT_LD_SLSQP, 2);
      nlopt_set_max_objective(solver, objective, &limits);
      const double low[] = {weakening ? -limits.current : 0.0, -limits.current};
      const double high[] = {0.0, limits.current};
      nlopt_set_lower_bounds(solver, low);
      nlopt_set_upper_bounds(solver, high);
      nlopt_add_inequality_constraint(solver, current_rule, &limits, 1e-10);
      nlopt_add_inequality_constraint(solver, voltage_rule, &limits, 1e-10);
      nlopt_set_xtol_rel(solver, 1e-12);
      nlopt_set_maxeval(solver, 500);
      double i[] = {weakening ? start_d * limits.current : 0.0, limits.sense * start_q * limits.current};
      double reached = 0.0;
      nlopt_optimize(solver, i, &reached);
      const bool feasible =
          current_rule(2, i, nullptr, &limits) < 1e-7 && voltage_rule(2, i, nullptr, &limits) < 1e-7;
      if (feasible && !(reached <= best)) best = reached;
      nlopt_destroy(solver);
    }
  }
  return best;
}

} // namespace

// Published optimiser: NLopt's SLSQP (D. Kraft, 1988), Debian package libnlopt-dev.
TEST_CASE("voltage-limited envelope agrees with a numerical optimiser") {
  std::mt19937 engine(3);
  const auto between = [&](double low, double high) {
    return std::uniform_real_distribution<double>(low, high)(engine);
  };
  int compared = 0;
  for (int n = 0; n < 400; ++n) {
    const SineMachine machine{between(0.02, 0.4), between(0.1, 3.0), between(0.2e-3, 10e-3),
                              std::floor(between(2.0, 8.0))};
    const double speed = between(0.0, 700.0);
    const double voltage = between(15.0, 300.0);
    const double current = between(2.0, 40.0);
    for (const bool weakening : {false, true})
      for (const bool braking : {false, true}) {
        const double reference =
            by_optimiser({machine, speed, voltage, current, braking ? -1.0 : 1.0}, weakening);
        const double ours = std::abs(best_current(machine, speed, voltage, current, weakening, braking).q);
        // no feasible point, or only one that brakes while asked to motor: the program then says "no torque"
        if (!(reference > 1e-6 * current)) {
          CHECK(ours <= 1e-4 * current);
          continue;
        }
        INFO("machine " << n << " weakening " << weakening << " braking " << braking);
        CHECK(ours == Approx(reference).epsilon(1e-5).margin(1e-5 * current));
        ++compared;
      }
  }
  CHECK(compared > 500);
}

TEST_CASE("the book's envelope.sine equals the function behind the plane") {
  const double k = 0.1, r_line = 1.4, l_line = 6e-3, poles = 5.0, speed = 300.0, voltage = 40.0,
               current = 10.0;
  const std::array values{k, r_line, l_line, poles, speed, voltage, current};
  const DqCurrent i = best_current({k, r_line / 2, l_line / 2, poles}, speed, voltage, current, false);
  CHECK(book::sine_envelope.compute(values) == Approx(1.5 * k * i.q));
  CHECK(phase_voltage(k, r_line / 2, l_line / 2, poles, speed, i.q) <= voltage * (1 + 1e-9));
}

// IEC 60028 gives copper 0.00393 1/K at 20 °C: 100 K warmer is 39.3 % more.
TEST_CASE("warm copper") {
  CHECK(warm_resistance(2.0, constants::zero_celsius + 120.0) == Approx(2.0 * 1.393).epsilon(1e-12));
  CHECK(warm_resistance(2.0, constants::zero_celsius + 20.0) == Approx(2.0).epsilon(1e-12));
}
