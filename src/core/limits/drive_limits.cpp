#include "core/limits/limit.hpp"

#include <algorithm>
#include <array>
#include <cmath>

namespace fulmox {
namespace {

std::optional<Limit> no_torque_constant(const LimitContext& c) {
  if (c.model.motor.has_kt()) return std::nullopt;
  return missing("The current needs the motor's torque constant.", "motor.kt");
}

std::optional<Limit> rms(const LimitContext& c) {
  if (auto blocked = no_torque_constant(c)) return blocked;
  if (std::isnan(c.model.drive.continuous_current))
    return missing("The drive's continuous current is missing.", "drive.continuous_current");
  return compare(c, "drive.rms", c.demand.rms_current, c.model.drive.continuous_current, Kind::current,
                 "Rms line current over the cycle.");
}

std::optional<Limit> peak(const LimitContext& c) {
  if (auto blocked = no_torque_constant(c)) return blocked;
  if (std::isnan(c.model.drive.peak_current))
    return missing("The drive's peak current is missing.", "drive.peak_current");
  return compare_at(c, "drive.peak", c.demand.peak_current_at, c.demand.peak_current,
                    c.model.drive.peak_current, Kind::current, "Greatest line current, in rms ampere.");
}

struct Overload {
  double greatest = 0.0;
  double time = 0.0;
  bool growing = false;
};

/// dE/dt = I² − I_cont², E >= 0, run over cycles until it repeats or keeps growing.
Overload integrate_overload(const LimitContext& c, double continuous) {
  Overload out;
  double energy = 0.0;
  double at_start = 0.0;
  constexpr int cycles = 3;
  for (int round = 0; round < cycles; ++round) {
    at_start = energy;
    for (std::size_t i = 1; i < c.trace.samples.size(); ++i) {
      const Instant& a = c.trace.samples[i - 1];
      const Instant& b = c.trace.samples[i];
      const double mean_square =
          (a.current * a.current + a.current * b.current + b.current * b.current) / 3.0;
      energy = std::max(0.0, energy + (mean_square - continuous * continuous) * (b.time - a.time));
      if (energy > out.greatest) {
        out.greatest = energy;
        out.time = b.time;
      }
    }
  }
  out.growing = energy > at_start * (1.0 + 1e-9) && energy > 0.0 && at_start > 0.0;
  return out;
}

std::optional<Limit> peak_time(const LimitContext& c) {
  if (auto blocked = no_torque_constant(c)) return blocked;
  const Drive& drive = c.model.drive;
  if (std::isnan(drive.continuous_current) || std::isnan(drive.peak_current))
    return std::nullopt; // told by the limits above
  if (std::isnan(drive.peak_time)) return missing("The drive's peak time is missing.", "drive.peak_time");
  const Overload overload = integrate_overload(c, drive.continuous_current);
  const Term capacity = c.recorder.apply(book::overload_limit, "drive.overload_limit",
                                         {drive.peak_current, drive.continuous_current, drive.peak_time});
  const double demand = overload.growing ? std::numeric_limits<double>::infinity() : overload.greatest;
  Moment moment;
  moment.time = overload.time;
  return compare_at(
      c, "drive.peak_time", moment, {demand, "drive.rms_current"}, capacity, Kind::current_squared_time,
      overload.growing
          ? "The overload grows from cycle to cycle: the rms current is above the continuous current."
          : "Overload integrator in the steady cycle.");
}

std::optional<Limit> voltage(const LimitContext& c) {
  if (std::isnan(c.model.surroundings.bus)) return missing("The bus voltage is missing.", "surroundings.bus");
  if (!c.model.motor.has_circuit())
    return missing("The voltage needs the motor's Ke, resistance, inductance and pole pairs.", "motor.ke");
  if (c.model.drive.weakening)
    return std::nullopt; // i_d is free then: the peak torque limit carries the voltage
  const Moment moment = worst(c.model, c.trace, [](const Instant& i) { return i.voltage; });
  Recorder silent(false);
  const Instant now = c.model.at(moment.piece, moment.tau, silent);
  const double sense = now.braking() ? -1.0 : 1.0;
  // wye phase values for the formula: half the terminal values
  const Term needed = c.recorder.apply(book::phase_voltage, "drive.voltage_needed",
                                       {c.model.motor.k,
                                        {c.model.motor.resistance / 2.0, c.model.motor.resistance.ref},
                                        {c.model.motor.inductance / 2.0, c.model.motor.inductance.ref},
                                        c.model.motor.pole_pairs,
                                        {std::abs(now.speed), "demand.max_speed"},
                                        {sense * std::sqrt(2.0) * now.current, ""}});
  const Term limit = c.recorder.apply(book::voltage_limit, "drive.voltage_low",
                                      {c.model.surroundings.bus_low, c.model.drive.voltage_use});
  return compare_at(c, "drive.voltage", moment, needed, limit, Kind::voltage,
                    "Phase peak volts, bus at its lowest voltage.");
}

std::optional<Limit> bus_range(const LimitContext& c) {
  const Drive& drive = c.model.drive;
  if (!drive.chosen || std::isnan(drive.bus_max) || std::isnan(c.model.surroundings.bus_high))
    return std::nullopt;
  Limit limit = compare(c, "drive.bus", c.model.surroundings.bus_high, drive.bus_max, Kind::voltage,
                        "Highest bus voltage the drive may run on.");
  return fits_or_not(std::move(limit));
}

} // namespace

std::span<const LimitSpec> drive_limits() {
  static constexpr std::array list{
      LimitSpec{"drive.rms", "Drive current, rms", "Rms line current against the drive's continuous current.",
                &rms},
      LimitSpec{"drive.peak", "Drive current, peak",
                "Greatest line current against the drive's peak current.", &peak},
      LimitSpec{"drive.peak_time", "Drive overload time",
                "How long the drive must give more than its continuous current.", &peak_time},
      LimitSpec{"drive.voltage", "Drive voltage", "Volts needed at the worst moment against the lowest bus.",
                &voltage},
      LimitSpec{"drive.bus", "Bus within drive range",
                "Highest bus voltage against the drive's operating limit.", &bus_range}};
  return list;
}

} // namespace fulmox
