#include "core/demand/axis_model.hpp"

#include "core/drive/formulas.hpp"
#include "core/rotation/rotation.hpp"

#include <algorithm>
#include <array>
#include <cmath>
#include <numbers>

namespace fulmox {

Expected<AxisModel> AxisModel::build(const Axis& axis, Recorder& recorder) {
  auto load = LoadSide::build(axis, recorder);
  if (!load) return load.problem();
  return on(*load, axis, recorder);
}

AxisModel AxisModel::on(std::shared_ptr<const LoadSide> load, const Axis& axis, Recorder& recorder) {
  AxisModel model;
  model.load = std::move(load);
  model.gear = Gearhead::from(axis["gearhead"]);
  model.brake = Brake::from(axis["brake"], axis["motor"]);
  model.drive = build_drive(axis["drive"]);
  model.motor = build_motor(axis["motor"], *model.drive, recorder);
  model.surroundings = Surroundings::from(axis["surroundings"]);
  model.settle(recorder);
  return model;
}

void AxisModel::settle(Recorder& recorder) {
  const Surroundings& s = surroundings;
  least_volts = supply_at(std::isnan(s.bus_low) ? s.bus : s.bus_low).voltage;
  rotor = recorder.apply(book::inertia_sum, {"inertia.rotor", "Rotor with brake"},
                         {motor->inertia, brake.inertia});
}

double AxisModel::total_ratio() const {
  double ratio = gear.ratio;
  for (const Stage& stage : load->stages) ratio *= stage.ratio;
  return ratio;
}

Instant AxisModel::at(std::size_t index, double tau, Recorder& recorder) const {
  Instant now = mechanics_at(index, tau, recorder);
  now.jerk = load->cycle.pieces[index].path.jerk(tau);
  const Electrical taken = electrical(now.torque, now.speed, now.input.direction);
  now.current = taken.current;
  now.voltage = taken.voltage;
  now.bus_power = taken.bus_power;
  return now;
}

Instant AxisModel::mechanics_at(std::size_t index, double tau, Recorder& recorder) const {
  const MotionPiece& piece = load->cycle.pieces[index];
  Instant now = driving(load->at(index, tau, recorder), recorder);
  now.time = piece.start + tau;
  now.piece = index;
  if (piece.braked) {
    now.torque.value = 0.0;
    now.parts = {};
    now.shaft_power = 0.0;
  }
  return now;
}

Instant AxisModel::driving(const LoadInstant& driven, Recorder& recorder) const {
  Instant now;
  static_cast<LoadInstant&>(now) = driven;
  now.input = gear.input(now.output, recorder);
  const Term own = recorder.apply<&fulmox::inertia_torque>(
      book::inertia_torque, {"rotor_torque", "Accelerates rotor and brake"}, rotor, now.input.acceleration);
  now.torque = recorder.apply(book::torque_sum, {"motor_torque", "Torque at the motor shaft"},
                              {now.input.torque, own});
  now.parts = now.input.parts;
  now.parts[TorquePart::rotor] = own;
  now.speed = now.input.speed;
  now.acceleration = now.input.acceleration;
  now.shaft_power = now.torque * now.speed;
  return now;
}

Electrical AxisModel::electrical(double torque, double speed, double direction) const {
  Electrical out;
  if (!motor->electric()) {
    out.bus_power = torque * speed;
    return out;
  }
  const double air_gap = motor->air_gap(torque, speed, direction);
  out.current = current(air_gap, speed, direction);
  if (motor->has_circuit()) out.voltage = motor->voltage(air_gap, speed, direction);
  out.bus_power = bus_power(torque, speed, out.current);
  return out;
}

double AxisModel::bus_power(double torque, double speed, double current) const {
  return motor->electric() ? bus_power(torque, speed, current, motor->copper(current)) : torque * speed;
}

double AxisModel::bus_power(double torque, double speed, double current, double copper) const {
  const double iron = motor->drag(speed) * std::abs(speed);
  return terminal_power(torque * speed, copper, iron) + drive->loss(current);
}

MotorSupply AxisModel::supply_at(double bus) const {
  MotorSupply supply;
  supply.voltage = std::isnan(bus) ? 0.0 : drive->motor_volts(bus);
  supply.drive_current =
      std::isnan(drive->peak_current) ? std::numeric_limits<double>::infinity() : drive->peak_current.value;
  supply.weakening = drive->weakening;
  return supply;
}

std::array<Term, 4> ambient_terms(const AxisModel& model, double speed) {
  const Motor& motor = *model.motor;
  const double iron = motor.drag(speed) * std::abs(speed);
  const Term rise = std::isnan(motor.case_to_ambient)
                        ? Term{0.0, ""}
                        : Term{iron * motor.case_to_ambient, motor.case_to_ambient.ref};
  return {motor.winding_limit, model.surroundings.ambient, motor.catalogue_ambient, rise};
}

} // namespace fulmox
