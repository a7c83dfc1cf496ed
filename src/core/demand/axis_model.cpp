#include "core/demand/axis_model.hpp"

#include "core/drive/formulas.hpp"
#include "core/motion/formulas.hpp"
#include "core/rotation/rotation.hpp"

#include <algorithm>
#include <array>
#include <cmath>
#include <numbers>

namespace fulmox {
namespace {

Reach reach_of(const Cycle& cycle) {
  Reach reach{cycle.lowest, cycle.highest, {cycle.greatest_payload(), ""}, 0.0, 0.0};
  for (const Piece& piece : cycle.pieces) {
    reach.greatest_acceleration =
        piece.path.greatest(2, 1.0, 0.0, piece.duration, reach.greatest_acceleration).value;
    reach.least_acceleration =
        -piece.path.greatest(2, -1.0, 0.0, piece.duration, -reach.least_acceleration).value;
  }
  for (const SegmentFacts& fact : cycle.facts)
    if (fact.payload == reach.payload) reach.payload = fact.payload;
  return reach;
}

} // namespace

Expected<AxisModel> AxisModel::build(const Axis& axis, Recorder& recorder) {
  const auto problems = faults(axis);
  if (!problems.empty()) return problems.front();
  if (const auto problem = misfit(axis.pieces)) return *problem;
  auto cycle = build_cycle(axis.cycle, motion_of(axis), recorder);
  if (!cycle) return cycle.problem();

  AxisModel model;
  model.cycle = std::move(*cycle);
  model.reach = reach_of(model.cycle);
  auto mechanism = mechanism_of(axis).build({axis["load"], axis["mechanism"], axis.pieces}, recorder);
  if (!mechanism) return mechanism.problem();
  model.mechanism = std::move(*mechanism);
  if (const auto refused = model.mechanism->refuses(model.reach)) return *refused;
  auto stages = build_stages(axis.stages, recorder);
  if (!stages) return stages.problem();
  model.stages = std::move(*stages);

  model.gear = Gearhead::from(axis["gearhead"]);
  model.motor = build_motor(axis["motor"], recorder);
  model.brake = Brake::from(axis["brake"], axis["motor"]);
  model.drive = build_drive(axis["drive"]);
  model.surroundings = Surroundings::from(axis["surroundings"]);
  model.coupling_inertia = axis["coupling"].term_or("inertia", 0.0);
  model.rotor = recorder.apply(book::inertia_sum, {"inertia.rotor", "Rotor with brake"},
                               {model.motor->inertia, model.brake.inertia});
  return model;
}

LoadState AxisModel::motion_at(const Piece& piece, double tau, Recorder& recorder) const {
  const MotionKinds& kinds = cycle.kinds;
  const SegmentFacts& facts = cycle.facts[piece.segment];
  LoadState load;
  load.position = piece.position(tau);
  load.direction = piece.direction;
  load.payload = facts.payload;
  load.process = cycle.effort(piece, tau, recorder);
  if (piece.rest()) return load;
  if (piece.ramp) {
    load.speed = recorder.apply(book::speed_at.in(kinds), "speed", {piece.v0, piece.a, {tau, ""}});
    load.acceleration = piece.a;
    return load;
  }
  if (!recorder.on() || facts.distance == 0.0) {
    load.speed = {piece.speed(tau), ""};
    load.acceleration = {piece.path.acceleration(tau), ""};
    return load;
  }
  const double scale = facts.time / facts.distance;
  load.speed = recorder.apply(book::law_speed.in(kinds), "speed",
                              {facts.distance, facts.time, {piece.speed(tau) * scale, ""}});
  load.acceleration =
      recorder.apply(book::law_acceleration.in(kinds), "acceleration",
                     {facts.distance, facts.time, {piece.path.acceleration(tau) * scale * facts.time, ""}});
  return load;
}

double AxisModel::total_ratio() const {
  double ratio = gear.ratio;
  for (const Stage& stage : stages) ratio *= stage.ratio;
  return ratio;
}

Instant AxisModel::at(std::size_t index, double tau, Recorder& recorder) const {
  Instant now = mechanics_at(index, tau, recorder);
  now.jerk = cycle.pieces[index].path.jerk(tau);
  const Electrical taken = electrical(now.torque, now.speed, now.input.direction);
  now.current = taken.current;
  now.voltage = taken.voltage;
  now.bus_power = taken.bus_power;
  return now;
}

Instant AxisModel::mechanics_at(std::size_t index, double tau, Recorder& recorder) const {
  const Piece& piece = cycle.pieces[index];
  Instant now;
  now.time = piece.start + tau;
  now.piece = index;
  now.load = motion_at(piece, tau, recorder);
  // the last instant of a ramp down is rest up to rounding; its side of zero belongs to the move
  if (now.load.speed * piece.direction < 0.0) now.load.speed.value = 0.0;

  now.output = mechanism->at(now.load, recorder);
  now.at_mechanism = now.output.torque;
  now.crossings[0] = now.output.crossing_power;
  for (std::size_t k = stages.size(); k-- > 0;) {
    const Recorder::Scope scope(recorder, recorder.on() ? "stage" + std::to_string(k + 1) + "." : "");
    now.output = stages[k].input(now.output, TorquePart::transmission, recorder);
    now.crossings[k + 1] = now.output.crossing_power;
  }
  const Term coupling = recorder.apply<&fulmox::inertia_torque>(
      book::inertia_torque, {"coupling_torque", "Accelerates the coupling"}, coupling_inertia,
      now.output.acceleration);
  now.output.torque = recorder.apply(book::torque_sum, {"output_torque", "Torque at the coupling"},
                                     {now.output.torque, coupling});
  now.output.parts[TorquePart::transmission] += coupling;

  now.input = gear.input(now.output, recorder);
  now.crossings.back() = now.input.crossing_power;
  const Term own = recorder.apply<&fulmox::inertia_torque>(
      book::inertia_torque, {"rotor_torque", "Accelerates rotor and brake"}, rotor, now.input.acceleration);
  now.torque = recorder.apply(book::torque_sum, {"motor_torque", "Torque at the motor shaft"},
                              {now.input.torque, own});
  now.parts = now.input.parts;
  now.parts[TorquePart::rotor] = own;
  now.speed = now.input.speed;
  now.acceleration = now.input.acceleration;
  if (piece.braked) {
    now.torque.value = 0.0;
    now.parts = {};
  }
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
  out.current = motor->current(air_gap);
  if (motor->has_circuit()) out.voltage = motor->voltage(air_gap, speed, direction);
  out.bus_power = bus_power(torque, speed, out.current);
  return out;
}

double AxisModel::bus_power(double torque, double speed, double current) const {
  if (!motor->electric()) return torque * speed;
  const double iron = motor->drag(speed) * std::abs(speed);
  return terminal_power(torque * speed, motor->copper(current), iron) + drive->loss(current);
}

MotorSupply AxisModel::supply_at(double bus) const {
  MotorSupply supply;
  supply.voltage = std::isnan(bus) ? 0.0 : drive->phase_volts(bus);
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
