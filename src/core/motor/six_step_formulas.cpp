#include "core/motor/six_step_formulas.hpp"

#include "core/motor/block_heat.hpp"

#include <boost/math/tools/toms748_solve.hpp>

#include <algorithm>
#include <array>
#include <cmath>

namespace fulmox {
namespace {

constexpr std::array xs{0.1, 0.3, 1.0, 3.0, 10.0};
using Row = std::array<double, xs.size()>;
struct Line {
  double s;
  Row sine, flat;
};
// Steady currents stepped in time with ideal diodes, 1440 steps a turn; flat is within 1 % of sine up to 0.7.
constexpr std::array<Line, 8> table{{
    {0.10, {0.970, 0.901, 0.688, 0.292, 0.0735}, {0.970, 0.901, 0.688, 0.292, 0.0735}},
    {0.25, {0.967, 0.895, 0.684, 0.328, 0.0860}, {0.967, 0.895, 0.684, 0.328, 0.0860}},
    {0.40, {0.964, 0.888, 0.677, 0.383, 0.1047}, {0.964, 0.888, 0.677, 0.383, 0.1047}},
    {0.55, {0.960, 0.881, 0.667, 0.385, 0.1360}, {0.960, 0.881, 0.667, 0.385, 0.1360}},
    {0.70, {0.954, 0.872, 0.654, 0.377, 0.1505}, {0.954, 0.872, 0.654, 0.377, 0.1505}},
    {0.80, {0.946, 0.863, 0.643, 0.368, 0.1469}, {0.957, 0.870, 0.646, 0.370, 0.1476}},
    {0.90, {0.928, 0.846, 0.630, 0.358, 0.1419}, {0.955, 0.865, 0.636, 0.359, 0.1423}},
    {0.95, {0.892, 0.819, 0.618, 0.351, 0.1390}, {0.954, 0.863, 0.630, 0.354, 0.1394}},
}};

/// Without inductance: on a sine the mean of the EMF over its 60° leaves a hair less than (1 − s).
double without_inductance(double s, bool flat) {
  return flat || s >= 1.0 ? 1.0 : std::max(0.0, (1.0 - 1.0018 * s) / (1.0 - s));
}

/// Along a line of the table: ln q straight in log x; straight in x down to no inductance; beyond the last
/// point it falls faster than the reactance grows.
double along(const Row& row, double at_zero, double x) {
  if (x <= xs.front()) return at_zero + (row.front() - at_zero) * x / xs.front();
  if (x >= xs.back()) return row.back() * std::pow(xs.back() / x, 1.2);
  const auto right = static_cast<std::size_t>(std::upper_bound(xs.begin(), xs.end(), x) - xs.begin());
  const double t = std::log(x / xs[right - 1]) / std::log(xs[right] / xs[right - 1]);
  return row[right - 1] * std::pow(row[right] / row[right - 1], t);
}

} // namespace

double block_share(double s, double x, bool flat) {
  const auto line = [&](const Line& l) {
    return along(flat ? l.flat : l.sine, without_inductance(l.s, flat), x);
  };
  const double asked = std::clamp(s, 0.0, 1.0);
  std::size_t right = 1;
  while (right + 1 < table.size() && table[right].s < asked) ++right;
  const Line &a = table[right - 1], &b = table[right];
  const double t = (std::min(asked, table.back().s) - a.s) / (b.s - a.s); // below the first line it goes on
  const double share = std::min(line(a) * std::pow(line(b) / line(a), t), without_inductance(asked, flat));
  if (asked <= table.back().s) return share;
  // towards the no-load speed: down to what is left without inductance there
  const double end = flat ? 1.0 : 1.0 / 1.0018;
  return share * std::max(0.0, flat ? 1.0
                                    : (end - asked) / (end - table.back().s) * (1.0 - table.back().s) /
                                          std::max(1.0 - asked, 1e-12));
}

double block_current(const BlockMachine& m, double speed, double volts) {
  if (!(volts > 0.0)) return 0.0;
  const double s = m.kt * speed / volts;
  if (s >= 1.0) return 0.0;
  return block_share(s, m.pole_pairs * speed * m.inductance / m.resistance, m.flat) * (1.0 - s) * volts /
         m.resistance;
}

double block_volts(const BlockMachine& m, double speed, double current) {
  const double emf = m.kt * speed;
  if (!(current > 0.0)) return emf;
  const auto miss = [&](double volts) { return block_current(m, speed, volts) - current; };
  double low = emf, high = emf + m.resistance * current;
  while (miss(high) < 0.0 && std::isfinite(high)) {
    low = high;
    high *= 2.0;
  }
  if (miss(high) == 0.0 || !std::isfinite(high)) return high;
  std::uintmax_t tries = 60;
  const auto root = boost::math::tools::toms748_solve(miss, low, high,
                                                      boost::math::tools::eps_tolerance<double>(46), tries);
  return root.second; // rather too much than too little
}

namespace {
double book_volts(double kt, double resistance, double inductance, double pole_pairs, double speed,
                  double current, double flat) {
  return block_volts({kt, resistance, inductance, pole_pairs, flat != 0.0}, speed, current);
}
double book_torque_at(double kt, double resistance, double inductance, double pole_pairs, double speed,
                      double volts, double flat) {
  return kt * block_current({kt, resistance, inductance, pole_pairs, flat != 0.0}, speed, volts);
}
} // namespace

namespace book {
namespace {
const Parameter kt{"Kt", "Kt", Kind::torque_constant, "torque per commutated ampere", range::positive};
const Parameter resistance{"R", "R_ll", Kind::resistance, "line-line resistance", range::positive};
const Parameter inductance{"L", "L_ll", Kind::inductance, "line-line inductance", range::not_negative};
const Parameter pairs{"p", "p", Kind::number, "pole pairs", {1.0, 100.0}};
const Parameter speed{"omega", "ω", Kind::angular_speed, "mechanical speed", range::not_negative};
const Parameter shape{"flat", "flat", Kind::number, "1 for a flat back-EMF, 0 for a sine", {0.0, 1.0}};
constexpr std::string_view source =
    "steady currents of the voltage-fed machine, stepped in time with ideal diodes";
} // namespace

const Formula block_volts{
    "motor.block_volts",
    "Volts needed between the leads",
    "V",
    "V with q(s, x)·(V − {Kt}·{omega})/{R} = {I}; s = {Kt}·{omega}/V, x = {p}·{omega}·{L}/{R}",
    Kind::voltage,
    {kt,
     resistance,
     inductance,
     pairs,
     speed,
     {"I", "I", Kind::current, "commutated current", range::not_negative},
     shape},
    source,
    calling<&fulmox::book_volts>};
const Formula block_torque_at{
    "motor.block_torque_at",
    "Air-gap torque the voltage leaves",
    "T_V",
    "{Kt}·q(s, x)·({V} − {Kt}·{omega})/{R}; s = {Kt}·{omega}/{V}, x = {p}·{omega}·{L}/{R}",
    Kind::torque,
    {kt,
     resistance,
     inductance,
     pairs,
     speed,
     {"V", "V", Kind::voltage, "volts between the leads", range::not_negative},
     shape},
    source,
    calling<&fulmox::book_torque_at>};
} // namespace book

std::span<const Formula* const> block_formulas() {
  static const std::array list{&book::block_volts, &book::block_torque_at, &book::block_heat_current};
  return list;
}

} // namespace fulmox
