#include "core/bus/stepper.hpp"

#include <algorithm>
#include <cmath>
#include <numbers>

namespace fulmox {

double BusSupply::most_current(double v) const {
  if (std::isnan(short_current)) return limit;
  return short_current + (limit - short_current) * v / volts;
}

double BusSupply::mains(double time) const {
  constexpr double pi = std::numbers::pi;
  const double angle = 2.0 * pi * frequency * time + phase;
  if (phases == 1) return crest * std::abs(std::sin(angle));
  double within = std::fmod(angle, pi / 3.0);
  if (within < 0.0) within += pi / 3.0;
  return crest * std::cos(within - pi / 6.0);
}

namespace bus {
namespace {

/// I_s = constant − slope·V on a branch of the supply.
struct Branch {
  double constant = 0.0, slope = 0.0;
};

std::optional<double> solve(const BusModel& bus, double a, double gh, double watts, Switches on,
                            Branch branch) {
  const double c = bus.capacitance / gh;
  const double square = c + branch.slope + 1.0 / bus.bleeder +
                        (on.chopper && bus.chopper ? 1.0 / bus.chopper->resistance : 0.0);
  const double linear = c * a + branch.constant;
  if (!(square > 0.0)) return std::nullopt;
  const double below = linear * linear - 4.0 * square * watts;
  if (!(below >= 0.0)) return std::nullopt;
  const double root = (linear + std::sqrt(below)) / (2.0 * square);
  if (root < 0.0) return std::nullopt;
  return root;
}

std::optional<double> regulated_stage(const BusModel& bus, double a, double gh, double watts, Switches on) {
  const BusSupply& s = bus.supply;
  const auto droop = solve(bus, a, gh, watts, on, {s.volts / s.resistance, 1.0 / s.resistance});
  if (droop) {
    const double amps = (s.volts - *droop) / s.resistance;
    if (amps >= -s.sink && amps <= s.most_current(*droop)) return droop;
  }
  if (const auto off = solve(bus, a, gh, watts, on, {-s.sink, 0.0}))
    if ((s.volts - *off) / s.resistance <= -s.sink) return off;
  if (std::isinf(s.limit)) return std::nullopt;
  const Branch limited = std::isnan(s.short_current)
                             ? Branch{s.limit, 0.0}
                             : Branch{s.short_current, -(s.limit - s.short_current) / s.volts};
  if (const auto limit = solve(bus, a, gh, watts, on, limited))
    if ((s.volts - *limit) / s.resistance >= s.most_current(*limit)) return limit;
  return std::nullopt;
}

} // namespace

std::optional<double> stage(const BusModel& bus, double a, double gh, double watts, double open,
                            Switches on) {
  const BusSupply& s = bus.supply;
  if (on.supply_off) return solve(bus, a, gh, watts, on, {});
  if (s.kind == BusSupply::Kind::regulated) return regulated_stage(bus, a, gh, watts, on);
  if (const auto fed = solve(bus, a, gh, watts, on, {open / s.resistance, 1.0 / s.resistance}))
    if (*fed <= open) return fed;
  return solve(bus, a, gh, watts, on, {});
}

double supply_current(const BusModel& bus, double volts, double open, Switches on) {
  const BusSupply& s = bus.supply;
  if (on.supply_off) return 0.0;
  if (s.kind == BusSupply::Kind::rectifier) return std::max(0.0, (open - volts) / s.resistance);
  return std::max(std::min((s.volts - volts) / s.resistance, s.most_current(volts)), -s.sink);
}

bool in_limit(const BusModel& bus, double volts, Switches on) {
  const BusSupply& s = bus.supply;
  if (on.supply_off) return true;
  return s.kind == BusSupply::Kind::regulated &&
         (s.volts - volts) / s.resistance >= s.most_current(volts) * (1.0 - 1e-9);
}

} // namespace bus
} // namespace fulmox
