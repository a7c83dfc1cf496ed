#include "core/limits/limit.hpp"

#include <array>
#include <cmath>

namespace fulmox {
namespace {

std::optional<Limit> hold(const LimitContext& c) {
  if (!c.model.brake.fitted) return std::nullopt;
  if (std::isnan(c.model.brake.torque))
    return missing("The brake's holding torque is missing.", "brake.torque");
  const Term capacity =
      c.recorder.apply(book::divided, "brake.capacity", {c.model.brake.torque, c.rules.term("brake_factor")});
  return compare(c, "brake.hold", c.demand.holding.torque, capacity, Kind::torque,
                 "Power may go at any moment: worst place, payload (empty too) and process force, no help "
                 "from friction. "
                 "A holding brake is not personnel protection.");
}

/// A brake that in motion gives less than the load pulls lets it go on falling.
std::optional<Limit> stop(const LimitContext& c) {
  if (!c.demand.stops || c.demand.stops->pull == 0.0) return std::nullopt;
  return compare(
      c, "brake.stop", c.demand.stops->pull, c.demand.stops->brake, Kind::torque,
      "In motion a brake gives less than at rest: what it gives there must stop what pulls, else the load "
      "goes on falling.");
}

std::optional<Limit> energy(const LimitContext& c) {
  if (!c.demand.stops || std::isnan(c.model.brake.stop_energy)) return std::nullopt;
  return compare(
      c, "brake.energy", c.demand.stops->energy, c.model.brake.stop_energy, Kind::energy,
      "One stop from top speed after a loss of power, friction no help. Each wears the brake: makers allow "
      "few.");
}

std::optional<Limit> speed(const LimitContext& c) {
  if (!c.demand.stops || std::isnan(c.model.brake.max_speed)) return std::nullopt;
  return compare(c, "brake.speed", c.demand.stops->moving.speed, c.model.brake.max_speed, Kind::angular_speed,
                 "Speed of the motor when the brake bites, after its delay.");
}

std::optional<Limit> number(const LimitContext& c) {
  const Term& expected = c.model.load->asked.stops;
  if (!c.model.brake.fitted || std::isnan(expected) || std::isnan(c.model.brake.stops)) return std::nullopt;
  return compare(c, "brake.stops", expected, c.model.brake.stops, Kind::number,
                 "Emergency stops in the life of the machine against those its maker allows.");
}

/// What is left to stop in, where it is told.
std::optional<Limit> room(const LimitContext& c) {
  const Term& room = c.model.load->asked.room;
  if (std::isnan(room)) return std::nullopt;
  if (!c.model.brake.fitted)
    return missing("Without a brake nothing tells where the axis stops when power goes.", "brake.fitted");
  if (!c.demand.stops) return missing("The brake's holding torque is missing.", "brake.torque");
  const Stops& s = *c.demand.stops;
  const Term& most = s.moving.travel >= s.rest.travel ? s.moving.travel : s.rest.travel;
  return compare(c, "stop.room", most, room, c.model.load->mechanism->travel(),
                 "Power lost at top speed at the end of the travel: delay and brake, friction no help.");
}

} // namespace

std::span<const LimitSpec> brake_limits() {
  static constexpr std::array list{
      LimitSpec{"brake.hold", "Brake holding torque",
                "What pulls at rest against the brake's torque over its factor.", &hold, LooksAt::motor,
                Follows::sums},
      LimitSpec{"brake.stop", "Brake against the load", "What pulls against what the brake gives in motion.",
                &stop, LooksAt::motor, Follows::figures},
      LimitSpec{"brake.energy", "Brake energy of a stop",
                "What the brake takes in a stop from top speed against its rating.", &energy, LooksAt::motor,
                Follows::figures},
      LimitSpec{"brake.stops", "Brake, number of stops", "Emergency stops expected against those it bears.",
                &number, LooksAt::motor, Follows::sums},
      LimitSpec{"brake.speed", "Brake speed", "Speed at which the brake bites against what it may.", &speed,
                LooksAt::motor, Follows::figures},
      LimitSpec{"stop.room", "Room to stop", "Travel after a loss of power against the room left.", &room,
                LooksAt::motor, Follows::figures}};
  return list;
}

} // namespace fulmox
