#pragma once
#include "core/bus/bus_model.hpp"

#include <array>
#include <functional>
#include <optional>

namespace fulmox::bus {

/// What is switched on the bus at the moment.
struct Switches {
  bool chopper = false;
  bool supply_off = false; ///< a hiccup supply that has tripped
};

/// One step over h: where it ends and what flowed.
struct StepTaken {
  double volts = 0.0;
  double amps = 0.0;                              ///< A of the supply at the end
  double error = 0.0;                             ///< V
  double energy_error = 0.0;                      ///< J, of what the supply gave
  double supplied = 0.0, burnt = 0.0, bled = 0.0; ///< J
  double current_squared = 0.0;                   ///< A²·s
  double most_current = 0.0;                      ///< A, at the stages
};

/// A of the supply at a voltage; `open` are the volts it makes without load at that time.
double supply_current(const BusModel& bus, double volts, double open, Switches on);
/// Whether a regulated supply is in its current limit.
bool in_limit(const BusModel& bus, double volts, Switches on);

/// C·dV/dt = I_s(V, t) − P(t)/V − V·G over one step of Alexander's SDIRK; nothing where a stage has no
/// solution.
template <class Power>
std::optional<StepTaken> step(const BusModel& bus, double time, double volts, double h, const Power& power,
                              Switches on);

/// V of one stage: V = a + γh·f(V), the larger root on the branch of the supply that agrees with it.
std::optional<double> stage(const BusModel& bus, double a, double gh, double watts, double open, Switches on);

// The coefficients: γ is the root of γ³ − 3γ² + 3γ/2 − 1/6 in (1/6, 1/2).
inline constexpr double gamma = 0.435866521508458999416019;
inline constexpr std::array<double, 3> nodes{gamma, 0.5 * (1.0 + gamma), 1.0};
inline constexpr double weight_1 = -0.25 * (6.0 * gamma * gamma - 16.0 * gamma + 1.0);
inline constexpr double weight_2 = 0.25 * (6.0 * gamma * gamma - 20.0 * gamma + 5.0);
inline constexpr std::array<double, 3> weights{weight_1, weight_2, gamma};
/// Of second order, on the first two stages: Σb = 1, Σb·c = ½.
inline constexpr double embedded_2 = (1.0 - 2.0 * gamma) / (1.0 - gamma);
inline constexpr std::array<double, 3> embedded{1.0 - embedded_2, embedded_2, 0.0};

template <class Power>
std::optional<StepTaken> step(const BusModel& bus, double time, double volts, double h, const Power& power,
                              Switches on) {
  StepTaken out;
  std::array<double, 3> slope{};
  const double chopper = on.chopper && bus.chopper ? 1.0 / bus.chopper->resistance : 0.0;
  const double bleeder = 1.0 / bus.bleeder;
  for (std::size_t i = 0; i < 3; ++i) {
    const double at = time + nodes[i] * h;
    double a = volts;
    if (i == 1) a += h * 0.5 * (1.0 - gamma) * slope[0];
    if (i == 2) a += h * (weight_1 * slope[0] + weight_2 * slope[1]);
    const double open = bus.supply.open(at);
    const auto v = stage(bus, a, gamma * h, power(at), open, on);
    if (!v) return std::nullopt;
    slope[i] = (*v - a) / (gamma * h);
    const double amps = supply_current(bus, *v, open, on);
    out.supplied += h * weights[i] * *v * amps;
    out.energy_error += h * (weights[i] - embedded[i]) * *v * amps;
    out.burnt += h * weights[i] * *v * *v * chopper;
    out.bled += h * weights[i] * *v * *v * bleeder;
    out.current_squared += h * weights[i] * amps * amps;
    out.most_current = std::max(out.most_current, amps);
    out.error += h * (weights[i] - embedded[i]) * slope[i];
    out.volts = *v; // stiffly accurate: the last stage is the end
    out.amps = amps;
  }
  const double stiff = (1.0 / bus.supply.resistance + chopper + bleeder) / bus.capacitance;
  out.error /= 1.0 + gamma * h * stiff;
  return out;
}

} // namespace fulmox::bus
