// Whether the parts go together at all: flange and shaft of the motor in the gearhead, encoder and brake on
// the drive, the bus on the motor.

#include "core/limits/limit.hpp"

#include <array>
#include <cmath>

namespace fulmox {
namespace {

// Common practice: a pilot of tolerance class j6 or h7 sits in a bore of class H7, both far below this play;
// data sheets round. Through holes leave a screw some half a millimetre.
constexpr double pilot_play = 0.2e-3, pilot_rounding = 0.02e-3, screw_play = 0.5e-3; // m

/// What cannot be put together, said in words.
Limit cannot(const LimitContext& c, std::string_view step, std::string_view why, std::string_view input) {
  Limit limit = compare(c, step, {1.0, ""}, {0.0, ""}, Kind::number, why);
  limit.input = input;
  limit.only_fits = true;
  return limit;
}

Limit same(const LimitContext& c, std::string_view step, const Term& takes, const Term& has, double play,
           std::string_view rule) {
  const Term apart = c.recorder.apply(book::difference, step, {takes, has});
  Limit limit = fits_or_not(compare(c, step, apart, {play, ""}, Kind::length, rule));
  limit.input = takes.ref;
  return limit;
}

std::optional<Limit> flange(const LimitContext& c) {
  if (!c.model.gear.chosen) return std::nullopt;
  const Flange& takes = c.model.gear.takes;
  const Flange& has = c.model.motor->flange;
  if (std::isnan(takes.pilot) && std::isnan(takes.bolt_circle)) return std::nullopt; // made for the motor
  std::optional<Limit> worst;
  const auto look = [&](const Limit& limit) {
    if (!worst || limit.used > worst->used) worst = limit;
  };
  bool told = true;
  if (!std::isnan(takes.pilot)) {
    told = !std::isnan(has.pilot);
    if (told)
      look(
          same(c, "gear.pilot", takes.pilot, has.pilot, has.pilot > takes.pilot ? pilot_rounding : pilot_play,
               "The motor's pilot must go into the head's bore and be centred by it: 0.2 mm smaller at most. "
               "Makers sell adapter flanges: ask."));
  }
  if (!std::isnan(takes.bolt_circle)) {
    told = told && !std::isnan(has.bolt_circle);
    if (!std::isnan(has.bolt_circle))
      look(same(c, "gear.bolt_circle", takes.bolt_circle, has.bolt_circle, screw_play,
                "The motor's screws must meet the head's: holes leave them half a millimetre (common "
                "practice). Makers sell adapter flanges: ask."));
  }
  if (!told && (!worst || worst->used <= 1.0))
    return missing("Of the motor's flange not all is told that the head asks for.", "motor.flange");
  return worst;
}

std::optional<Limit> motor_shaft(const LimitContext& c) {
  const Gearhead& gear = c.model.gear;
  if (!gear.chosen || std::isnan(gear.bore_max)) return std::nullopt;
  const Term shaft = c.model.motor->shaft, end = c.model.motor->shaft_length;
  if (std::isnan(shaft)) return missing("The motor's shaft diameter is missing.", "motor.shaft");
  if (!std::isnan(gear.bore_min) && shaft < gear.bore_min)
    return compare(c, "gear.motor_shaft", gear.bore_min, shaft, Kind::length,
                   "The motor's shaft is thinner than the smallest sleeve of the head's hub.");
  if (!std::isnan(gear.depth) && !std::isnan(end) && end > gear.depth)
    return fits_or_not(compare(c, "gear.motor_shaft", end, gear.depth, Kind::length,
                               "The motor's shaft is longer than the head takes."));
  return fits_or_not(compare(c, "gear.motor_shaft", shaft, gear.bore_max, Kind::length,
                             "The motor's shaft in the hub at the head's input, with a sleeve where it is "
                             "thinner."));
}

std::optional<Limit> feedback(const LimitContext& c) {
  const unsigned has = c.model.motor->feedback, reads = c.model.drive->reads;
  if (has == 0 || reads == 0 || (has & reads) != 0) return std::nullopt;
  return cannot(c, "drive.feedback", "The drive does not read the motor's encoder.", "drive.reads");
}

std::optional<Limit> bus_on_motor(const LimitContext& c) {
  const Term bears = c.model.motor->max_volts, high = c.model.surroundings.bus_high;
  if (std::isnan(bears) || std::isnan(high)) return std::nullopt;
  return fits_or_not(compare(c, "motor.bus", high, bears, Kind::voltage,
                             "Highest bus voltage that the motor's insulation and connector are made for."));
}

std::optional<Limit> brake_coil(const LimitContext& c) {
  constexpr double within = 0.1; // holding brakes open within 10 % of their voltage (common practice)
  const Term coil = c.model.brake.coil_volts, output = c.model.drive->brake_volts;
  if (!c.model.brake.fitted || std::isnan(coil) || std::isnan(output)) return std::nullopt;
  if (std::abs(coil - output) <= within * coil) return std::nullopt;
  return cannot(c, "brake.coil",
                "The drive's brake output does not have the voltage of the coil: a supply and a relay of its "
                "own are needed.",
                "brake.coil_volts");
}

} // namespace

std::span<const LimitSpec> fit_limits() {
  static constexpr std::array list{
      LimitSpec{"gear.flange", "Flange on the gearhead",
                "Pilot and bolt circle of the motor against those the head takes.", &flange, LooksAt::motor,
                Follows::fittings},
      LimitSpec{"gear.motor_shaft", "Shaft in the gearhead",
                "Diameter and length of the motor's shaft against the hub at the head's input.", &motor_shaft,
                LooksAt::motor, Follows::fittings},
      LimitSpec{"drive.feedback", "Encoder on the drive", "Whether the drive reads the motor's encoder.",
                &feedback, LooksAt::drive, Follows::fittings},
      LimitSpec{"motor.bus", "Bus within motor range",
                "Highest bus voltage against what insulation and connector of the motor bear.", &bus_on_motor,
                LooksAt::motor, Follows::fittings},
      LimitSpec{"brake.coil", "Brake on drive output",
                "Voltage of the brake's coil against that of the drive's brake output.", &brake_coil,
                LooksAt::drive, Follows::fittings}};
  return list;
}

} // namespace fulmox
