#include "core/demand/holding.hpp"

#include "core/rotation/rotation.hpp"
#include "core/support/intern.hpp"

#include <algorithm>
#include <array>
#include <cmath>

namespace fulmox {
namespace {

/// The hold torque at the gearhead's output; rest takes no help from friction in any stage.
Term held_at_output(const LoadSide& side, const Rest& rest, Recorder& recorder) {
  Term torque = side.mechanism->holding_torque(rest, recorder);
  for (std::size_t k = side.stages.size(); k-- > 0;)
    torque = recorder.apply(book::stage_rest,
                            recorder.on() ? intern("stage" + std::to_string(k + 1)) : std::string_view(),
                            {torque, side.stages[k].ratio});
  return torque;
}

Term drive_from_rest(const Term& torque, const Stage& stage, StepName name, StepName sum,
                     Recorder& recorder) {
  const Term driving = recorder.apply(book::stage_driving, name, {torque, stage.ratio, stage.efficiency});
  return recorder.apply(book::torque_sum, sum, {driving, stage.no_load});
}

Term started_at_output(const LoadSide& side, const Rest& rest, Recorder& recorder) {
  Term torque = side.mechanism->breakaway_torque(rest, recorder);
  for (std::size_t k = side.stages.size(); k-- > 0;) {
    const std::string number = recorder.on() ? std::to_string(k + 1) : std::string();
    torque = drive_from_rest(torque, side.stages[k], recorder.on() ? intern("stage" + number) : "",
                             recorder.on() ? intern("stage_sum" + number) : "", recorder);
  }
  return torque;
}

/// The same seen by the motor.
Term held(const AxisModel& model, const Rest& rest, Recorder& recorder) {
  return recorder.apply(book::stage_rest, {"torque", "Holding torque"},
                        {held_at_output(*model.load, rest, recorder), model.gear.ratio});
}

Term started(const AxisModel& model, const Rest& rest, Recorder& recorder) {
  return drive_from_rest(started_at_output(*model.load, rest, recorder), model.gear, "gear_torque",
                         {"torque", "Breakaway torque"}, recorder);
}

/// The least and greatest process force of some segments; 0 counts as met. A force that runs along a line or
/// a curve has them where a piece ends or the curve has a corner.
class Efforts {
public:
  explicit Efforts(const Cycle& cycle) : cycle_(cycle) {}

  void meet(const MotionPiece& piece) {
    Recorder silent(false);
    std::vector<double> moments = piece.cuts;
    moments.insert(moments.end(), {0.0, piece.duration});
    const SegmentFacts& facts = cycle_.facts[piece.segment];
    for (const double tau : moments) {
      Term effort = cycle_.effort(piece, tau, silent);
      // name the input where it is one
      effort.ref = effort == facts.effort_last    ? facts.effort_last.ref
                   : effort == facts.effort_first ? facts.effort_first.ref
                                                  : facts.effort_ref;
      if (effort < least) least = effort;
      if (effort > most) most = effort;
    }
  }

  Term least{0.0, ""}, most{0.0, ""};

private:
  const Cycle& cycle_;
};

/// Every combination that can be the worst: torque runs straight in payload and process force, so only their
/// ends count.
template <class Use>
void each_rest(const LoadSide& side, const TravelExtremes& reach, const Efforts& efforts, const Use& use) {
  for (const Term& payload : {Term{0.0, ""}, reach.payload}) {
    for (const double place : side.mechanism->places(reach, payload)) {
      use(Rest{place, payload, {0.0, ""}, false});
      use(Rest{place, payload, {0.0, ""}, true});
      if (efforts.least < 0.0) use(Rest{place, payload, efforts.least, true});
      if (efforts.most > 0.0) use(Rest{place, payload, efforts.most, true});
    }
    if (reach.payload == 0.0) break;
  }
}

/// The rest with the greatest magnitude of a torque; with the load's own process force only where it is
/// pushed.
template <class TorqueOf>
Rest hardest(const LoadSide& side, const TravelExtremes& reach, const Efforts& efforts, bool pushed,
             const TorqueOf& torque_of) {
  Rest found;
  double most = -1.0;
  each_rest(side, reach, efforts, [&](const Rest& rest) {
    if (!pushed && rest.pushed) return;
    // the first of several that tie up to rounding
    const double torque = std::abs(torque_of(rest));
    if (torque > most * (1.0 + 1e-12)) {
      most = torque;
      found = rest;
    }
  });
  return found;
}

using AtRest = Term (*)(const AxisModel&, const Rest&, Recorder&);

/// The worst of all rests, recorded under the prefix.
Term worst(const AxisModel& model, const TravelExtremes& reach, const Efforts& efforts, AtRest torque_of,
           const std::string& prefix, bool pushed, Recorder& recorder) {
  Recorder silent(false);
  const Rest rest = hardest(*model.load, reach, efforts, pushed,
                            [&](const Rest& at) { return torque_of(model, at, silent).value; });
  const Recorder::Scope scope(recorder, prefix);
  return torque_of(model, rest, recorder);
}

/// Where the axis stands in one dwell, with what it carries there.
TravelExtremes reach_of_dwell(const AxisModel& model, std::size_t segment) {
  TravelExtremes reach;
  bool first = true;
  for (const MotionPiece& piece : model.load->cycle.pieces) {
    if (piece.segment != segment) continue;
    const double place = piece.position(0.0);
    reach.lowest = first ? place : std::min(reach.lowest, place);
    reach.highest = first ? place : std::max(reach.highest, place);
    first = false;
  }
  reach.payload = model.load->cycle.facts[segment].payload;
  return reach;
}

} // namespace

RestTorques rest_torques(const LoadSide& side) {
  Efforts all(side.cycle);
  for (const MotionPiece& piece : side.cycle.pieces) all.meet(piece);
  Recorder silent(false);
  const auto worst_of = [&](auto torque_of) {
    const auto at = [&](const Rest& rest) { return torque_of(side, rest, silent).value; };
    return at(hardest(side, side.reach, all, true, at));
  };
  return {worst_of(&held_at_output), worst_of(&started_at_output)};
}

Holding holding_numbers(const AxisModel& model) {
  Recorder silent(false);
  Holding out;
  out.torque = {model.load->at_rest.held / model.gear.ratio, ""};
  out.breakaway = drive_from_rest({model.load->at_rest.started, ""}, model.gear, "", "", silent);
  return out;
}

Holding work_out_holding(const AxisModel& model, Recorder& recorder) {
  Efforts all(model.load->cycle);
  for (const MotionPiece& piece : model.load->cycle.pieces) all.meet(piece);
  Holding out;
  out.torque = worst(model, model.load->reach, all, &held, "hold.", true, recorder);
  out.free = worst(model, model.load->reach, Efforts(model.load->cycle), &held, "free.", false, recorder);
  out.breakaway = worst(model, model.load->reach, all, &started, "breakaway.", true, recorder);
  if (!model.brake.fitted) return out;
  std::vector<std::size_t> segments;
  for (const MotionPiece& piece : model.load->cycle.pieces)
    if (piece.braked && std::find(segments.begin(), segments.end(), piece.segment) == segments.end())
      segments.push_back(piece.segment);
  for (const std::size_t segment : segments) {
    Efforts here(model.load->cycle);
    for (const MotionPiece& piece : model.load->cycle.pieces)
      if (piece.segment == segment) here.meet(piece);
    out.dwells.push_back({segment, worst(model, reach_of_dwell(model, segment), here, &held,
                                         "braked." + std::to_string(segment + 1) + ".", true, recorder)});
  }
  return out;
}

} // namespace fulmox
