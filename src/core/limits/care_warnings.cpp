#include "core/limits/care_warnings.hpp"

#include "core/drive/formulas.hpp"
#include "core/limits/emergency.hpp"
#include "core/limits/standing.hpp"
#include "core/motor/servo.hpp"
#include "core/quantity/constants.hpp"
#include "core/quantity/format.hpp"

#include <algorithm>
#include <array>
#include <cmath>

namespace fulmox {
namespace {

using Found = std::optional<Warning>;

std::string told(const LimitContext& c, double value, Kind kind) {
  return format(value, kind, c.units).text();
}

Found gravity_ignored(const LimitContext& c) {
  const Section& load = c.axis["load"];
  const bool hoist = load.is("hanging_load");
  if (c.demand.holding.free != 0.0 || !load.has("angle") || (!c.model.brake.fitted && !hoist))
    return std::nullopt;
  if (!c.model.brake.fitted)
    return warning("A hoist, but nothing hangs on it",
                   "Nothing pulls while it rests. If the load hangs, type its angle: 90° is straight up.",
                   "load.angle");
  return warning(
      "A brake, but nothing to hold",
      "Nothing pulls while the axis rests. If it is inclined, type its angle: gravity counts only then.",
      "load.angle");
}

/// Chosen on what the motor gives for ever, not on the peak that crosses it.
Found coupling_on_rated(const LimitContext& c) {
  const Coupling& coupling = c.model.load->coupling;
  const Motor& motor = *c.model.motor;
  if (!coupling.fitted || std::isnan(coupling.rated_torque) || !motor.has_continuous()) return std::nullopt;
  const double factor = c.rules.term("coupling_service");
  const double peak = c.model.load->peaks.output.value;
  const double rated = motor.continuous_torque(0.0) * c.model.gear.ratio;
  if (coupling.rated_torque >= peak * factor || coupling.rated_torque < rated) return std::nullopt;
  return warning("Coupling chosen on rated torque?",
                 "It bears the motor's continuous torque, but " + told(c, peak, Kind::torque) +
                     " cross it at the peak, and with the service factor it needs " +
                     told(c, peak * factor, Kind::torque) + ".",
                 "coupling.rated_torque");
}

Found supply_on_one_phase(const LimitContext& c) {
  const Surroundings& s = c.model.surroundings;
  const double phases = c.model.motor->phases().number;
  if (phases < 2.0 || !c.model.motor->electric() || std::isnan(s.bus)) return std::nullopt;
  const auto by_one = [&](double rated, double needed) {
    constexpr double rounded = 0.9; // what is bought is no exact share
    return rated < needed && rated >= rounded * needed / phases;
  };
  const bool peak = by_one(s.supply_peak, c.demand.peak_bus_current);
  if (!peak && !by_one(s.supply_current, c.demand.mean_bus_current)) return std::nullopt;
  return warning("Supply sized on one phase?",
                 "It covers what one of " + significant(phases, 1) + " phases takes, not all of them: " +
                     told(c, peak ? c.demand.peak_bus_current : c.demand.mean_bus_current, Kind::current) +
                     (peak ? " are drawn at the peak." : " are drawn on the mean."),
                 peak ? "surroundings.supply_peak" : "surroundings.supply_current");
}

Found brake_wear(const LimitContext& c) {
  if (!c.model.brake.fitted) return std::nullopt;
  const auto closings = std::count_if(c.axis.cycle.begin(), c.axis.cycle.end(), [](const Section& segment) {
    return segment.is("dwell") && segment.text("held_by") == "brake";
  });
  constexpr double year = 2000.0 * 3600.0,
                   bears = 1e6; // one shift; makers state 1 to 10 million, from memory
  const double a_year = static_cast<double>(closings) * year / c.model.load->cycle.duration;
  if (a_year <= bears) return std::nullopt;
  return warning("The brake wears out",
                 "It closes " + significant(a_year * 1e-6, 2) +
                     " million times in a year of one shift; makers state 1 to 10 million in its life (from "
                     "memory). The motor could hold the short dwells.",
                 "cycle");
}

Found hot_case(const LimitContext& c) {
  const MotorHeat& heat = c.demand.heat;
  constexpr double burns = constants::zero_celsius + 65.0;
  if (heat.gap || heat.steady.runs_away || heat.body <= burns) return std::nullopt;
  return warning(
      "The motor's case burns skin",
      "It reaches " + told(c, heat.body, Kind::temperature) +
          "; bare metal burns at a touch from 65 °C on (ISO 13732-1, from memory). Guard it, warn of "
          "it, and mind what lies near.",
      "surroundings.mounting");
}

Found heat_estimated(const LimitContext& c) {
  if (c.demand.heat.gap || !c.demand.heat.estimated) return std::nullopt;
  return warning(
      "The motor's heat is estimated",
      "Its sheet does not tell how heat leaves the winding: capacities follow from the rated point and "
      "the mass, the hottest of the likely shares counts.",
      "motor.winding_time");
}

Found gear_without_continuous(const LimitContext& c) {
  if (!c.model.gear.fitted || std::isnan(c.model.gear.nominal_torque) ||
      !std::isnan(c.model.gear.continuous_torque) || !gear_runs_on(c))
    return std::nullopt;
  return warning(
      "The gearhead runs rather than starts and stops",
      "It turns more than 60 % of the time, or for more than 20 min on end: its maker's continuous "
      "torque should count. None is given, so the nominal one was taken.",
      "gearhead.continuous_torque");
}

/// Less than what a stop at full torque from top speed gives back.
Found resistor_too_small(const LimitContext& c, double bears) {
  const double back = most_motor_torque(c.model) * c.demand.max_speed;
  if (back <= bears) return std::nullopt;
  return warning("A stop at full torque may trip the drive",
                 "From top speed it returns up to " + told(c, back, Kind::power) +
                     ", the brake resistor takes " + told(c, bears, Kind::power) +
                     ". A gentler stop or a larger resistor helps.",
                 "drive.brake_power");
}

Found stop_overvoltage(const LimitContext& c) {
  const Drive& drive = *c.model.drive;
  const Surroundings& s = c.model.surroundings;
  if (!drive.chosen || std::isnan(s.bus)) return std::nullopt;
  if (!std::isnan(drive.brake_power)) return resistor_too_small(c, drive.brake_power);
  if (std::isnan(drive.overvoltage) || std::isnan(drive.capacitance)) return std::nullopt;
  Recorder silent(false);
  const Term back = returned_by_stop(c.model, c.demand, silent);
  if (std::isnan(back)) return std::nullopt;
  const double risen = risen_voltage(s.bus_high, back, drive.capacitance);
  if (risen <= drive.overvoltage) return std::nullopt;
  return warning("A stop may trip the drive",
                 "From top speed it returns up to " + told(c, back, Kind::energy) +
                     ": in the drive's capacitors alone the bus would rise to " +
                     told(c, risen, Kind::voltage) + ". It trips at " +
                     told(c, drive.overvoltage, Kind::voltage) +
                     ", and the axis runs on without torque. A brake resistor or more capacitance helps.",
                 "drive.brake_power");
}

Found current_ripple(const LimitContext& c) {
  const auto* motor = dynamic_cast<const ServoMotor*>(c.model.motor.get());
  const Term switching = c.axis["drive"].term_if("switching");
  if (motor == nullptr || std::isnan(switching) || std::isnan(motor->inductance) ||
      std::isnan(motor->rated_current) || std::isnan(c.model.surroundings.bus))
    return std::nullopt;
  const double ripple = current_swing(c.model.surroundings.bus_high, switching, motor->inductance);
  const double share = ripple / motor->rated_current;
  if (share <= 0.2) return std::nullopt;
  return warning(
      "The current ripples",
      "By " + percent(share) + " of the rated current, " + told(c, ripple, Kind::current) +
          ": the inductance is small for this bus and switching frequency. It heats and hums; a faster "
          "bridge, a lower bus or chokes help.",
      "drive.switching");
}

Found drive_derated(const LimitContext& c) {
  const Surroundings& s = c.model.surroundings;
  const Section& drive = c.axis["drive"];
  const Term warm = drive.term_if("rated_ambient"), high = drive.term_if("rated_altitude");
  if (s.ambient > warm)
    return warning("The drive gives less in this heat",
                   "It stands in " + told(c, s.ambient, Kind::temperature) +
                       " and gives full current up to " + told(c, warm, Kind::temperature) +
                       ". Its currents here are those of the cooler place.",
                   "drive.rated_ambient");
  if (s.altitude > high)
    return warning("The drive gives less up here",
                   "Thin air cools less: it gives full current below " + told(c, high, Kind::length) + ".",
                   "drive.rated_altitude");
  return std::nullopt;
}

} // namespace

std::span<const WarningSpec> care_warnings() {
  static constexpr std::array list{WarningSpec{"gravity_ignored", &gravity_ignored},
                                   WarningSpec{"coupling_on_rated", &coupling_on_rated},
                                   WarningSpec{"supply_on_one_phase", &supply_on_one_phase},
                                   WarningSpec{"brake_wear", &brake_wear},
                                   WarningSpec{"hot_case", &hot_case},
                                   WarningSpec{"heat_estimated", &heat_estimated},
                                   WarningSpec{"gear_without_continuous", &gear_without_continuous},
                                   WarningSpec{"stop_overvoltage", &stop_overvoltage},
                                   WarningSpec{"current_ripple", &current_ripple},
                                   WarningSpec{"drive_derated", &drive_derated}};
  return list;
}

} // namespace fulmox
