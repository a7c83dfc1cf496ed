#include "core/demand/load_side.hpp"

#include "core/demand/gear_weighted.hpp"
#include "core/motion/formulas.hpp"
#include "core/rotation/rotation.hpp"

namespace fulmox {
namespace {

TravelExtremes reach_of(const Cycle& cycle) {
  TravelExtremes reach{cycle.lowest, cycle.highest, {cycle.greatest_payload(), ""}, 0.0, 0.0};
  for (const MotionPiece& piece : cycle.pieces) {
    reach.greatest_acceleration =
        piece.path.greatest(2, 1.0, 0.0, piece.duration, reach.greatest_acceleration).value;
    reach.least_acceleration =
        -piece.path.greatest(2, -1.0, 0.0, piece.duration, -reach.least_acceleration).value;
  }
  for (const SegmentFacts& fact : cycle.facts)
    if (fact.payload == reach.payload) reach.payload = fact.payload;
  return reach;
}

double inertia_at_output(const LoadSide& side) {
  Recorder silent(false);
  double ratio = 1.0; // from the output to each stage
  double sum = side.coupling.inertia;
  for (const Stage& stage : side.stages) {
    sum += stage.input_inertia / (ratio * ratio);
    ratio *= stage.ratio;
    sum += stage.output_inertia / (ratio * ratio);
  }
  for (const InertiaPiece& piece : side.mechanism->inertia(side.reach, silent))
    sum += piece.at_input / (ratio * ratio);
  return sum;
}

} // namespace

Expected<std::shared_ptr<const LoadSide>> LoadSide::build(const Axis& axis, Recorder& recorder) {
  const auto problems = faults(axis);
  if (!problems.empty()) return problems.front();
  if (const auto problem = misfit(axis.pieces)) return *problem;
  auto cycle = build_cycle(axis.cycle, motion_of(axis), recorder);
  if (!cycle) return cycle.problem();

  auto side = std::make_shared<LoadSide>();
  side->cycle = std::move(*cycle);
  side->reach = reach_of(side->cycle);
  auto mechanism = mechanism_of(axis).build({axis["load"], axis["mechanism"], axis.pieces}, recorder);
  if (!mechanism) return mechanism.problem();
  side->mechanism = std::move(*mechanism);
  if (const auto refused = side->mechanism->refuses(side->reach)) return *refused;
  auto stages = build_stages(axis.stages, recorder);
  if (!stages) return stages.problem();
  side->stages = std::move(*stages);
  side->coupling = Coupling::from(axis["coupling"]);
  side->journal = axis["mechanism"].term_if("journal");
  side->inertia = inertia_at_output(*side);
  side->at_rest = rest_torques(*side);
  side->stretches = follow_load(*side);
  side->peaks = peaks_of(*side);
  side->asked = Requirements::from(axis["requirements"], side->mechanism->travel() == Kind::angle);
  side->gear_cubed = weigh_gear(*side, usual_gear_exponent);
  return std::shared_ptr<const LoadSide>(std::move(side));
}

LoadState LoadSide::motion_at(const MotionPiece& piece, double tau, Recorder& recorder) const {
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

LoadInstant LoadSide::at(std::size_t index, double tau, Recorder& recorder) const {
  const MotionPiece& piece = cycle.pieces[index];
  LoadState load = motion_at(piece, tau, recorder);
  // the last instant of a ramp down is rest up to rounding; its side of zero belongs to the move
  if (load.speed * piece.direction < 0.0) load.speed = {0.0, ""};
  return moved(load, recorder);
}

LoadInstant LoadSide::moved(const LoadState& load, Recorder& recorder) const {
  LoadInstant now;
  now.load = load;
  now.output = mechanism->at(now.load, recorder);
  now.at_mechanism = now.output.torque;
  now.crossings[0] = now.output.crossing_power;
  for (std::size_t k = stages.size(); k-- > 0;) {
    const Recorder::Scope scope(recorder, recorder.on() ? "stage" + std::to_string(k + 1) + "." : "");
    now.output = stages[k].input(now.output, TorquePart::transmission, recorder);
    now.crossings[k + 1] = now.output.crossing_power;
  }
  const Term own = recorder.apply<&fulmox::inertia_torque>(book::inertia_torque,
                                                           {"coupling_torque", "Accelerates the coupling"},
                                                           coupling.inertia, now.output.acceleration);
  now.output.torque =
      recorder.apply(book::torque_sum, {"output_torque", "Torque at the coupling"}, {now.output.torque, own});
  now.output.parts[TorquePart::transmission] += own;
  return now;
}

} // namespace fulmox
