#include "core/heat/network.hpp"

#include "core/quantity/constants.hpp"

#include <Eigen/Dense>
#include <boost/math/tools/toms748_solve.hpp>
#include <unsupported/Eigen/MatrixFunctions>

#include <algorithm>
#include <cmath>
#include <limits>

namespace fulmox {
namespace {

/// worst phase, the others, case, energy turned into heat in the winding, 1
using Matrix = Eigen::Matrix<double, 5, 5>;
using Vector = Eigen::Matrix<double, 5, 1>;
constexpr double alpha = constants::copper_temperature_coefficient;

/// Losses in the other phases, in the same measure.
double others_of(const ThermalNetwork& n, const HeatSpan& s) {
  return n.phases > 1.0 ? std::max(0.0, (n.phases * s.copper - s.worst_phase) / (n.phases - 1.0)) : s.copper;
}

Matrix rates(const ThermalNetwork& n, const HeatSpan& s) {
  constexpr double at_zero =
      1.0 - alpha * constants::copper_reference; // resistance at 0 K over that at 20 °C
  const double one = 1.0 / n.phases, rest = 1.0 - one;
  const double flow = 1.0 / n.winding_to_case, away = 1.0 / n.case_to_ambient, others = others_of(n, s);
  Matrix a = Matrix::Zero();
  a(0, 0) = (s.worst_phase * alpha - flow) / n.winding_capacity;
  a(0, 2) = flow / n.winding_capacity;
  a(0, 4) = s.worst_phase * at_zero / n.winding_capacity;
  a(1, 1) = (others * alpha - flow) / n.winding_capacity;
  a(1, 2) = flow / n.winding_capacity;
  a(1, 4) = others * at_zero / n.winding_capacity;
  a(2, 0) = one * flow / n.case_capacity;
  a(2, 1) = rest * flow / n.case_capacity;
  a(2, 2) = -(flow + away) / n.case_capacity;
  a(2, 4) = (s.body + n.ambient * away) / n.case_capacity;
  a(3, 0) = one * s.worst_phase * alpha;
  a(3, 1) = rest * others * alpha;
  a(3, 4) = (one * s.worst_phase + rest * others) * at_zero;
  return a;
}

/// exp(a) where the three nodes go slowly: its series ends soon, the general method takes twenty times as
/// long. Of exp(x) = 1 + x·φ₁, φ₁ = 1 + x·φ₂ the nodes take the first, what flows in steadily the second, and
/// the energy, which adds up what the nodes do, both.
Matrix short_propagator(const Matrix& a) {
  constexpr int terms = 8; // rates below 0.1: what is left out is below 1e-15
  const Eigen::Matrix3d x = a.topLeftCorner<3, 3>(), one = Eigen::Matrix3d::Identity();
  Eigen::Matrix3d series = one;
  for (int k = terms; k > 2; --k) series = (one + x * series / k).eval();
  const Eigen::Matrix3d phi_2 = 0.5 * series, phi_1 = one + x * phi_2;
  const Eigen::Vector3d into = a.topRightCorner<3, 1>();
  const Eigen::RowVector3d heat = a.block<1, 3>(3, 0);
  Matrix out = Matrix::Identity();
  out.topLeftCorner<3, 3>() = one + x * phi_1;
  out.topRightCorner<3, 1>() = phi_1 * into;
  out.block<1, 3>(3, 0) = heat * phi_1;
  out(3, 4) = a(3, 4) + heat * phi_2 * into;
  return out;
}

Matrix propagator(const ThermalNetwork& n, const HeatSpan& s, double time) {
  const Matrix a = rates(n, s) * time;
  constexpr double short_enough = 0.1;
  const bool is_short = a.topLeftCorner<3, 3>().cwiseAbs().rowwise().sum().maxCoeff() < short_enough;
  return is_short ? short_propagator(a) : Matrix(a.exp());
}

Vector vector_of(const HeatState& y) {
  return (Vector() << y.worst_phase, y.others, y.body, 0.0, 1.0).finished();
}
HeatState state_of(const Vector& v) { return {v[0], v[1], v[2]}; }

/// K the worst phase could gain in a span if nothing were led away, its losses all at once.
double swing(const ThermalNetwork& n, const HeatSpan& s, double temperature) {
  const double factor = std::max(1.0, 1.0 + alpha * (temperature - constants::copper_reference));
  return s.worst_phase * factor * s.time / n.winding_capacity;
}

double rate_of_worst(const ThermalNetwork& n, const HeatSpan& s, const Vector& y) {
  return rates(n, s).row(0).dot(y);
}

double root(const auto& f, double low, double high) {
  std::uintmax_t most = 100;
  const auto [a, b] =
      boost::math::tools::toms748_solve(f, low, high, boost::math::tools::eps_tolerance<double>(40), most);
  return 0.5 * (a + b);
}

/// Not below the worst phase at any moment of a span that starts at y and ends at `end`.
double greatest_in(const ThermalNetwork& n, const HeatSpan& s, const Vector& y, const Vector& end) {
  if (!std::isfinite(end[0])) return std::numeric_limits<double>::infinity(); // runs away
  const double ends = std::max(y[0], end[0]);
  if (s.varies) return ends + swing(n, s, ends);
  if (!(rate_of_worst(n, s, y) > 0.0 && rate_of_worst(n, s, end) < 0.0)) return ends;
  // it rises first and then follows the cooling case
  const auto rate = [&](double t) { return rate_of_worst(n, s, propagator(n, s, t) * y); };
  return std::max(ends, (propagator(n, s, root(rate, 0.0, s.time)) * y)[0]);
}

std::vector<Matrix> propagators(const ThermalNetwork& n, std::span<const HeatSpan> cycle) {
  std::vector<Matrix> steps;
  steps.reserve(cycle.size());
  for (const HeatSpan& s : cycle) steps.push_back(propagator(n, s, s.time));
  return steps;
}

Matrix product(const std::vector<Matrix>& steps) {
  Matrix all = Matrix::Identity();
  for (const Matrix& step : steps) all = step * all;
  return all;
}

/// Gelfand's formula: the norm of Bⁿ to the power 1/n, n doubled by squaring. No entry of B is negative,
/// since more heat anywhere cools nothing: nothing cancels. Once squaring leaves the direction as it is, all
/// further norms are the same, and their weights add up to as much as the last one.
double spectral_radius(Eigen::Matrix3d b) {
  constexpr int doublings = 54; // what is left of the weight is below rounding
  double logarithm = 0.0, weight = 1.0;
  for (int k = 0; k < doublings; ++k, weight *= 0.5) {
    const double norm = b.maxCoeff();
    if (!std::isfinite(norm)) return std::numeric_limits<double>::infinity();
    if (!(norm > 0.0)) return 0.0;
    logarithm += weight * std::log(norm);
    b /= norm;
    const Eigen::Matrix3d square = b * b;
    const double next = square.maxCoeff();
    if ((square - next * b).cwiseAbs().maxCoeff() <= 1e-15 * next)
      return std::exp(logarithm + weight * std::log(next));
    b = square;
  }
  return std::exp(logarithm);
}

double duration(std::span<const HeatSpan> cycle) {
  double sum = 0.0;
  for (const HeatSpan& s : cycle) sum += s.time;
  return sum;
}

/// Where in a span of constant losses the worst phase passes the limit, which it does.
double passing(const ThermalNetwork& n, const HeatSpan& s, const Vector& y, double limit) {
  const auto above = [&](double t) { return (propagator(n, s, t) * y)[0] - limit; };
  double late = s.time;
  while (!std::isfinite(above(late))) late *= 0.5; // running away it soon has no number
  return root(above, 0.0, late);
}

/// Where in one cycle that starts at y the limit is first met; nothing where it is not.
std::optional<double> within(const ThermalNetwork& n, std::span<const HeatSpan> cycle,
                             const std::vector<Matrix>& steps, Vector y, double limit) {
  double time = 0.0;
  for (std::size_t i = 0; i < cycle.size(); ++i) {
    const HeatSpan& s = cycle[i];
    const Vector end = steps[i] * y;
    if (!(y[0] < limit)) return time; // or no number any more
    if (!(greatest_in(n, s, y, end) < limit)) {
      if (s.varies || end[0] < limit) return time; // a swing inside: its start is the safe side
      return time + passing(n, s, y, limit);
    }
    y = end;
    time += s.time;
  }
  return std::nullopt;
}

} // namespace

PeriodicHeat periodic_heat(const ThermalNetwork& network, std::span<const HeatSpan> cycle) {
  PeriodicHeat out;
  const std::vector<Matrix> steps = propagators(network, cycle);
  const Matrix all = product(steps);
  const Eigen::Matrix3d b = all.topLeftCorner<3, 3>();
  const Eigen::Vector3d c = all.topRightCorner<3, 1>();
  out.growth = spectral_radius(b);
  if (!(out.growth < 1.0)) {
    out.runs_away = true;
    return out;
  }
  const Eigen::Vector3d fixed = (Eigen::Matrix3d::Identity() - b).partialPivLu().solve(c);
  out.start = {fixed[0], fixed[1], fixed[2]};
  Vector y = vector_of(out.start);
  out.coldest = y[0];
  double body = 0.0;
  for (std::size_t i = 0; i < cycle.size(); ++i) {
    const Vector end = steps[i] * y;
    if (const double here = greatest_in(network, cycle[i], y, end); here > out.hottest) {
      out.hottest = here;
      out.hottest_span = i;
    }
    out.coldest = std::min(out.coldest, end[0]);
    out.hottest_body = std::max({out.hottest_body, y[2], end[2]});
    body += cycle[i].body * cycle[i].time;
    y = end;
  }
  const double time = duration(cycle);
  out.mean_copper = y[3] / time;
  out.mean_body = body / time;
  return out;
}

HeatState heated(const ThermalNetwork& network, const HeatState& from, const HeatSpan& losses, double time) {
  return state_of(propagator(network, losses, time) * vector_of(from));
}

std::optional<double> time_to(const ThermalNetwork& network, std::span<const HeatSpan> cycle,
                              const HeatState& from, double limit) {
  constexpr double longest = 3.6e6; // s
  const std::vector<Matrix> steps = propagators(network, cycle);
  const double period = duration(cycle);
  if (!(period > 0.0)) return std::nullopt;
  // the peaks of cycles rise one after another when it starts cold: find the first that meets the limit
  std::vector<Matrix> powers{product(steps)};
  Vector y = vector_of(from);
  if (const auto at = within(network, cycle, steps, y, limit)) return at;
  double cycles = 1.0;
  while (cycles * period < longest && !within(network, cycle, steps, powers.back() * y, limit)) {
    powers.push_back(powers.back() * powers.back());
    cycles *= 2.0;
  }
  if (!(cycles * period < longest)) return std::nullopt;
  double done = 0.0;
  for (std::size_t k = powers.size(); k-- > 0;) {
    const Vector later = powers[k] * y;
    if (within(network, cycle, steps, later, limit)) continue;
    y = later;
    done += std::ldexp(1.0, static_cast<int>(k));
  }
  y = powers.front() * y;
  return (done + 1.0) * period + within(network, cycle, steps, y, limit).value_or(0.0);
}

std::vector<HeatPoint> warming(const ThermalNetwork& network, std::span<const HeatSpan> cycle,
                               const HeatState& from, double until, std::size_t most) {
  std::vector<HeatPoint> points{{0.0, from}};
  const std::vector<Matrix> steps = propagators(network, cycle);
  const double period = duration(cycle);
  if (!(period > 0.0) || most < 2) return points;
  const double cycles = std::ceil(until / period);
  const double shown =
      std::max(1.0, std::floor(static_cast<double>(most) / static_cast<double>(cycle.size())));
  const auto skipped = static_cast<std::size_t>(std::max(0.0, std::ceil(cycles / shown) - 1.0));
  Matrix skip = Matrix::Identity(), square = product(steps);
  for (std::size_t left = skipped; left > 0; left /= 2, square = (square * square).eval())
    if (left % 2 == 1) skip = square * skip;
  Vector y = vector_of(from);
  for (double time = 0.0; points.back().time < until;) {
    for (std::size_t i = 0; i < cycle.size(); ++i) {
      y = steps[i] * y;
      time += cycle[i].time;
      points.push_back({time, state_of(y)});
    }
    y = skip * y;
    time += static_cast<double>(skipped) * period;
  }
  return points;
}

double intermittent_factor(const ThermalNetwork& network, double limit, double share, double period) {
  const double warm = 1.0 + alpha * (limit - constants::copper_reference);
  const double always =
      (limit - network.ambient) / (network.winding_to_case + network.case_to_ambient) / warm; // W at 20 °C
  if (!(always > 0.0)) return 0.0;
  const auto too_hot = [&](double factor) {
    const double loss = always * factor * factor;
    const std::vector<HeatSpan> duty{{share * period, loss, loss, 0.0},
                                     {(1.0 - share) * period, 0.0, 0.0, 0.0}};
    const PeriodicHeat heat = periodic_heat(network, duty);
    return heat.runs_away ? 1e6 : heat.hottest - limit;
  };
  if (share >= 1.0) return 1.0;
  const double most = 1.0 / std::sqrt(share); // the rule for short periods is never reached
  return root(too_hot, 1.0, most * (1.0 + 1e-9));
}

} // namespace fulmox
