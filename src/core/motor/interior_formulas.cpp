#include "core/motor/interior_formulas.hpp"

#include "core/motor/dq_parameters.hpp"

#include <boost/math/tools/toms748_solve.hpp>

#include <algorithm>
#include <array>
#include <cmath>
#include <numbers>

namespace fulmox {
namespace {

/// Flux of hot magnets, V·s.
double flux(const InteriorMachine& m) { return m.magnet * m.k / m.pole_pairs; }
double difference(const InteriorMachine& m) { return m.inductance_q - m.inductance_d; }

template <class F> double root_between(const F& f, double low, double high) {
  const double at_low = f(low), at_high = f(high);
  if (!(at_low * at_high < 0.0)) return std::abs(at_low) < std::abs(at_high) ? low : high;
  std::uintmax_t tries = 80;
  const auto root = boost::math::tools::toms748_solve(f, low, high, at_low, at_high,
                                                      boost::math::tools::eps_tolerance<double>(48), tries);
  return at_low < 0.0 ? root.first : root.second;
}

/// Most torque on the ray at an angle β from the q axis towards −d; below 0 where no current on it fits the
/// voltage: then how far it fails. Rises to one top over β and falls (disc and ellipse are convex, and so is
/// the set of currents that make at least some torque).
struct Ray {
  const InteriorMachine& m;
  double speed, voltage, limit, sense;

