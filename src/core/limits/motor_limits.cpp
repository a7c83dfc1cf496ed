#include "core/limits/limit.hpp"

#include <algorithm>
#include <array>
#include <cmath>

namespace fulmox {
namespace {

/// Where the used share of the peak envelope is greatest; the part of the cycle at rest counts with the
/// standstill torque.
Moment worst_peak(const LimitContext& c, const MotorSupply& supply) {
  const ServoMotor& motor = c.model.motor;
  constexpr double beyond_any = 1e9;
  const auto share = [](double torque, double capacity) {
    return capacity > torque / beyond_any ? torque / capacity : torque > 0.0 ? beyond_any : 0.0;
  };
  return greatest_of(c.model, c.course,
                     {[&](const Stretch& s, double torque, double speed) {
                        return share(std::abs(torque), motor.peak_torque(speed, supply, s.braking()));
                      },
                      [&](const Stretch& s, double torque, double slowest, double fastest) {
                        return share(torque, motor.least_peak(slowest, fastest, supply, s.braking()));
                      },
                      motor.peak_corners(supply)});
}

/// What the bus voltage leaves at that moment, with its chain where the formula tells it.
Term voltage_allows(const LimitContext& c, const Instant& now, const MotorSupply& supply, double bus,
                    double value) {
  const ServoMotor& motor = c.model.motor;
  if (!motor.has_circuit() || !std::isfinite(value) || now.braking() || supply.weakening) return {value, ""};
  const Term volts =
      c.recorder.apply(book::voltage_limit, "voltage_limit", {{bus, ""}, c.model.drive.voltage_use});
  const double amperes = std::sqrt(2.0) * std::fmin(supply.drive_current, motor.peak_current);
  const Term speed{std::abs(now.speed), now.speed < 0.0 ? "" : now.input.speed.ref};
  Term air_gap = c.recorder.apply(
      book::sine_envelope, "by_voltage",
      {motor.k, motor.warm_resistance, motor.inductance, motor.pole_pairs, speed, volts, {amperes, ""}});
  if (motor.saturates()) {
    const double current = air_gap / (1.5 * motor.k * std::sqrt(2.0));
    air_gap = c.recorder.apply(book::saturated_torque, "by_voltage_saturated",
                               {air_gap, {motor.torque_of_current(current), ""}});
  }
  return c.recorder.apply(book::shaft_torque, "by_voltage_at_shaft", {air_gap, {motor.drag(now.speed), ""}});
}

/// What motor, current and voltage leave at that moment, each with where it comes from.
Term available(const LimitContext& c, const Instant& now, const MotorSupply& supply, double bus) {
  const PeakLimits limits = c.model.motor.peak_limits(now.speed, supply, now.braking());
  const Term voltage = voltage_allows(c, now, supply, bus, limits.voltage);
  return c.recorder.apply(book::least_torque, "available",
                          {{limits.catalogue, ""}, {limits.current, ""}, voltage});
}

Limit judge_peak(const LimitContext& c, double bus, std::string_view step, const char* prefix,
                 std::string rule) {
  const MotorSupply supply = c.model.supply_at(bus);
  const Moment moment = worst_peak(c, supply);
  Instant now;
  Term capacity;
  {
    const Recorder::Scope scope(c.recorder, prefix);
    now = c.model.at(moment.piece, moment.tau, c.recorder);
    capacity = available(c, now, supply, bus);
  }
  Limit limit = compare_at(c, step, moment, now.torque, capacity, Kind::torque, std::move(rule));
  limit.input = "motor.peak_curve";
  return limit;
}

std::optional<Limit> peak(const LimitContext& c) {
  if (c.model.motor.peak.empty())
    return missing("The motor's peak torque curve is missing.", "motor.peak_curve");
  return judge_peak(c, c.model.surroundings.bus, "motor.peak", "at_limit.motor.peak.",
                    "Catalogue peak curve, drive current and bus voltage together, at the worst moment.");
}

std::optional<Limit> peak_low(const LimitContext& c) {
  if (c.model.motor.peak.empty() || !c.model.motor.has_circuit() || std::isnan(c.model.surroundings.bus_low))
    return std::nullopt;
  return judge_peak(c, c.model.surroundings.bus_low, "motor.peak_low", "at_limit.motor.peak_low.",
                    "As the peak torque, with the bus at its lowest voltage.");
}

std::optional<Limit> rms(const LimitContext& c) {
  if (c.model.motor.continuous.empty())
    return missing("The motor's continuous torque curve is missing.", "motor.continuous_curve");
  const Section& motor = c.axis["motor"];
  const bool at_rms = c.rules.text("thermal_speed") == "rms";
  const Term speed = at_rms ? c.demand.rms_speed : c.demand.mean_speed;
  const double catalogue = c.model.motor.continuous_torque(speed);
  Term ambient{1.0, ""};
  if (!motor.blank("winding_limit"))
    ambient =
        c.recorder.apply(book::ambient_derating, "derate.ambient", ambient_terms(motor, c.model, speed));
  const Term altitude =
      c.recorder.apply(book::altitude_derating, "derate.altitude", {c.model.surroundings.altitude});
  const double factor = ambient * altitude;
  const Term capacity =
      c.recorder.apply(book::derated, "motor.continuous", {{catalogue, ""}, ambient, altitude});
  return compare(c, "motor.rms", c.demand.rms_torque, capacity, Kind::torque,
                 std::string("Continuous curve at ") + (at_rms ? "rms" : "mean") + " speed" +
                     (factor < 1.0 ? ", derated for the surroundings." : "."));
}

std::optional<Limit> speed(const LimitContext& c) {
  if (std::isnan(c.model.motor.max_speed))
    return missing("The motor's maximum speed is missing.", "motor.max_speed");
  Term capacity = c.model.motor.max_speed;
  std::string rule = "The motor's mechanical limit.";
  const MotorSupply supply = c.model.supply_at(c.model.surroundings.bus);
  if (c.model.motor.has_circuit() && supply.voltage > 0.0 && !supply.weakening) {
    const Term voltage = c.recorder.apply(book::voltage_limit, "motor.voltage_limit",
                                          {c.model.surroundings.bus, c.model.drive.voltage_use});
    const Term base = c.recorder.apply(book::base_speed, "motor.base_speed", {voltage, c.model.motor.k});
    if (base < capacity) {
      capacity = base;
      rule = "At this bus voltage the back-EMF leaves nothing beyond it.";
    }
  }
  return compare_at(c, "motor.speed", c.demand.top_speed_at, c.demand.max_speed, capacity,
                    Kind::angular_speed, rule);
}

std::optional<Limit> inertia(const LimitContext& c) {
  if (!c.model.motor.chosen) return missing("The motor's rotor inertia is missing.", "motor.inertia");
  return compare(c, "inertia.ratio", c.demand.inertia_ratio, c.rules.term("inertia_max"), Kind::number,
                 "House rules \"" + c.rules.text("name") + "\".");
}

double derated(double torque, double ambient, double altitude) { return torque * ambient * altitude; }
double least_torque(double catalogue, double current, double voltage) {
  return std::max(0.0, std::min({catalogue, current, voltage}));
}
double shaft_torque(double air_gap, double drag) { return air_gap - drag; }
double saturated_torque(double straight, double saturated) { return std::min(straight, saturated); }

} // namespace

namespace book {
const Formula derated{
    "motor.continuous_derated",
    "Continuous torque where the axis works",
    "T_c",
    "{T}·{k_a}·{k_h}",
    Kind::torque,
    {{"T", "T_c(n)", Kind::torque, "catalogue curve at the thermal speed", range::not_negative},
     {"k_a", "k_a", Kind::share, "derating for ambient temperature", range::share},
     {"k_h", "k_h", Kind::share, "derating for altitude", range::share}},
    "common practice",
    calling<&fulmox::derated>};
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
const Formula saturated_torque{
    "motor.saturated_torque",
    "Air-gap torque where the constant falls",
    "T_g",
    "min({T}, {T_s})",
    Kind::torque,
    {{"T", "1.5·K·i_q", Kind::torque, "with the torque constant as it is"},
     {"T_s", "T_s", Kind::torque, "read between the maker's rated and peak point"}},
    "the torque constant falls at high current",
    calling<&fulmox::saturated_torque>};
const Formula shaft_torque{"motor.shaft_torque",
                           "Shaft torque",
                           "T",
                           "{T_g} − {T_d}",
                           Kind::torque,
                           {{"T_g", "T_g", Kind::torque, "air-gap torque"},
                            {"T_d", "T_d", Kind::torque, "friction and iron drag", range::not_negative}},
                           "equilibrium of the rotor",
                           calling<&fulmox::shaft_torque>};
} // namespace book

std::span<const LimitSpec> motor_limits() {
  static constexpr std::array list{
      LimitSpec{"motor.peak", "Peak torque",
                "Torque at every moment against what motor and drive can give at that speed.", &peak},
      LimitSpec{"motor.peak_low", "Peak torque, low bus", "The same with the bus at its lowest voltage.",
                &peak_low},
      LimitSpec{"motor.rms", "Rms torque", "Heating: rms torque against the continuous curve.", &rms},
      LimitSpec{"motor.speed", "Motor speed", "Greatest speed against the motor's and the voltage's limit.",
                &speed},
      LimitSpec{"inertia.ratio", "Inertia ratio",
                "Load inertia at the motor over rotor inertia, against the house rule.", &inertia}};
  return list;
}

} // namespace fulmox
