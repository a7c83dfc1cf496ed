#include "core/motor/stepper.hpp"

#include <algorithm>
#include <cmath>

namespace fulmox {

double PullOutTable::operator()(double speed) const {
  if (speed <= points.front()[0]) return points.front()[1];
  if (speed > points.back()[0]) return 0.0;
  const auto right = std::lower_bound(points.begin(), points.end(), speed,
                                      [](const CurvePoint& q, double x) { return q[0] < x; });
  const auto left = right - 1;
  return straight_in_power((*left)[0], (*left)[1], (*right)[0], (*right)[1], speed);
}

double PullOutTable::least(double slowest, double fastest) const {
  double least = (*this)(fastest);
  if (slowest == fastest) return least;
  least = std::min(least, (*this)(slowest));
  for (const CurvePoint& point : points) // between two of them it runs one way
    if (point[0] > slowest && point[0] < fastest) least = std::min(least, point[1]);
  return least;
}

StepperMotor::AtVolts::Model StepperMotor::AtVolts::model_at(double volts) const {
  return model_of(motor_->machine_at(volts));
}

StepperMotor::AtVolts::Model StepperMotor::AtVolts::model_of(const ChoppedStepper& machine) const {
  return {machine, motor_->by_circles() ? nullptr : pull_out_curve(machine)};
}

double StepperMotor::AtVolts::torque(const Model& model, double speed) const {
  const ChoppedStepper& m = model.machine;
  const double air_gap =
      model.curve == nullptr
          ? motor_->k_torque * best_current(motor_->sine_machine(false), speed, m.volts, m.current, true).q
          : (*model.curve)(speed);
  return std::max(0.0, air_gap - motor_->drag(speed));
}

/// A measured curve at another voltage and current: the model there, corrected by what was measured over the
/// model at the speed that lies alike below the curve's own corner; never more than twice the model, which is
/// as far as such a scaling is to be trusted. Beyond the last point nothing is promised.
void StepperMotor::AtVolts::add(const PullOutTable& table, double volts, double stretched, double share) {
  Source source{&table, stretched, share, 1.0, 1.0, std::nullopt, std::nullopt};
  const double rated = motor_->rated_crest();
  if (motor_->has_model()) {
    ChoppedStepper tabled = motor_->machine_at(table.volts);
    tabled.current = rated;
    source.own = model_at(volts);
    if (source.own->machine == tabled) {
      sources_.push_back(std::move(source));
      return;
    }
    source.tabled = model_of(tabled);
    const double own = corner_speed(source.own->machine), theirs = corner_speed(tabled);
    source.alike = own > 0.0 && theirs > 0.0 ? theirs / own : 1.0;
  } else {
    // along equal speed over voltage, never more than a lower voltage or current gives
    source.alike = std::max(1.0, table.volts / volts);
    source.factor = std::isnan(rated) ? 1.0 : std::min(1.0, motor_->crest / rated);
  }
  sources_.push_back(std::move(source));
}

double StepperMotor::AtVolts::least(const Source& source, double slowest, double fastest) const {
  const double measured = source.table->least(slowest * source.alike, fastest * source.alike);
  if (!source.own) return source.factor * measured;
  constexpr double most = 2.0, nothing = 1e-12;
  if (!source.tabled) return std::min({measured, most * torque(*source.own, fastest), motor_->holding()});
  // falls with speed, as the model at these volts
  const double model = torque(*source.tabled, slowest * source.alike);
  const double correction = std::min(most, measured / std::max(model, nothing));
  return std::min(torque(*source.own, fastest) * correction, motor_->holding());
}

StepperMotor::AtVolts::AtVolts(const StepperMotor& motor, double volts) : motor_(&motor) {
  const auto& measured = motor.tables;
  if (!(volts > 0.0)) return;
  if (measured.empty()) {
    if (motor.has_model()) model_ = model_at(volts);
    return;
  }
  const auto above = std::find_if(measured.begin(), measured.end(),
                                  [&](const PullOutTable& t) { return t.volts >= volts * (1.0 - 1e-9); });
  if (above == measured.end() || above == measured.begin() || std::abs(above->volts / volts - 1.0) < 1e-9) {
    add(above == measured.end() ? measured.back() : *above, volts, 1.0, 1.0);
    return;
  }
  // between two voltages: along equal speed over voltage
  const PullOutTable &low = *(above - 1), &high = *above;
  const double w = (volts - low.volts) / (high.volts - low.volts);
  add(low, low.volts, low.volts / volts, 1.0 - w);
  add(high, high.volts, high.volts / volts, w);
}

double StepperMotor::AtVolts::least(double slowest, double fastest) const {
  if (model_) return torque(*model_, fastest);
  double sum = 0.0;
  for (const Source& source : sources_)
    sum += source.share * least(source, slowest * source.stretched, fastest * source.stretched);
  return sum;
}

double StepperMotor::pull_out_torque(double speed, double volts) const {
  return AtVolts(*this, volts).least(speed, speed);
}

StepperMotor::AtSupply::AtSupply(const StepperMotor& motor, const MotorSupply& supply)
    : holding_(motor.holding()) {
  const bool known = motor.has_model() || !motor.tables.empty();
  if (supply.voltage > 0.0 && known && motor.electric()) by_voltage_.emplace(motor, supply.voltage);
}

double StepperMotor::AtSupply::least_peak(double slowest, double fastest) const {
  return by_voltage_ ? std::min(holding_, by_voltage_->least(std::abs(slowest), std::abs(fastest)))
                     : holding_;
}

double StepperMotor::least_peak(double slowest, double fastest, const MotorSupply& supply, bool) const {
  return AtSupply(*this, supply).least_peak(slowest, fastest);
}

} // namespace fulmox
