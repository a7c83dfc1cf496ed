#include "core/demand/stops.hpp"

#include "core/demand/train.hpp"
#include "core/stops/formulas.hpp"

#include <cmath>

namespace fulmox {
namespace {

Stop stop_from(const AxisModel& model, const Stops& s, const Term& inertia, const Term& speed,
               const Term& lever, StepName travel, const char* prefix, Recorder& recorder) {
  const Term nothing{0.0, ""};
  Stop out;
  Term before;
  {
    const Recorder::Scope scope(recorder, prefix);
    out.speed =
        recorder.apply(book::speed_at_brake, "speed", {inertia, speed, s.pull, nothing, model.brake.delay});
    before =
        recorder.apply(book::angle_to_brake, "before", {inertia, speed, s.pull, nothing, model.brake.delay});
    out.angle =
        recorder.apply(book::angle_under_brake, "under", {inertia, out.speed, s.pull, nothing, s.brake});
  }
  const bool turning = model.load->mechanism->travel() == Kind::angle;
  out.travel =
      recorder.apply(turning ? book::load_turn : book::load_travel, travel, {before, out.angle, lever});
  return out;
}

} // namespace

double travel_per_radian(const AxisModel& model) { return model.load->peaks.lever / model.total_ratio(); }

std::optional<Stops> work_out_stops(const AxisModel& model, const Term& inertia, const Term& top_speed,
                                    const Holding& holding, Recorder& recorder) {
  if (!model.brake.fitted || std::isnan(model.brake.torque) || !(inertia > 0.0)) return std::nullopt;
  Stops out;
  out.pull = {std::abs(holding.torque), holding.torque < 0.0 ? "" : holding.torque.ref};
  out.brake =
      recorder.apply(book::brake_in_motion, "stop.brake", {model.brake.torque, model.brake.in_motion});
  const Term lever{travel_per_radian(model), ""};
  out.moving = stop_from(model, out, inertia, top_speed, lever, "stop.travel", "stop.moving.", recorder);
  out.rest = stop_from(model, out, inertia, {0.0, ""}, lever, "stop.drop", "stop.rest.", recorder);
  out.energy = recorder.apply(book::brake_energy, "stop.brake_energy", {out.brake, out.moving.angle});
  return out;
}

} // namespace fulmox
