#include "core/evaluation/bench_picture.hpp"

#include <cmath>
#include <optional>

namespace fulmox {
namespace {

std::optional<BenchPoint> at(const AxisModel& model, const MotorSupply& supply, double torque, double speed) {
  const Motor& motor = *model.motor;
  const double air_gap = torque + (speed > 0.0 ? motor.drag(speed) : 0.0);
  const auto current = motor.running_current(air_gap, speed, supply);
  if (!current) return std::nullopt;
  const double shaft = torque * speed, bus = model.bus_power(torque, speed, *current);
  return BenchPoint{speed, bus / model.surroundings.bus, bus > 0.0 ? shaft / bus : 0.0};
}

double fastest(const Motor& motor) {
  if (!std::isnan(motor.max_speed)) return motor.max_speed;
  return motor.fastest_known();
}

} // namespace

BenchPicture bench_picture(const AxisModel& model, double torque) {
  BenchPicture out;
  const double top = fastest(*model.motor);
  if (!model.motor->electric() || std::isnan(model.surroundings.bus) || !(top > 0.0)) return out;
  const MotorSupply supply = model.supply_at(model.surroundings.bus);
  constexpr int steps = 60;
  std::optional<double> beyond;
  for (int i = 0; i <= steps && !beyond; ++i) {
    if (const auto point = at(model, supply, torque, top * i / steps))
      out.points.push_back(*point);
    else
      beyond = top * i / steps;
  }
  out.ends = beyond.has_value();
  if (!beyond || out.points.empty()) return out;
  double low = out.points.back().speed, high = *beyond; // up to where it ends
  for (int k = 0; k < 20; ++k) {
    const double middle = 0.5 * (low + high);
    (at(model, supply, torque, middle) ? low : high) = middle;
  }
  if (const auto last = at(model, supply, torque, low); last && low > out.points.back().speed)
    out.points.push_back(*last);
  return out;
}

} // namespace fulmox
