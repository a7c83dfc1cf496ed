#include "core/mechanism/variable_ratio.hpp"

#include "core/rotation/rotation.hpp"

#include <cmath>

namespace fulmox {
namespace {

/// The force on the load does not follow the angle of the shaft.
Rest along_the_line(Rest rest) {
  rest.position = 0.0;
  return rest;
}

} // namespace

ShaftState VariableRatio::at(const LoadState& state, Recorder& recorder) const {
  const Term slope = this->slope(state.position, "slope", recorder);
  const Term bend = this->bend(state.position, recorder);
  LoadState moved;
  moved.payload = state.payload;
  moved.process = state.process;
  moved.speed = recorder.apply(parts_.arm->speed, "slider_speed", {slope, state.speed});
  moved.acceleration = recorder.apply(parts_.arm->acceleration, "slider_acceleration",
                                      {slope, state.acceleration, bend, state.speed});
  moved.direction = state.direction * (slope > 0.0 ? 1.0 : slope < 0.0 ? -1.0 : 0.0);
  const LoadForces f = parts_.load.forces(moved, parts_.load.masses(state.payload, recorder), recorder);

  ShaftState shaft;
  shaft.direction = state.direction;
  shaft.speed = state.speed;
  shaft.acceleration = state.acceleration;
  shaft.crossing_power = f.total * slope * state.direction;
  shaft.load_speed = slope * state.direction;
  const Term through = torque_through(*parts_.arm, f.total, slope, parts_.efficiency, parts_.back_efficiency,
                                      shaft.crossing_power, recorder);
  const Term own =
      recorder.apply(book::inertia_torque, {"own_inertia_torque", "Accelerates its own turning parts"},
                     {parts_.turning.at_input, state.acceleration});
  const Term drag = recorder.apply(book::opposing_torque, {"mechanism_drag", "Preload and bearing drag"},
                                   {{state.direction, ""}, parts_.drag});
  shaft.torque = recorder.apply(book::torque_sum, mechanism_torque, {through, own, drag});
  shaft.parts = parts_of(f, slope, through);
  shaft.parts[TorquePart::transmission] = own;
  shaft.parts[TorquePart::drag] = drag;
  return shaft;
}

std::vector<InertiaPiece> VariableRatio::inertia(const TravelExtremes& reach, Recorder& recorder) const {
  double worst = reach.lowest;
  for (const double place : places(reach, 0.0))
    if (std::abs(lever(place)) > std::abs(lever(worst))) worst = place;
  const Term steep = slope(worst, "worst_slope", recorder);
  const Term mass = with_added(parts_.load.masses(reach.payload, recorder).accelerated,
                               parts_.load.counterweight, "load.mass_total", recorder);
  const Term moved = recorder.apply(parts_.arm->load_inertia, "inertia.moved_mass", {mass, steep});
  return {{"moved_mass", parts_.load_label, moved, moved}, parts_.turning};
}

Term VariableRatio::holding_torque(const Rest& rest, Recorder& recorder) const {
  const Term force =
      parts_.load.static_force(parts_.load.masses(rest.payload, recorder), along_the_line(rest), recorder);
  return recorder.apply(parts_.arm->rest, mechanism_torque, {force, slope(rest.position, "slope", recorder)});
}

Term VariableRatio::breakaway_torque(const Rest& rest, Recorder& recorder) const {
  const Term here = slope(rest.position, "slope", recorder);
  const Term force =
      parts_.load.breakaway(parts_.load.masses(rest.payload, recorder), along_the_line(rest), recorder);
  const Term driving =
      recorder.apply(parts_.arm->driving, "load_torque_in", {force, here, parts_.efficiency});
  return recorder.apply(*parts_.breakaway, mechanism_torque, {driving, parts_.drag});
}

std::vector<double> VariableRatio::places(const TravelExtremes& reach, double) const {
  std::vector<double> all = steepest(reach);
  all.insert(all.begin(), {reach.lowest, reach.highest});
  return all;
}

double VariableRatio::lever(double position) const {
  Recorder silent(false);
  return slope(position, "slope", silent);
}

} // namespace fulmox
