#include "core/evaluation/plots.hpp"

#include <algorithm>

namespace fulmox {
namespace {

std::vector<EnvelopePoint> envelope_of(const AxisModel& model, const Section& motor, double mean_speed) {
  Recorder silent(false);
  std::vector<EnvelopePoint> points;
  const ServoMotor& m = model.motor;
  double top = 0.0;
  if (!m.peak.empty()) top = m.peak.back()[0];
  if (!m.continuous.empty()) top = std::max(top, m.continuous.back()[0]);
  if (top == 0.0) return points;
  double derating = altitude_derating(model.surroundings.altitude);
  if (!motor.blank("winding_limit"))
    derating *=
        silent.apply(book::ambient_derating, "derate.ambient", ambient_terms(motor, model, mean_speed));
  const MotorSupply nominal = model.supply_at(model.surroundings.bus);
  const MotorSupply low = model.supply_at(model.surroundings.bus_low);
  constexpr int steps = 80;
  for (int i = 0; i <= steps; ++i) {
    const double speed = top * i / steps;
    const double peak = m.peak_torque(speed, nominal, false);
    points.push_back({speed, std::min(m.continuous_torque(speed) * derating, peak), peak,
                      m.peak_torque(speed, low, false)});
  }
  return points;
}

} // namespace

Plots plots_of(const Evaluation& evaluation, const Axis& axis) {
  return {sample(*evaluation.model, evaluation.course),
          envelope_of(*evaluation.model, axis["motor"], evaluation.demand.mean_speed)};
}

} // namespace fulmox