  [[nodiscard]] DqCurrent along(double angle, double current) const {
    return {-current * std::sin(angle), sense * current * std::cos(angle)};
  }
  [[nodiscard]] double most(double angle, DqCurrent& best) const {
    const DqCurrent unit = along(angle, 1.0);
    const double xd = m.pole_pairs * speed * m.inductance_d, xq = m.pole_pairs * speed * m.inductance_q;
    const double emf = m.k * speed, vd = m.resistance * unit.d - xq * unit.q,
                 vq = m.resistance * unit.q + xd * unit.d;
    const double a = vd * vd + vq * vq, b = vq * emf, c = emf * emf - voltage * voltage;
    const auto excess = [&](double i) { return (a * i + 2.0 * b) * i + c; };
    const double reach2 = b * b - a * c, nearest = std::clamp(-b / a, 0.0, limit);
    if (reach2 < 0.0 || excess(nearest) > 0.0) // where any current makes it worse: towards less of that
      return -std::max(excess(nearest), 0.0) - std::max(b, 0.0);
    const double reach = std::sqrt(reach2);
    const double low = std::clamp((-b - reach) / a, 0.0, limit),
                 high = std::clamp((-b + reach) / a, 0.0, limit);
    // along a ray torque is a parabola of the current
    const double straight = std::abs(unit.q) * flux(m), bent = -std::abs(unit.q) * difference(m) * unit.d;
    const double top = bent < 0.0 ? std::clamp(-0.5 * straight / bent, low, high) : high;
    best = along(angle, top);
    return sense * interior_torque(m, best);
  }
};

DqCurrent with_weakening(const Ray& ray) {
  constexpr double golden = 0.6180339887498949;
  constexpr int halvings = 70; // leaves 1e-14 of the angle
  double from = difference(ray.m) < 0.0 ? -0.5 * std::numbers::pi : 0.0, to = 0.5 * std::numbers::pi;
  DqCurrent best{}, found{};
  double most = -1.0;
  const auto value = [&](double angle) {
    const double torque = ray.most(angle, found);
    if (torque > most) {
      most = torque;
      best = found;
    }
    return torque;
  };
  double left = to - golden * (to - from), right = from + golden * (to - from);
  double at_left = value(left), at_right = value(right);
  for (int k = 0; k < halvings; ++k) {
    if (at_left >= at_right) {
      to = right;
      right = left;
      at_right = at_left;
      left = to - golden * (to - from);
      at_left = value(left);
    } else {
      from = left;
      left = right;
      at_left = at_right;
      right = from + golden * (to - from);
      at_right = value(right);
    }
  }
  return most > 0.0 ? best : DqCurrent{};
}

/// v² − V² on the curve of one torque, and its slope over i_d.
struct Excess {
  double value, slope;
};
Excess excess_at(const InteriorMachine& m, double torque, double d, double speed, double voltage) {
  const double linked = flux(m) - difference(m) * d; // what i_q makes torque with
  const double q = torque / (1.5 * m.pole_pairs * linked), q_slope = q * difference(m) / linked;
  const double xd = m.pole_pairs * speed * m.inductance_d, xq = m.pole_pairs * speed * m.inductance_q;
  const double vd = m.resistance * d - xq * q, vq = m.resistance * q + xd * d + m.k * speed;
  return {vd * vd + vq * vq - voltage * voltage,
          2.0 * vd * (m.resistance - xq * q_slope) + 2.0 * vq * (m.resistance * q_slope + xd)};
}

} // namespace

double interior_torque(const InteriorMachine& m, DqCurrent i) {
  return 1.5 * m.pole_pairs * (flux(m) - difference(m) * i.d) * i.q;
}

DqCurrent most_torque_per_ampere(const InteriorMachine& m, double current) {
  const double bent = difference(m) * current;
  const double root = std::sqrt(flux(m) * flux(m) + 8.0 * bent * bent);
  const double d = -2.0 * bent * current / (flux(m) + root);
  return {d, std::copysign(std::sqrt(current * current - d * d), current)};
}

double interior_current(const InteriorMachine& m, double air_gap_torque) {
  const double plain = std::abs(air_gap_torque) / (1.5 * m.pole_pairs * flux(m));
  const double bent = std::abs(difference(m)) / flux(m), share = bent * plain;
  constexpr double nothing = 1e-9; // a thousandth of what a double can tell of the current
  if (share < nothing) return plain;
  // with x = |ΔL·i_d|/ψ the curve of most torque per ampere is x·(1 + x)³ = (ΔL·T/(1.5·p·ψ²))²
  const double square = share * share;
  double x = std::min(square, std::sqrt(share));
  for (int k = 0; k < 60; ++k) {
    const double one = 1.0 + x;
    const double step = (x * one * one * one - square) / (one * one * (1.0 + 4.0 * x));
    x -= step;
    if (std::abs(step) <= 1e-16 * x) break;
  }
  return std::sqrt(x * (1.0 + 2.0 * x)) / bent;
}

double interior_voltage(const InteriorMachine& m, DqCurrent i, double speed) {
  const double w = m.pole_pairs * speed;
  return std::hypot(m.resistance * i.d - w * m.inductance_q * i.q,
                    m.resistance * i.q + w * m.inductance_d * i.d + m.k * speed);
}

DqCurrent best_interior_current(const InteriorMachine& m, double speed, double voltage, double limit,
                                bool weakening, bool braking) {
  const double n = std::abs(speed), sense = braking ? -1.0 : 1.0;
  const DqCurrent all = most_torque_per_ampere(m, sense * limit);
  const auto excess = [&](double current) {
    return interior_voltage(m, most_torque_per_ampere(m, sense * current), n) - voltage;
  };
  if (weakening) return excess(limit) <= 0.0 ? all : with_weakening({m, n, voltage, limit, sense});
  if (excess(0.0) >= 0.0) return {};
  return excess(limit) <= 0.0 ? all : most_torque_per_ampere(m, sense * root_between(excess, 0.0, limit));
}

DqCurrent least_interior_current(const InteriorMachine& m, double torque, double speed, double voltage) {
  const double n = std::abs(speed);
  const DqCurrent least = most_torque_per_ampere(m, std::copysign(interior_current(m, torque), torque));
  if (!(voltage > 0.0) || interior_voltage(m, least, n) <= voltage) return least;
  // v² is convex over i_d on the curve of one torque: tangents from the right never pass its first root, and
  // where there is none they reach its lowest point or pass it
  const double pole =
      difference(m) < 0.0 ? flux(m) / difference(m) : -std::numeric_limits<double>::infinity();
  double d = least.d, before = least.d;
  for (int k = 0; k < 60; ++k) {
    const Excess e = excess_at(m, torque, d, n, voltage);
    if (e.value <= 1e-13 * voltage * voltage) break;
    double next = e.slope > 0.0 ? d - e.value / e.slope : d;
    if (e.slope <= 0.0 || next <= pole) { // the lowest point lies between
      const auto slope = [&](double at) { return excess_at(m, torque, at, n, voltage).slope; };
      d = root_between(slope, e.slope <= 0.0 ? d : 0.5 * (d + pole), e.slope <= 0.0 ? before : d);
      break;
    }
    before = d;
    d = next;
  }
  return {d, torque / (1.5 * m.pole_pairs * (flux(m) - difference(m) * d))};
}

double emf_behind_kt(double kt_rms, double current_rms, double difference, double pole_pairs) {
  const double torque = kt_rms * current_rms, current = std::numbers::sqrt2 * current_rms;
  const auto missing = [&](double k) {
    const InteriorMachine m{k, 1.0, 0.0, 0.0, difference, pole_pairs};
    return interior_torque(m, most_torque_per_ampere(m, current)) - torque;
  };
  const double most = torque / (1.5 * current);
  if (!(missing(0.0) < 0.0)) return std::numeric_limits<double>::quiet_NaN();
  return difference == 0.0 ? most : root_between(missing, 0.0, most * (1.0 + 1e-9));
}

namespace {

InteriorMachine of_lines(double k, double magnet, double r, double l_d, double l_q, double pole_pairs) {
  return {k, magnet, 0.5 * r, 0.5 * l_d, 0.5 * l_q, pole_pairs};
}
double size(DqCurrent i) { return std::hypot(i.d, i.q) / std::numbers::sqrt2; }

double book_current(double k, double magnet, double l_d, double l_q, double pole_pairs, double torque) {
  return interior_current(of_lines(k, magnet, 0.0, l_d, l_q, pole_pairs), torque) / std::numbers::sqrt2;
}
double book_torque(double k, double magnet, double l_d, double l_q, double pole_pairs, double current) {
  const InteriorMachine m = of_lines(k, magnet, 0.0, l_d, l_q, pole_pairs);
  return interior_torque(m, most_torque_per_ampere(m, std::numbers::sqrt2 * current));
}
double book_d_current(double k, double magnet, double l_d, double l_q, double pole_pairs, double current) {
  return most_torque_per_ampere(of_lines(k, magnet, 0.0, l_d, l_q, pole_pairs), std::numbers::sqrt2 * current)
      .d;
}
double book_voltage(double k, double r, double l_d, double l_q, double pole_pairs, double speed,
                    double current, double d) {
  const double q = std::sqrt(std::max(0.0, 2.0 * current * current - d * d));
  return interior_voltage(of_lines(k, 1.0, r, l_d, l_q, pole_pairs), {d, std::copysign(q, current)}, speed);
}
double book_least(double k, double magnet, double r, double l_d, double l_q, double pole_pairs, double speed,
                  double voltage, double torque) {
  return size(least_interior_current(of_lines(k, magnet, r, l_d, l_q, pole_pairs), torque, speed, voltage));
}
double book_envelope(double k, double magnet, double r, double l_d, double l_q, double pole_pairs,
                     double speed, double voltage, double limit, double weakening) {
  const InteriorMachine m = of_lines(k, magnet, r, l_d, l_q, pole_pairs);
  return interior_torque(m, best_interior_current(m, speed, voltage, limit, weakening != 0.0));
}

} // namespace

namespace book {
namespace {
const Parameter k{"K", "K", Kind::emf_constant, "peak back-EMF of one wye phase, magnets cold",
                  range::positive};
const Parameter magnet{"f", "f_m", Kind::number, "what hot magnets leave", {0.0, 2.0}};
const Parameter l_d{"L_d", "L_ll,d", Kind::inductance, "line-line inductance along the magnets",
                    range::positive};
const Parameter l_q{"L_q", "L_ll,q", Kind::inductance, "line-line inductance across the magnets",
                    range::positive};
using dq::pole_pairs, dq::speed, dq::voltage;
constexpr const Parameter& r = dq::resistance_line;
constexpr std::string_view mtpa = "most torque per ampere of a machine whose inductance turns with the rotor";
} // namespace

const Formula interior_emf{
    "interior.emf",
    "Back-EMF constant behind a torque constant",
    "K",
    "K with 1.5·(K·i_q − {p}·{dL}/2·i_d·i_q) = {Kt}·{I} at most torque per ampere",
    Kind::emf_constant,
    {{"Kt", "Kt(rms)", Kind::torque_constant, "torque per rms ampere at the rated current", range::positive},
     {"I", "I_r", Kind::current, "rated current, rms", range::positive},
     {"dL", "L_q − L_d", Kind::inductance, "line-line, across less along the magnets"},
     pole_pairs},
    mtpa,
    [](std::span<const double> v) { return emf_behind_kt(v[0], v[1], 0.5 * v[2], v[3]); }};
const Formula interior_current{
    "interior.current",
    "Current of an air-gap torque",
    "I",
    "least √((i_d² + i_q²)/2) with 1.5·({f}·{K}·i_q − {p}·({L_q} − {L_d})/2·i_d·i_q) "
    "= |{T}|",
    Kind::current,
    {k, magnet, l_d, l_q, pole_pairs, {"T", "T_g", Kind::torque, "air-gap torque"}},
    mtpa,
    calling<&book_current>};
const Formula interior_torque{
    "interior.torque",
    "Air-gap torque of a current",
    "T_g",
    "most 1.5·({f}·{K}·i_q − {p}·({L_q} − {L_d})/2·i_d·i_q) with √((i_d² + i_q²)/2) = {I}",
    Kind::torque,
    {k, magnet, l_d, l_q, pole_pairs, {"I", "I", Kind::current, "rms", range::not_negative}},
    mtpa,
    calling<&book_torque>};
const Formula interior_d_current{"interior.d_current",
                                 "Current along the magnets",
                                 "i_d",
                                 "(ψ − √(ψ² + 8·ΔL²·2·{I}²))/(4·ΔL), ψ = {f}·{K}/{p}, ΔL = ({L_q} − {L_d})/2",
                                 Kind::current,
                                 {k, magnet, l_d, l_q, pole_pairs, {"I", "I", Kind::current, "rms"}},
                                 mtpa,
                                 calling<&book_d_current>};
const Formula interior_voltage{
    "interior.voltage",
    "Phase voltage needed",
    "V",
    "√(({R}/2·{i_d} − {p}·{omega}·{L_q}/2·i_q)² + ({R}/2·i_q + {p}·{omega}·{L_d}/2·{i_d} + {K}·{omega})²), "
    "i_q² = 2·{I}² − {i_d}²",
    Kind::voltage,
    {k,
     r,
     l_d,
     l_q,
     pole_pairs,
     speed,
     {"I", "I", Kind::current, "rms; negative when braking"},
     {"i_d", "i_d", Kind::current, "along the magnets, peak"}},
    dq::source,
    calling<&book_voltage>};
const Formula interior_least_current{
    "interior.least_current",
    "Current with the field weakened",
    "I",
    "least √((i_d² + i_q²)/2) that makes {T} with {f}·{K}, {L_d}, {L_q}, {p} and needs at most {V} with {K}, "
    "{R} at {omega}",
    Kind::current,
    {k,
     magnet,
     r,
     l_d,
     l_q,
     pole_pairs,
     speed,
     voltage,
     {"T", "T_g", Kind::torque, "air-gap torque; negative when braking"}},
    dq::source,
    calling<&book_least>};
const Formula interior_envelope{
    "interior.envelope",
    "Largest air-gap torque at a speed",
    "T_max",
    "most torque with {f}·{K}, {L_d}, {L_q}, {p} of a current within {I} that needs at most {V} with {K}, "
    "{R} "
    "at {omega}; weakened: {w}",
    Kind::torque,
    {k,
     magnet,
     r,
     l_d,
     l_q,
     pole_pairs,
     speed,
     voltage,
     dq::current_limit,
     {"w", "w", Kind::number, "1 where the drive may weaken the field, 0 where not", {0.0, 1.0}}},
    dq::source,
    calling<&book_envelope>};
} // namespace book

std::span<const Formula* const> interior_formulas() {
  static const std::array list{&book::interior_emf,     &book::interior_current,
                               &book::interior_torque,  &book::interior_d_current,
                               &book::interior_voltage, &book::interior_least_current,
                               &book::interior_envelope};
  return list;
}

} // namespace fulmox
