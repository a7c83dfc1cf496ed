#include "core/drive/formulas.hpp"
#include "core/limits/limit.hpp"

#include <algorithm>
#include <array>
#include <cmath>

namespace fulmox {
namespace {

std::optional<Limit> no_torque_constant(const LimitContext& c) {
  if (c.model.motor->electric()) return std::nullopt;
  return missing("The current needs the motor's torque constant.", "motor.kt");
}

/// Drives for steppers are rated by the crest that can be set, and current is judged as that.
bool counts_by_setting(const LimitContext& c) {
  const Feed feed = c.model.drive->feed();
  return c.model.motor->keeps_current() || feed == Feed::bridges || feed == Feed::unipolar ||
         feed == Feed::five;
}

/// "Greatest current, in ampere of direct current."
std::string in_amperes(const LimitContext& c, std::string_view what) {
  return c.worded() ? std::string(what) + " in " + std::string(c.model.motor->ampere()) + "." : std::string();
}

std::optional<Limit> rms(const LimitContext& c) {
  if (counts_by_setting(c)) return std::nullopt; // stepper limits stand for it
  if (auto blocked = no_torque_constant(c)) return blocked;
  if (std::isnan(c.model.drive->continuous_current))
    return missing("The drive's continuous current is missing.", "drive.continuous_current");
  return compare(c, "drive.rms", c.demand.rms_current, c.model.drive->continuous_current, Kind::current,
                 in_amperes(c, "Rms over the cycle,"));
}

std::optional<Limit> peak(const LimitContext& c) {
  if (counts_by_setting(c)) return std::nullopt; // stepper limits stand for it
  if (auto blocked = no_torque_constant(c)) return blocked;
  if (std::isnan(c.model.drive->peak_current))
    return missing("The drive's peak current is missing.", "drive.peak_current");
  return compare_at(c, "drive.peak", c.demand.peak_current_at, c.demand.peak_current,
                    c.model.drive->peak_current, Kind::current, in_amperes(c, "Greatest current,"));
}

std::optional<Limit> peak_time(const LimitContext& c) {
  if (counts_by_setting(c)) return std::nullopt; // stepper limits stand for it
  if (auto blocked = no_torque_constant(c)) return blocked;
  const Drive& drive = *c.model.drive;
  if (std::isnan(drive.continuous_current) || std::isnan(drive.rated_peak))
    return std::nullopt; // told by the limits above
  if (std::isnan(drive.peak_time)) return missing("The drive's peak time is missing.", "drive.peak_time");
  const Reflected run = overload(c.model, c.course, drive.continuous_current);
  const Term capacity = c.recorder.apply(book::overload_limit, "drive.overload_limit",
                                         {drive.rated_peak, drive.continuous_current, drive.peak_time});
  const bool growing = std::isinf(run.greatest);
  Limit limit = compare(
      c, "drive.peak_time", {run.greatest, ""}, capacity, Kind::current_squared_time,
      growing ? "The overload grows from cycle to cycle: the rms current is above the continuous current."
              : "Overload integrator in the steady cycle.");
  if (!growing) limit.moment = c.moment_at(run.time);
  return limit;
}

/// Since (I² − c)⁺ stays below I²·(1 − c/I_max²) from 0 to I_max, the overload of a steady cycle stays below
/// I_rms²·t·(1 − c/I_max²), c the square of the continuous current.
bool peak_time_stays_below(const LimitContext& c, double share) {
  const Drive& drive = *c.model.drive;
  if (!c.model.motor->electric()) return false;
  const double rms = c.demand.rms_current, most = c.demand.peak_current, borne = drive.continuous_current;
  if (!(rms <= borne)) return false; // grows without end, or is not known
  const double room = (drive.rated_peak * drive.rated_peak - borne * borne) * drive.peak_time;
  if (!(room > 0.0)) return false;
  if (most <= borne) return share > 0.0;
  return rms * rms * c.model.load->cycle.duration * (1.0 - borne * borne / (most * most)) < share * room;
}

constexpr double motoring = 1.0; ///< direction; it takes more volts than braking

double volts_for(const Motor& motor, double torque, double speed, double direction) {
  return motor.voltage(motor.air_gap(torque, speed, direction), speed, direction);
}

std::optional<Limit> voltage(const LimitContext& c) {
  if (counts_by_setting(c)) return std::nullopt; // stepper limits stand for it
  if (std::isnan(c.model.surroundings.bus)) return missing("The bus voltage is missing.", "surroundings.bus");
  const Motor& motor = *c.model.motor;
  if (!motor.has_circuit() || !motor.electric())
    return missing("The voltage needs the motor's Ke, resistance, inductance and pole pairs.", "motor.ke");
  if (c.model.drive->weakening)
    return std::nullopt; // i_d is free then: the peak torque limit carries the voltage
  const Moment moment = greatest_of(c.model, c.course,
                                    {[&](const Stretch& s, double torque, double speed) {
                                       return volts_for(motor, torque, speed, s.direction);
                                     },
                                     [&](const Stretch&, double torque, double, double fastest) {
                                       return volts_for(motor, torque, fastest, motoring);
                                     }});
  Recorder silent(false);
  const Instant now = c.model.at(moment.piece, moment.tau, silent);
  const Term needed =
      motor.record_voltage(motor.air_gap(now.torque, now.speed, now.input.direction), now.speed,
                           now.input.direction, "drive.voltage_needed", c.recorder);
  const Term limit =
      c.model.drive->record_motor_volts(c.model.surroundings.bus_low, "drive.voltage_low", c.recorder);
  return compare_at(c, "drive.voltage", moment, needed, limit, Kind::voltage,
                    "At the motor, winding cold or warm, whichever takes more; bus at its lowest voltage.");
}

/// All the torque at all the speed; more of either takes more volts.
bool voltage_stays_below(const LimitContext& c, double share) {
  constexpr double rounding = 1.0 + 1e-9;
  const Motor& motor = *c.model.motor;
  if (counts_by_setting(c) || !motor.has_circuit() || !motor.electric()) return false;
  const double has = c.model.drive->motor_volts(c.model.surroundings.bus_low);
  if (!(has > 0.0)) return false;
  return rounding * volts_for(motor, std::abs(c.demand.peak_torque), std::abs(c.demand.max_speed), motoring) <
         share * has;
}

double voltage_at_moment(const LimitContext& c, const ShaftMoment& now) {
  const Motor& motor = *c.model.motor;
  if (counts_by_setting(c) || !motor.has_circuit() || !motor.electric() || c.model.drive->weakening)
    return 0.0;
  const double has = c.model.drive->motor_volts(c.model.surroundings.bus_low);
  return has > 0.0 ? volts_for(motor, now.torque, now.speed, now.direction) / has : 0.0;
}

std::optional<Limit> bus_range(const LimitContext& c) {
  const Drive& drive = *c.model.drive;
  if (!drive.chosen || std::isnan(drive.bus_max) || std::isnan(c.model.surroundings.bus_high))
    return std::nullopt;
  Limit limit = compare(c, "drive.bus", c.model.surroundings.bus_high, drive.bus_max, Kind::voltage,
                        "Highest bus voltage the drive may run on.");
  return fits_or_not(std::move(limit));
}

/// Below its least voltage a drive switches off.
std::optional<Limit> bus_least(const LimitContext& c) {
  const Drive& drive = *c.model.drive;
  const Term& least = c.model.surroundings.bus_low;
  if (!drive.chosen || std::isnan(drive.bus_min) || std::isnan(least)) return std::nullopt;
  Limit limit = compare(c, "drive.bus_least", drive.bus_min, least, Kind::voltage,
                        "The least the drive runs on against the lowest bus voltage.");
  return fits_or_not(std::move(limit));
}

} // namespace

std::span<const LimitSpec> drive_limits() {
  static constexpr std::array list{
      LimitSpec{"drive.rms", "Drive current, rms", "Rms current against the drive's continuous current.",
                &rms, LooksAt::drive, Follows::figures, nullptr, nullptr, false, &Drive::continuous_current},
      LimitSpec{"drive.peak", "Drive current, peak", "Greatest current against the drive's peak current.",
                &peak, LooksAt::drive, Follows::figures, nullptr, nullptr, false, &Drive::peak_current},
      LimitSpec{"drive.peak_time", "Drive overload time",
                "How long the drive must give more than its continuous current.", &peak_time, LooksAt::drive,
                Follows::figures, &peak_time_stays_below},
      LimitSpec{"drive.voltage", "Drive voltage", "Volts needed at the worst moment against the lowest bus.",
                &voltage, LooksAt::motor, Follows::figures, &voltage_stays_below, &voltage_at_moment},
      LimitSpec{"drive.bus", "Bus within drive range",
                "Highest bus voltage against the drive's operating limit.", &bus_range, LooksAt::drive,
                Follows::fittings, nullptr, nullptr, true},
      LimitSpec{"drive.bus_least", "Bus enough for the drive",
                "The least a drive runs on against the lowest bus.", &bus_least, LooksAt::drive,
                Follows::fittings, nullptr, nullptr, true}};
  return list;
}

} // namespace fulmox
