#include "core/match/kind_curves.hpp"

#include <algorithm>
#include <cmath>

namespace fulmox {

OutputPoints capability_at_output(const KindCandidate& candidate) {
  const AxisModel& model = *candidate.evaluation->model;
  const Motor& motor = *model.motor;
  OutputPoints points;
  if (!motor.has_peak()) return points;
  double top = motor.max_speed;
  if (std::isnan(top) || top <= 0.0) top = motor.fastest_known();
  if (!(top > 0.0)) return points;
  const Term& low = model.surroundings.bus_low;
  const MotorSupply supply = model.supply_at(std::isnan(low) ? 0.0 : low.value);
  const double ratio = model.gear.fitted ? model.gear.ratio.value : 1.0;
  const double efficiency = model.gear.fitted ? model.gear.efficiency.value : 1.0;
  constexpr int steps = 60;
  for (int i = 0; i <= steps; ++i) {
    const double speed = top * i / steps;
    const double torque = motor.peak_torque(speed, supply, false) * candidate.evaluation->torque_use;
    if (!std::isfinite(torque)) continue;
    points.push_back({speed / ratio, std::max(0.0, torque) * ratio * efficiency});
  }
  return points;
}

OutputPoints demand_at_output(const AxisModel& model) {
  OutputPoints points;
  Recorder silent(false);
  for (const LoadStretch& stretch : model.load->stretches) {
    // some three hundred over the cycle, a few on the shortest stretch
    constexpr double most = 300.0;
    const int steps = 3 + static_cast<int>(most * (stretch.to - stretch.from) / model.load->cycle.duration);
    for (int i = 0; i <= steps; ++i) {
      const double tau = stretch.from + (stretch.to - stretch.from) * i / steps;
      const ShaftState output = model.load->at(stretch.piece, tau, silent).output;
      points.push_back({std::abs(output.speed), std::abs(output.torque.value)});
    }
  }
  return points;
}

} // namespace fulmox
