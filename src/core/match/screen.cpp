#include "core/match/screen.hpp"

#include "core/limits/limit.hpp"

#include <algorithm>
#include <cmath>
#include <map>

namespace fulmox {
namespace {

constexpr double without_end = std::numeric_limits<double>::infinity();

/// What limits marked Follows::fittings see of a motor, in an order that can be looked up.
std::array<double, 6> fittings_of(const Motor& motor) {
  std::array<double, 6> all{motor.shaft,        motor.shaft_length,
                            motor.flange.pilot, motor.flange.bolt_circle,
                            motor.max_volts,    static_cast<double>(motor.feedback)};
  for (double& value : all)
    if (std::isnan(value)) value = -1.0;
  return all;
}

/// Greatest speed that the motor's own limit and the back-EMF leave.
double most_speed_of(const Motor& motor, const Drive& drive, const Term& bus) {
  if (std::isnan(motor.max_speed)) return without_end;
  double most = motor.max_speed;
  if (!motor.has_circuit() || std::isnan(bus) || drive.weakening || !(drive.motor_volts(bus) > 0.0))
    return most;
  Recorder silent(false);
  const Term volts = drive.record_motor_volts(bus, "", silent);
  if (const auto base = motor.record_base_speed(volts, "", silent)) most = std::min(most, base->value);
  return most;
}

double share(double demand, double capacity) {
  if (capacity > 0.0) return demand / capacity;
  return demand > 0.0 ? without_end : 0.0;
}

} // namespace

std::string_view Screen::label(Reason reason) {
  static const std::array<std::string_view, reasons> labels{"",
                                                            label_of_limit("motor.rms"),
                                                            label_of_limit("motor.peak"),
                                                            label_of_limit("stepper.pullout"),
                                                            label_of_limit("motor.speed"),
                                                            label_of_limit("inertia.ratio")};
  return labels[reason];
}

Screen::Screen(const BenchOfParts& bench, const Rules& rules, std::size_t motors, std::size_t brakes)
    : classes_(bench.classes().size()), at_rms_speed_(rules.text("thermal_speed") == "rms"),
      least_rotor_(without_end) {
  const Term bus = bench.surroundings().bus;
  std::map<std::array<double, 6>, std::size_t> known;
  rows_.resize(motors * classes_);
  brake_inertia_.resize(brakes * motors);
  fitting_of_.resize(motors);
  for (std::uint32_t m = 0; m < motors; ++m) {
    double own = 0.0;
    bool any = false;
    for (std::size_t k = 0; k < classes_; ++k) {
      if (!bench.runs(m, k)) continue;
      const Motor& motor = bench.motor(m, k);
      const Drive& drive = *bench.drive(bench.classes()[k].drives.front());
      Row& row = rows_[m * classes_ + k];
      row.keeps_current = motor.keeps_current();
      row.motor = !row.keeps_current && motor.has_continuous() ? &motor : nullptr;
      if (row.motor != nullptr) {
        const auto curve = motor.continuous_points();
        row.first_point = static_cast<std::uint32_t>(points_.size());
        row.points = static_cast<std::uint32_t>(curve.size());
        points_.insert(points_.end(), curve.begin(), curve.end());
      }
      row.inertia = own = motor.inertia;
      row.most_torque = bench.most_torque(m, k);
      row.most_speed = most_speed_of(motor, drive, bus);
      row.most_ratio = motor.chosen
                           ? rules.term(row.keeps_current ? "inertia_max_stepper" : "inertia_max").value
                           : without_end;
      if (any) continue;
      any = true;
      const auto [place, fresh] = known.emplace(fittings_of(motor), examples_.size());
      if (fresh) examples_.push_back({m, k});
      fitting_of_[m] = place->second;
    }
    for (std::uint32_t b = 0; b < brakes && any; ++b) {
      const double brake = brake_inertia_[b * motors + m] = bench.brake(b, m).inertia;
      if (own + brake > 0.0) least_rotor_ = std::min(least_rotor_, own + brake);
      most_rotor_ = std::max(most_rotor_, own + brake);
    }
  }
}

Screen::Asked::Asked(const Screen& screen, const TrainDemand& train, std::uint32_t brake)
    : train_(train), max_speed_(std::abs(train.demand().max_speed)),
      thermal_speed_(screen.at_rms_speed_ ? train.demand().rms_speed : train.demand().mean_speed),
      load_inertia_(std::abs(train.demand().load_inertia)), brake_(brake) {
  if (screen.most_rotor_ > 0.0) moments_ = train.greatest_between(screen.least_rotor_, screen.most_rotor_);
}

double Screen::continuous_torque(const Row& row, double at) const {
  if (row.points == 0) return row.motor->continuous_torque(at);
  return read_curve(std::span(points_).subspan(row.first_point, row.points), std::abs(at));
}

Screen::Bound Screen::operator()(const Asked& asked, std::size_t motor, std::size_t drive_class) const {
  constexpr double rounding = 1.0 - 1e-9;
  const Row& row = rows_[motor * classes_ + drive_class];
  Bound worst;
  const auto take = [&](double used, Reason reason) {
    if (rounding * used > worst.used) worst = {rounding * used, reason};
  };
  const double rotor = row.inertia + brake_inertia_[asked.brake_ * fitting_of_.size() + motor];
  take(share(asked.max_speed_, row.most_speed), speed);
  if (rotor > 0.0 && std::isfinite(row.most_ratio))
    take(share(asked.load_inertia_ / rotor, row.most_ratio), inertia);
  double peak = 0.0;
  for (const auto& m : asked.moments_) peak = std::max(peak, std::abs(m.torque + rotor * m.per_inertia));
  take(peak / row.most_torque, row.keeps_current ? pulls_out : peak_torque);
  // derating for the surroundings only takes from the curve
  if (row.motor != nullptr)
    take(share(asked.train_.rms_torque(rotor), continuous_torque(row, asked.thermal_speed_)), rms_torque);
  return worst;
}

} // namespace fulmox
