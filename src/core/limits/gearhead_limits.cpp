#include "core/gearhead/gearhead.hpp"
#include "core/limits/limit.hpp"

#include <array>
#include <cmath>

namespace fulmox {
namespace {

Moment worst_output(const LimitContext& c) {
  return worst(c.model, c.trace, [](const Instant& i) { return std::abs(i.output.torque); });
}

std::optional<Limit> equivalent(const LimitContext& c) {
  if (!c.model.gear.fitted) return std::nullopt;
  const Term rated = c.axis[Given::gearhead].term("nominal_torque");
  if (std::isnan(rated))
    return missing("The gearhead's nominal torque is missing.", "gearhead.nominal_torque");
  const Term demand = c.recorder.apply(book::equivalent_torque, "gear.equivalent",
                                       {{c.demand.integrals.gear_weighted, ""},
                                        {c.demand.integrals.turns, ""},
                                        {c.rules.gear_exponent, "house_rules.gear_exponent"}});
  return compare(c, "gear.equivalent", demand, rated, Kind::torque,
                 "Fatigue: turns weighted by a power of the torque, at the output.");
}

std::optional<Limit> peak(const LimitContext& c) {
  if (!c.model.gear.fitted) return std::nullopt;
  const Term rated = c.axis[Given::gearhead].term("peak_torque");
  if (std::isnan(rated))
    return missing("The gearhead's acceleration torque is missing.", "gearhead.peak_torque");
  const Moment moment = worst_output(c);
  const Term factor =
      c.recorder.apply(book::shock_factor, "gear.shock_factor", {{3600.0 / c.model.cycle.duration, ""}});
  const Term demand = c.recorder.apply(book::shocked_torque, "gear.peak", {{moment.value, ""}, factor});
  return compare_at(c, "gear.peak", moment, demand, rated, Kind::torque,
                    "Greatest torque at the output, with the factor for starts per hour.");
}

std::optional<Limit> mean_speed(const LimitContext& c) {
  const Term rated = c.axis[Given::gearhead].term("mean_speed");
  if (!c.model.gear.fitted || std::isnan(rated)) return std::nullopt;
  return compare(c, "gear.speed_mean", c.demand.mean_speed, rated, Kind::angular_speed,
                 "Mean speed at the input.");
}

std::optional<Limit> max_speed(const LimitContext& c) {
  if (!c.model.gear.fitted) return std::nullopt;
  const Term rated = c.axis[Given::gearhead].term("max_speed");
  if (std::isnan(rated))
    return missing("The gearhead's maximum input speed is missing.", "gearhead.max_speed");
  return compare_at(c, "gear.speed_max", c.demand.top_speed_at, c.demand.max_speed, rated,
                    Kind::angular_speed, "Greatest speed at the input.");
}

} // namespace

std::span<const LimitSpec> gearhead_limits() {
  static constexpr std::array list{
      LimitSpec{"gear.equivalent", "Gearhead life torque",
                "Equivalent torque at the output against the nominal torque.", &equivalent},
      LimitSpec{"gear.peak", "Gearhead peak torque",
                "Acceleration peak at the output against the acceleration torque.", &peak},
      LimitSpec{"gear.speed_mean", "Gearhead mean speed", "Mean input speed against the rating.",
                &mean_speed},
      LimitSpec{"gear.speed_max", "Gearhead top speed", "Greatest input speed against the rating.",
                &max_speed}};
  return list;
}

} // namespace fulmox
