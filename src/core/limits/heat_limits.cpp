#include "core/heat/formulas.hpp"
#include "core/limits/limit.hpp"
#include "core/limits/standing.hpp"

#include <array>
#include <cmath>

namespace fulmox {
namespace {

constexpr std::string_view from_data =
    "Hottest moment of the steady cycle by the thermal network; resistance rising with heat.";
constexpr std::string_view from_estimate = "Hottest moment of the steady cycle. Thermal data are missing: "
                                           "estimated from the continuous torque and the mass, "
                                           "on the safe side (from memory).";
constexpr std::string_view no_steady_state =
    "The winding runs away: its rising resistance makes more heat than the case can shed, cycle after cycle.";

std::optional<Limit> winding(const LimitContext& c) {
  const MotorHeat& heat = c.demand.heat;
  if (heat.gap) return missing(heat.gap->reason, heat.gap->input);
  const Term& ambient = c.model.surroundings.ambient;
  const Term room =
      c.recorder.apply(book::rise_above, "motor.winding_room", {c.model.motor->winding_limit, ambient});
  if (heat.steady.runs_away)
    return compare(c, "motor.winding", heat.hottest, room, Kind::temperature_rise, no_steady_state);
  const Term rise = c.recorder.apply(book::rise_above, "motor.winding_rise", {heat.hottest, ambient});
  Limit limit = compare(c, "motor.winding", rise, room, Kind::temperature_rise,
                        heat.estimated ? from_estimate : from_data);
  limit.moment = c.moment_at(heat.hottest_time);
  return limit;
}

/// What the motor may hold for ever, standing where one of its phases takes the most.
std::optional<Limit> hold(const LimitContext& c) {
  const Motor& motor = *c.model.motor;
  if (motor.keeps_current() || c.model.brake.fitted || !motor.has_continuous()) return std::nullopt;
  if (c.demand.holding.torque == 0.0) return std::nullopt;
  const Term continuous = continuous_at(c, {0.0, ""}, "at_limit.motor.hold.").torque;
  const Term crest{motor.phases().at_crest, ""};
  const MotorHeat& heat = c.demand.heat;
  // without data all resistance lies between winding and case: the least that is left
  const Term factor = heat.gap ? Term{1.0 / std::sqrt(crest.value), ""}
                               : c.recorder.apply(book::hold_factor, "motor.hold_factor",
                                                  {heat.winding_to_case, heat.case_to_ambient, crest});
  const Term capacity = c.recorder.apply(book::held_for_ever, "motor.hold_torque", {continuous, factor});
  return compare(
      c, "motor.hold", c.demand.holding.torque, capacity, Kind::torque,
      "Held for ever without a brake: one phase may stand at its crest and take more than its share.");
}

double rise_above(double temperature, double ambient) { return temperature - ambient; }
double held_for_ever(double torque, double factor) { return torque * factor; }

} // namespace

namespace book {
const Formula rise_above{"heat.rise_above",
                         "Rise above the ambient",
                         "ΔT",
                         "{T} − {T_a}",
                         Kind::temperature_rise,
                         {{"T", "T", Kind::temperature, "of the winding, or its limit"},
                          {"T_a", "T_a", Kind::temperature, "of the air around the motor"}},
                         "definition",
                         calling<&fulmox::rise_above>};
const Formula held_for_ever{
    "heat.held",
    "Torque that may be held for ever",
    "T_s",
    "{T_c}·{k_s}",
    Kind::torque,
    {{"T_c", "T_c", Kind::torque, "continuous torque at standstill", range::not_negative},
     {"k_s", "k_s", Kind::share, "for the hottest phase", range::share}},
    "each phase sits on its own path to the case",
    calling<&fulmox::held_for_ever>};
} // namespace book

std::span<const LimitSpec> heat_limits() {
  static constexpr std::array list{
      LimitSpec{"motor.winding", "Winding temperature",
                "Hottest rise of the winding in the steady cycle against what its insulation class leaves "
                "above the "
                "ambient.",
                &winding, LooksAt::motor},
      LimitSpec{"motor.hold", "Torque held at rest",
                "What pulls at rest against what the motor may hold for as long as one likes.", &hold,
                LooksAt::motor, Follows::figures}};
  return list;
}

} // namespace fulmox
