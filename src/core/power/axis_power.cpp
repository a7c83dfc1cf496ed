#include "core/power/axis_power.hpp"

#include "core/power/fit_power.hpp"

#include <algorithm>
#include <cmath>

namespace fulmox {
PowerCurve power_of(const AxisModel& model, const Course& course) {
  double peak = 0.0;
  for (const Stretch& s : course.stretches)
    for (const double u : {-1.0, 0.0, 1.0})
      peak = std::max(peak, std::abs(model.electrical(s.torque(u), s.speed(u), s.direction).bus_power));
  PowerCurve out;
  for (const Stretch& s : course.stretches) {
    if (!(s.length() > 1e-12)) continue;
    const double start = model.load->cycle.pieces[s.piece].start;
    const auto watts = [&](double t) {
      const double u = std::clamp(s.share(t - start), -1.0, 1.0);
      return model.electrical(s.torque(u), s.speed(u), s.direction).bus_power;
    };
    fit_power(watts, start + s.from, start + s.to, 1e-6 * peak, out.pieces);
  }
  if (out.pieces.empty()) return out;
  out.pieces.front().from = 0.0;
  out.pieces.back().to = model.load->cycle.duration;
  for (std::size_t i = 1; i < out.pieces.size(); ++i) out.pieces[i].from = out.pieces[i - 1].to;
  return out;
}

double waiting_power(const AxisModel& model, double hold, Waiting waiting) {
  const double torque = waiting == Waiting::holding ? hold : 0.0;
  if (waiting == Waiting::off && model.motor->electric()) return model.drive->loss(0.0);
  return model.electrical(torque, 0.0, 0.0).bus_power;
}

} // namespace fulmox
