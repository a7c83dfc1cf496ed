#include "core/demand/integrals.hpp"

#include "core/demand/gear_weighted.hpp"
#include "core/support/curved_integral.hpp"

#include <boost/container/small_vector.hpp>

#include <algorithm>
#include <array>
#include <cmath>

namespace fulmox {
namespace {

/// I² − allowed over a stretch in which the current's law does not change, as a polynomial close to it.
template <class F> Series over_allowed(const F& current_at, double allowed) {
  std::array<double, Series::most_terms> values{};
  const auto rule = gauss_rule(values.size());
  for (std::size_t j = 0; j < values.size(); ++j) {
    const double current = current_at(rule[j].at);
    values[j] = current * current - allowed;
  }
  return Series::through({values.data(), values.size()});
}

} // namespace

bool runs_straight(const AxisModel& model, const Stretch& stretch) {
  const MotionPiece& piece = model.load->cycle.pieces[stretch.piece];
  if (piece.rest()) return true;
  const SegmentFacts& facts = model.load->cycle.facts[piece.segment];
  return piece.path.degree() <= 2 && stretch.torque.size() <= 2 &&
         !model.load->mechanism->position_matters() && facts.effort_curve.empty() &&
         facts.effort_first == facts.effort_last;
}

CycleIntegrals integrate(const AxisModel& model, const Course& course, double gear_exponent) {
  const Sums all = course.sums();
  CycleIntegrals out;
  out.torque_squared = all.torque_squared;
  out.current_squared = all.current_squared;
  out.turns = all.turns;
  out.speed_squared = all.speed_squared;
  out.energy = all.energy;
  boost::container::small_vector<double, 128> swallowed, ends;
  for (const Stretch& stretch : course.stretches) {
    const Sums& part = stretch.sums;
    (part.shaft_work >= 0.0 ? out.driven : out.returned) += std::abs(part.shaft_work);
    (part.bus_work >= 0.0 ? out.bus_drawn : out.bus_returned) += std::abs(part.bus_work);
    swallowed.push_back(-part.bus_work);
    ends.push_back(model.load->cycle.pieces[stretch.piece].start + stretch.to);
  }
  if (model.gear.fitted) out.gear_weighted = model.gear.ratio * gear_weighted(*model.load, gear_exponent);
  out.reflected = reflected({swallowed.data(), swallowed.size()}, {ends.data(), ends.size()}).greatest;
  return out;
}

Reflected overload(const AxisModel& model, const Course& course, double continuous_current) {
  const Motor& motor = *model.motor;
  const double allowed = continuous_current * continuous_current;
  const double threshold = motor.torque_of_current(continuous_current);
  boost::container::small_vector<double, 128> gains, ends;
  for (const Stretch& stretch : course.stretches) {
    const double start = model.load->cycle.pieces[stretch.piece].start;
    const Series& gap = stretch.air_gap;
    const auto current_at = [&](double u) {
      return model.current(gap(u), stretch.speed(u), stretch.direction);
    };
    Series::Places cuts;
    if (motor.speed_shapes_current() && !stretch.braked && stretch.direction != 0.0) {
      cuts = over_allowed(current_at, allowed).crossings();
    } else if (!stretch.braked && gap.bound() > threshold) {
      Series over = gap; // keeps its sign in the stretch
      over += gap(0.0) > 0.0 ? -threshold : threshold;
      cuts = over.crossings();
    }
    if (cuts.empty()) {
      gains.push_back(stretch.sums.current_squared - allowed * stretch.length());
      ends.push_back(start + stretch.to);
      continue;
    }
    cuts.push_back(1.0);
    double from = -1.0;
    for (const double to : cuts) {
      if (motor.speed_shapes_current()) {
        const auto rate = [&](double u) { return current_at(u) * current_at(u) - allowed; };
        gains.push_back(0.5 * stretch.length() * curved_integral(rate, from, to));
        ends.push_back(start + stretch.tau(to));
        from = to;
        continue;
      }
      const double middle = 0.5 * (from + to), half = 0.5 * (to - from);
      double gain = 0.0;
      for (const auto& [u, weight] : gauss_rule(stretch.nodes)) {
        const double current = current_at(middle + half * u);
        gain += weight * (current * current - allowed);
      }
      gains.push_back(0.5 * stretch.length() * half * gain);
      ends.push_back(start + stretch.tau(to));
      from = to;
    }
  }
  return reflected({gains.data(), gains.size()}, {ends.data(), ends.size()});
}

} // namespace fulmox
