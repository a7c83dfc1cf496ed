#include "core/limits/limit.hpp"
#include "core/rotation/rotation.hpp"

#include <array>
#include <cmath>

namespace fulmox {
namespace {

std::optional<Limit> torque(const LimitContext& c) {
  if (!c.model.load->coupling.fitted) return std::nullopt;
  const Term rated = c.model.load->coupling.rated_torque;
  if (std::isnan(rated)) return missing("The coupling's rated torque is missing.", "coupling.rated_torque");
  const Moment& moment = c.model.load->peaks.output;
  Instant now;
  {
    const Recorder::Scope scope(c.recorder, "at_limit.coupling.");
    now = c.model.at(moment.piece, moment.tau, c.recorder);
  }
  const Term demand = c.recorder.apply(book::scaled, "coupling.torque",
                                       {now.output.torque, c.rules.term("coupling_service")});
  return compare_at(c, "coupling.torque", moment, demand, rated, Kind::torque,
                    "Greatest instantaneous torque times the service factor, never the rated torque.");
}

std::optional<Limit> speed(const LimitContext& c) {
  const Term rated = c.model.load->coupling.max_speed;
  if (!c.model.load->coupling.fitted || std::isnan(rated)) return std::nullopt;
  const Term top = c.model.gear.ratio == 1.0 ? c.demand.max_speed
                                             : c.recorder.apply(book::output_speed, "coupling.speed",
                                                                {c.demand.max_speed, c.model.gear.ratio});
  return compare_at(c, "coupling.speed", c.demand.top_speed_at, top, rated, Kind::angular_speed,
                    "Greatest speed at the coupling.");
}

std::optional<Limit> bore(const LimitContext& c) {
  const Coupling& coupling = c.model.load->coupling;
  const Term smallest = coupling.bore_min, largest = coupling.bore_max;
  if (!c.model.load->coupling.fitted || std::isnan(largest)) return std::nullopt;
  const Term driver = c.model.gear.fitted ? c.model.gear.shaft : c.model.motor->shaft;
  const Term journal = c.model.load->journal;
  if (std::isnan(driver) && std::isnan(journal))
    return missing("Neither shaft diameter is known.", "mechanism.journal");
  const Term thick = std::fmax(driver, journal) == driver.value ? driver : journal;
  const Term thin = std::fmin(driver, journal) == driver.value ? driver : journal;
  if (!std::isnan(smallest) && thin < smallest) {
    return compare(c, "coupling.bore", smallest, thin, Kind::length,
                   "The thinner shaft is below the smallest bore.");
  }
  return fits_or_not(
      compare(c, "coupling.bore", thick, largest, Kind::length, "Both shafts must fit the bores."));
}

} // namespace

std::span<const LimitSpec> coupling_limits() {
  static constexpr std::array list{
      LimitSpec{"coupling.torque", "Coupling torque",
                "Greatest torque with service factor against the rated torque.", &torque, LooksAt::head},
      LimitSpec{"coupling.speed", "Coupling speed", "Greatest speed at the coupling against its limit.",
                &speed, LooksAt::head},
      LimitSpec{"coupling.bore", "Coupling bores", "Shaft diameters against the bore range.", &bore,
                LooksAt::motor, Follows::fittings}};
  return list;
}

} // namespace fulmox
