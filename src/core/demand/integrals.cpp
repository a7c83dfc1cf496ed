#include "core/demand/integrals.hpp"

#include <boost/math/quadrature/gauss.hpp>

#include <algorithm>
#include <cmath>
#include <numeric>

namespace fulmox {
namespace {

void add(CycleIntegrals& sums, const AxisModel& model, const Instant& now, double weight,
         double gear_exponent) {
  const double speed = std::abs(now.speed);
  sums.torque_squared += weight * now.torque * now.torque;
  sums.current_squared += weight * now.current * now.current;
  sums.turns += weight * speed;
  sums.speed_squared += weight * speed * speed;
  (now.shaft_power >= 0.0 ? sums.driven : sums.returned) += weight * std::abs(now.shaft_power);
  (now.bus_power >= 0.0 ? sums.bus_drawn : sums.bus_returned) += weight * std::abs(now.bus_power);
  if (model.gear.fitted)
    sums.gear_weighted += weight * std::pow(std::abs(now.output.torque), gear_exponent) * speed;
  for (std::size_t i = 0; i < torque_part_count; ++i)
    sums.energy.values[i] += weight * now.parts.values[i] * now.speed;
}

/// The greatest run of returning without a pause; a run may go on over the end of the cycle into the next.
double largest_burst(const std::vector<double>& returned) {
  double largest = 0.0;
  double burst = 0.0;
  for (std::size_t i = 0; i < 2 * returned.size(); ++i) {
    const double here = returned[i % returned.size()];
    burst = here > 0.0 ? burst + here : 0.0;
    largest = std::max(largest, burst);
  }
  // a bus that only ever takes energy back would count twice
  return std::min(largest, std::accumulate(returned.begin(), returned.end(), 0.0));
}

} // namespace

namespace {

template <class Rule> std::vector<std::pair<double, double>> unfolded() {
  std::vector<std::pair<double, double>> all;
  const auto& x = Rule::abscissa();
  const auto& w = Rule::weights();
  for (std::size_t i = 0; i < x.size(); ++i) {
    all.emplace_back(x[i], w[i]);
    if (x[i] != 0.0) all.emplace_back(-x[i], w[i]);
  }
  std::sort(all.begin(), all.end());
  return all;
}

/// Three nodes are exact up to the fifth degree: enough where acceleration runs straight and nothing else
/// depends on position.
std::size_t nodes_for(const AxisModel& model, const Span& span) {
  const Piece& piece = model.cycle.pieces[span.piece];
  const SegmentFacts& facts = model.cycle.facts[piece.segment];
  const bool plain = facts.effort_curve.empty() && facts.effort_first == facts.effort_last &&
                     !model.mechanism->position_matters();
  return plain && piece.path.degree() <= 3 ? 3 : 7;
}

} // namespace

std::span<const std::pair<double, double>> gauss_rule(std::size_t count) {
  static const auto three = unfolded<boost::math::quadrature::gauss<double, 3>>();
  static const auto seven = unfolded<boost::math::quadrature::gauss<double, 7>>();
  return count == 3 ? three : seven;
}

bool span_is_straight(const AxisModel& model, const Span& span) {
  const Piece& piece = model.cycle.pieces[span.piece];
  if (piece.rest()) return true;
  const SegmentFacts& facts = model.cycle.facts[piece.segment];
  return piece.path.degree() <= 2 && !model.mechanism->position_matters() && facts.effort_curve.empty() &&
         facts.effort_first == facts.effort_last;
}

CycleIntegrals integrate(const AxisModel& model, const std::vector<Span>& spans, double gear_exponent) {
  Recorder silent(false);
  CycleIntegrals sums;
  std::vector<double> returned;
  for (const Span& span : spans) {
    const double middle = 0.5 * (span.from + span.to);
    const double half = 0.5 * (span.to - span.from);
    const double before = sums.bus_returned;
    SpanTorques torques;
    for (const auto& [x, w] : gauss_rule(nodes_for(model, span))) {
      const Instant now = model.at(span.piece, middle + half * x, silent);
      add(sums, model, now, half * w, gear_exponent);
      torques.values[torques.count++] = now.torque;
    }
    sums.torques.push_back(torques);
    returned.push_back(sums.bus_returned - before);
  }
  sums.largest_return = largest_burst(returned);
  return sums;
}

} // namespace fulmox
