#include "core/limits/limit.hpp"
#include "core/limits/standing.hpp"

#include "core/demand/stops.hpp"
#include "core/demand/train.hpp"
#include "core/rotation/rotation.hpp"
#include "core/stops/formulas.hpp"

#include <array>
#include <cmath>

namespace fulmox {
namespace {

double turn_of_travel(double speed, double per_radian) { return speed / per_radian; }

/// The spring between motor and end stop, at the motor shaft; NaN where no figure is known.
Term spring_to_end(const LimitContext& c) {
  Recorder silent(false);
  const double ratio = c.model.total_ratio();
  double give = 0.0;
  for (const TrainPlace& place : train_places(c.model, c.axis, silent))
    if (!std::isnan(place.stiffness)) give += 1.0 / (place.stiffness * place.ratio * place.ratio);
  const Term& stop = c.model.load->asked.stop_stiffness;
  if (!std::isnan(stop) && c.model.load->mechanism->travel() != Kind::angle) {
    const double lever = c.model.load->peaks.lever;
    give += 1.0 / (stop * lever * lever);
  }
  return give > 0.0 ? Term{1.0 / (give * ratio * ratio), ""} : unknown_term;
}

/// Torque behind the head when the axis meets its end while motor and drive go on; nothing where it is not
/// asked.
struct Jam {
  std::optional<Limit> gap;
  Term torque;
};
std::optional<Jam> jam(const LimitContext& c, std::string_view prefix) {
  const bool turning = c.model.load->mechanism->travel() == Kind::angle;
  const Term& speed = c.model.load->asked.end_speed;
  if (std::isnan(speed)) return std::nullopt;
  if (!turning && c.model.load->mechanism->position_matters())
    return Jam{
        missing("The travel per turn changes with the place: no one speed of the motor belongs to this one.",
                "requirements.end_speed"),
        unknown_term};
  const Term spring = spring_to_end(c);
  if (std::isnan(spring))
    return Jam{missing("No stiffness between motor and end stop is known: rigid, nothing would bear it.",
                       "coupling.stiffness"),
               unknown_term};
  if (!c.model.motor->chosen)
    return Jam{missing("The motor's rotor inertia is missing.", "motor.inertia"), unknown_term};
  const Recorder::Scope scope(c.recorder, prefix);
  const Term motor =
      turning
          ? c.recorder.apply(book::stage_speed, "jam.speed", {speed, {c.model.total_ratio(), ""}})
          : c.recorder.apply(book::turn_of_travel, "jam.speed", {speed, {travel_per_radian(c.model), ""}});
  const Term turning_on =
      c.recorder.apply(book::inertia_sum, "jam.inertia",
                       {c.model.rotor, c.model.gear.fitted ? c.model.gear.input_inertia : Term{0.0, ""}});
  const Term at_motor = c.recorder.apply(book::jam_torque, "jam.motor",
                                         {most_motor_torque(c.model), spring, turning_on, motor});
  return Jam{std::nullopt,
             c.recorder.apply(book::driven_torque, "jam.output", {at_motor, c.model.gear.ratio})};
}

constexpr std::string_view rule =
    "Rotor energy through the springs of the train, the motor's greatest torque going on, no losses counted.";

std::optional<Limit> gear(const LimitContext& c) {
  const Term rated = c.model.gear.emergency_torque;
  if (!c.model.gear.fitted || std::isnan(rated)) return std::nullopt;
  const auto found = jam(c, "at_gear.");
  if (!found) return std::nullopt;
  if (found->gap) return found->gap;
  return compare(c, "gear.jam", found->torque, rated, Kind::torque, rule);
}

std::optional<Limit> coupling(const LimitContext& c) {
  const Coupling& fitted = c.model.load->coupling;
  if (!fitted.fitted || std::isnan(fitted.rated_torque)) return std::nullopt;
  const auto found = jam(c, "at_coupling.");
  if (!found) return std::nullopt;
  if (found->gap) return found->gap;
  return compare(c, "coupling.jam", found->torque, fitted.rated_torque, Kind::torque, rule);
}

} // namespace

namespace book {
const Formula turn_of_travel{
    "stop.end_speed",
    "Speed of the motor at the end stop",
    "ω",
    "{v}/{r}",
    Kind::angular_speed,
    {{"v", "v_e", Kind::speed, "of the load", range::positive},
     {"r", "r", Kind::length, "travel of the load per radian of the motor", range::positive}},
    "kinematics",
    calling<&fulmox::turn_of_travel>};
} // namespace book

std::span<const LimitSpec> jam_limits() {
  static constexpr std::array list{
      LimitSpec{"gear.jam", "Gearhead at the end stop",
                "Torque when the axis meets its end, against the emergency "
                "torque.",
                &gear, LooksAt::drive, Follows::torque},
      LimitSpec{"coupling.jam", "Coupling at the end stop",
                "Torque when the axis meets its end, against the coupling's rated torque.", &coupling,
                LooksAt::drive, Follows::torque}};
  return list;
}

} // namespace fulmox
