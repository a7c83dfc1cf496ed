#include "core/limits/limit.hpp"
#include "core/limits/standing.hpp"
#include "core/limits/worst_share.hpp"
#include "core/motor/constants.hpp"
#include "core/motor/envelope.hpp"
#include "core/motor/stepper_formulas.hpp"

#include <algorithm>
#include <array>
#include <cmath>

namespace fulmox {
namespace {

/// Asks something of the peak envelope.
template <class Ask> auto ask_of_peak(const Motor& motor, const MotorSupply& supply, const Ask& ask) {
  return ask({[&](const Stretch& s, double speed) { return motor.peak_torque(speed, supply, s.braking()); },
              [&](const Stretch& s, double slowest, double fastest) {
                return motor.least_peak(slowest, fastest, supply, s.braking());
              },
              [&] { return motor.peak_corners(supply); }});
}

/// Where the used share of the peak envelope is greatest; the part of the cycle at rest counts with the
/// standstill torque.
Moment worst_peak(const LimitContext& c, const MotorSupply& supply) {
  return ask_of_peak(*c.model.motor, supply,
                     [&](const TorqueCapacity& capacity) { return worst_share(c, capacity); });
}

/// What the bus voltage leaves at that moment, with its chain where the formula tells it.
Term voltage_allows(const LimitContext& c, const Instant& now, const MotorSupply& supply, double bus,
                    double value) {
  const Motor& motor = *c.model.motor;
  if (!motor.tells_by_voltage(supply, now.braking()) || !std::isfinite(value)) return {value, ""};
  const Term volts = c.model.drive->record_motor_volts({bus, ""}, "voltage_limit", c.recorder);
  const Term speed{std::abs(now.speed), now.speed < 0.0 ? "" : now.input.speed.ref};
  return motor.record_by_voltage(speed, volts, supply, c.recorder);
}

/// What motor, current and voltage leave at that moment, each with where it comes from.
Term available(const LimitContext& c, const Instant& now, const MotorSupply& supply, double bus) {
  const PeakLimits limits = c.model.motor->peak_limits(now.speed, supply, now.braking());
  const Term voltage = voltage_allows(c, now, supply, bus, limits.voltage);
  return c.recorder.apply(book::least_torque, "available",
                          {{limits.catalogue, ""}, {limits.current, ""}, voltage});
}

Limit judge_peak(const LimitContext& c, double bus, std::string_view step, const char* prefix,
                 std::string_view rule) {
  const MotorSupply supply = c.model.supply_at(bus);
  const Moment moment = worst_peak(c, supply);
  Instant now;
  Term capacity;
  {
    const Recorder::Scope scope(c.recorder, prefix);
    now = c.model.at(moment.piece, moment.tau, c.recorder);
    capacity = available(c, now, supply, bus);
    if (const auto reserve = c.model.motor->reserve_rule(); !reserve.empty())
      capacity = c.recorder.apply(book::beyond_factor, "with_factor", {capacity, c.rules.term(reserve)});
  }
  Limit limit = compare_at(c, step, moment, now.torque, capacity, Kind::torque, rule);
  limit.input = "motor.peak_curve";
  return limit;
}

/// No moment asks for more than the greatest torque, or leaves less than the least up to the greatest speed;
/// where that is not enough, stretch by stretch.
bool peak_below(const LimitContext& c, double bus, double share) {
  constexpr double rounding = 1.0 + 1e-9;
  const Motor& motor = *c.model.motor;
  if (!(share > 0.0) || motor.keeps_current() || !motor.has_peak()) return false;
  const MotorSupply supply = c.model.supply_at(bus);
  const auto reserve = motor.reserve_rule();
  const double factor = reserve.empty() ? 1.0 : c.rules.term(reserve).value,
               to_stay = share / factor / rounding;
  const double fastest = rounding * c.demand.max_speed;
  const double least =
      std::min(motor.least_peak(0.0, fastest, supply, false), motor.least_peak(0.0, fastest, supply, true));
  if (least > 0.0 && c.demand.peak_torque / least < to_stay) return true;
  return ask_of_peak(motor, supply,
                     [&](const TorqueCapacity& capacity) { return shares_stay_below(c, capacity, to_stay); });
}

std::optional<Limit> peak(const LimitContext& c) {
  if (c.model.motor->keeps_current()) return std::nullopt; // limits of steppers stand for it
  if (!c.model.motor->has_peak())
    return missing("The motor's peak torque curve is missing.", "motor.peak_curve");
  return judge_peak(c, c.model.surroundings.bus, "motor.peak", "at_limit.motor.peak.",
                    "Catalogue peak curve, drive current and bus voltage together, at the worst moment.");
}

std::optional<Limit> peak_low(const LimitContext& c) {
  if (c.model.motor->keeps_current()) return std::nullopt; // limits of steppers stand for it
  if (!c.model.motor->has_peak() || !c.model.motor->has_circuit() || std::isnan(c.model.surroundings.bus_low))
    return std::nullopt;
  return judge_peak(c, c.model.surroundings.bus_low, "motor.peak_low", "at_limit.motor.peak_low.",
                    "As the peak torque, with the bus at its lowest voltage.");
}

bool peak_stays_below(const LimitContext& c, double share) {
  return peak_below(c, c.model.surroundings.bus, share);
}
bool peak_low_stays_below(const LimitContext& c, double share) {
  const double bus = c.model.surroundings.bus_low;
  return !std::isnan(bus) && peak_below(c, bus, share);
}

double peak_at(const LimitContext& c, double bus, const ShaftMoment& now) {
  const Motor& motor = *c.model.motor;
  if (motor.keeps_current() || !motor.has_peak()) return 0.0;
  const bool braking = now.torque * now.direction < 0.0;
  const double share =
      share_of(std::abs(now.torque), motor.peak_torque(now.speed, c.model.supply_at(bus), braking));
  const auto reserve = motor.reserve_rule();
  return reserve.empty() ? share : share * c.rules.term(reserve);
}
double peak_at_moment(const LimitContext& c, const ShaftMoment& now) {
  return peak_at(c, c.model.surroundings.bus, now);
}
double peak_low_at_moment(const LimitContext& c, const ShaftMoment& now) {
  const double bus = c.model.surroundings.bus_low;
  return !c.model.motor->has_circuit() || std::isnan(bus) ? 0.0 : peak_at(c, bus, now);
}

bool thermal_speed_is_rms(const LimitContext& c) { return c.rules.text("thermal_speed") == "rms"; }

/// What the motor gives for ever where the axis works, at its thermal speed.
Continuous continuous_there(const LimitContext& c, std::string_view prefix) {
  return continuous_at(c, thermal_speed_is_rms(c) ? c.demand.rms_speed : c.demand.mean_speed, prefix);
}

std::optional<Limit> rms(const LimitContext& c) {
  if (c.model.motor->keeps_current()) return std::nullopt; // limits of steppers stand for it
  if (!c.model.motor->has_continuous())
    return missing("The motor's continuous torque curve is missing.", "motor.continuous_curve");
  const bool at_rms = thermal_speed_is_rms(c);
  const auto [capacity, speed, derated] = continuous_there(c, "");
  return compare(c, "motor.rms", c.demand.rms_torque, capacity, Kind::torque,
                 at_rms ? (derated ? "Continuous curve at rms speed, derated for the surroundings."
                                   : "Continuous curve at rms speed.")
                        : (derated ? "Continuous curve at mean speed, derated for the surroundings."
                                   : "Continuous curve at mean speed."));
}

/// Where voltage or commutation asks for more current than the torque does, torque does not tell the heat.
std::optional<Limit> heat(const LimitContext& c) {
  const Motor& motor = *c.model.motor;
  if (!motor.speed_shapes_current() || !motor.electric() || !motor.has_continuous()) return std::nullopt;
  Term allowed;
  {
    const Recorder::Scope scope(c.recorder, "at_limit.motor.heat.");
    const Continuous room = continuous_there(c, "");
    const Term air_gap = c.recorder.apply(book::air_gap_for, "air_gap",
                                          {room.torque, {1.0, ""}, {motor.drag(room.speed), ""}});
    allowed = motor.record_current(air_gap, "current", c.recorder);
  }
  return compare(c, "motor.heat", c.demand.rms_current, allowed, Kind::current,
                 "Rms current, with what a weakened field or overlapping phases take, against the current of "
                 "the continuous torque.");
}

std::optional<Limit> speed(const LimitContext& c) {
  const Motor& motor = *c.model.motor;
  if (std::isnan(motor.max_speed)) return missing("The motor's maximum speed is missing.", "motor.max_speed");
  Term capacity = motor.max_speed;
  std::string_view rule = "The motor's mechanical limit.";
  const MotorSupply supply = c.model.supply_at(c.model.surroundings.bus);
  if (motor.has_circuit() && supply.voltage > 0.0 && !supply.weakening) {
    const Term volts =
        c.model.drive->record_motor_volts(c.model.surroundings.bus, "motor.voltage_limit", c.recorder);
    const auto base = motor.record_base_speed(volts, "motor.base_speed", c.recorder);
    if (base && *base < capacity) {
      capacity = *base;
      rule = "At this bus voltage the back-EMF leaves nothing beyond it.";
    }
  }
  return compare_at(c, "motor.speed", c.demand.top_speed_at, c.demand.max_speed, capacity,
                    Kind::angular_speed, rule);
}

std::optional<Limit> inertia(const LimitContext& c) {
  if (!c.model.motor->chosen) return missing("The motor's rotor inertia is missing.", "motor.inertia");
  const char* rule = c.model.motor->keeps_current() ? "inertia_max_stepper" : "inertia_max";
  return compare(c, "inertia.ratio", c.demand.inertia_ratio, c.rules.term(rule), Kind::number,
                 c.worded() ? "House rules \"" + c.rules.text("name") + "\"." : std::string());
}

double least_torque(double catalogue, double current, double voltage) {
  return std::max(0.0, std::min({catalogue, current, voltage}));
}

} // namespace

namespace book {
const Formula least_torque{"motor.peak_available",
                           "Peak torque at that moment",
                           "T_av",
                           "min({T_cat}, {T_I}, {T_V})",
                           Kind::torque,
                           {{"T_cat", "T_cat", Kind::torque, "catalogue curve at that speed"},
                            {"T_I", "T_I", Kind::torque, "from the drive's peak current"},
                            {"T_V", "T_V", Kind::torque, "from the bus voltage at that speed"}},
                           "the least of what curve, current and voltage allow",
                           calling<&fulmox::least_torque>};
} // namespace book

std::span<const LimitSpec> motor_limits() {
  static constexpr std::array list{
      LimitSpec{"motor.peak", "Peak torque",
                "Torque at every moment against what motor and drive can give at that speed.", &peak,
                LooksAt::drive, Follows::current, &peak_stays_below, &peak_at_moment},
      LimitSpec{"motor.peak_low", "Peak torque, low bus", "The same with the bus at its lowest voltage.",
                &peak_low, LooksAt::drive, Follows::current, &peak_low_stays_below, &peak_low_at_moment},
      LimitSpec{"motor.rms", "Rms torque", "Heating: rms torque against the continuous curve.", &rms,
                LooksAt::motor, Follows::sums},
      LimitSpec{"motor.heat", "Motor current, rms",
                "Heating where the field is weakened or phases overlap: rms current against the "
                "continuous one.",
                &heat, LooksAt::motor},
      LimitSpec{"motor.speed", "Motor speed", "Greatest speed against the motor's and the voltage's limit.",
                &speed, LooksAt::motor, Follows::sums},
      LimitSpec{"inertia.ratio", "Inertia ratio",
                "Load inertia at the motor over rotor inertia, against the house rule.", &inertia,
                LooksAt::motor, Follows::sums}};
  return list;
}

} // namespace fulmox
