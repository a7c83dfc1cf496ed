#include "core/evaluation/plots.hpp"

#include "core/motor/envelope.hpp"

#include <algorithm>

namespace fulmox {
namespace {

std::vector<EnvelopePoint> envelope_of(const AxisModel& model, double mean_speed, double use) {
  Recorder silent(false);
  std::vector<EnvelopePoint> points;
  const Motor& m = *model.motor;
  const double top = m.fastest_known();
  if (top == 0.0) return points;
  double derating = altitude_derating(model.surroundings.altitude);
  if (!std::isnan(m.winding_limit))
    derating *= silent.apply(book::ambient_derating, "derate.ambient", ambient_terms(model, mean_speed));
  const MotorSupply nominal = model.supply_at(model.surroundings.bus);
  const MotorSupply low = model.supply_at(model.surroundings.bus_low);
  constexpr int steps = 80;
  for (int i = 0; i <= steps; ++i) {
    const double speed = top * i / steps;
    const double peak = m.peak_torque(speed, nominal, false);
    const double lasting =
        m.keeps_current() ? peak * use : std::min(m.continuous_torque(speed) * derating, peak);
    points.push_back({speed, lasting, peak, m.peak_torque(speed, low, false)});
  }
  return points;
}

} // namespace

Plots plots_of(const Evaluation& evaluation) {
  return {sample(*evaluation.model, evaluation.course),
          envelope_of(*evaluation.model, evaluation.demand.mean_speed, evaluation.torque_use)};
}

} // namespace fulmox
