#include "core/bus/formulas.hpp"

#include <algorithm>
#include <array>
#include <cmath>
#include <limits>
#include <numbers>

namespace fulmox {
namespace {

constexpr double nan = std::numeric_limits<double>::quiet_NaN();

/// Half the angle over which a pulse stands alone: a quarter turn, or a twelfth with three phases.
double widest(int phases) { return phases == 1 ? std::numbers::pi / 2.0 : std::numbers::pi / 6.0; }

/// Half the angle of conduction at a steady voltage behind the diodes.
double conduction(double crest, double level, int phases) {
  return level >= crest ? 0.0 : std::min(std::acos(std::max(level, 0.0) / crest), widest(phases));
}

constexpr double narrow = 0.02; // rad: below, the closed forms cancel and their series stand for them

} // namespace

double rest_voltage(double volts, double resistance, double watts) {
  return 0.5 * (volts + std::sqrt(volts * volts - 4.0 * resistance * watts));
}
double holdup_time(double capacitance, double from, double to, double watts) {
  return capacitance * (from * from - to * to) / (2.0 * watts);
}
double constant_current_time(double capacitance, double from, double to, double amps, double watts) {
  const double rest = watts / amps; // V at which all the current is drawn again
  if ((from - rest) * (to - rest) <= 0.0 || (to - from) * (from - rest) < 0.0) return nan;
  return capacitance / amps * ((to - from) + rest * std::log((to - rest) / (from - rest)));
}
double discharge_time(double capacitance, double resistance, double from, double to) {
  return resistance * capacitance * std::log(from / to);
}

namespace {

struct Chopping {
  double up = 0.0, down = 0.0; ///< s
};
Chopping chopping(double capacitance, double on, double off, double resistance, double watts) {
  const double held = watts * resistance; // V² at which the resistor takes it all
  return {capacitance * (on * on - off * off) / (2.0 * watts),
          off * off <= held
              ? std::numeric_limits<double>::infinity()
              : 0.5 * resistance * capacitance * std::log((on * on - held) / (off * off - held))};
}

} // namespace

double chopper_frequency(double capacitance, double on, double off, double resistance, double watts) {
  const Chopping c = chopping(capacitance, on, off, resistance, watts);
  return 1.0 / (c.up + c.down);
}
double chopper_duty(double capacitance, double on, double off, double resistance, double watts) {
  const Chopping c = chopping(capacitance, on, off, resistance, watts);
  return std::isinf(c.down) ? 1.0 : c.down / (c.up + c.down);
}

double rectifier_mean(double crest, double drop, double resistance, double volts, int phases) {
  const double level = volts + drop, beta = conduction(crest, level, phases), wide = widest(phases);
  if (beta < narrow) return crest * beta * beta * beta / (3.0 * wide * resistance);
  return (crest * std::sin(beta) - level * beta) / (wide * resistance);
}
double rectifier_rms(double crest, double drop, double resistance, double volts, int phases) {
  const double level = volts + drop, beta = conduction(crest, level, phases), wide = widest(phases);
  const double square = beta < narrow ? 2.0 * crest * crest * std::pow(beta, 5) / 15.0
                                      : crest * crest * (0.5 * beta + 0.25 * std::sin(2.0 * beta)) -
                                            2.0 * crest * level * std::sin(beta) + level * level * beta;
  return std::sqrt(std::max(0.0, square) / wide) / resistance;
}
double rectifier_ripple(double crest, double drop, double resistance, double volts, double amps,
                        double capacitance, double frequency, int phases) {
  const double level = volts + drop + resistance * amps, a = conduction(crest, level, phases);
  return 2.0 * (crest * std::sin(a) - level * a) /
         (2.0 * std::numbers::pi * frequency * resistance * capacitance);
}
double ripple_bound(double amps, double frequency, double capacitance, double phases) {
  return amps / (2.0 * phases * frequency * capacitance);
}

double transformer_crest(double rated, double regulation) {
  return std::numbers::sqrt2 * rated * (1.0 + regulation);
}
double transformer_resistance(double rated, double regulation, double amps, double phases) {
  // three phases: line current at line voltage, two windings in the path of the direct current
  const double one = regulation * rated / amps;
  return phases == 3.0 ? 2.0 / std::numbers::sqrt3 * one : one;
}

double stable_power(double volts, double resistance, double inductance, double capacitance, double esr) {
  const double square = volts * volts;
  const double slow = inductance > 0.0 ? square * (resistance + esr) * capacitance /
                                             (inductance + resistance * esr * capacitance)
                                       : std::numeric_limits<double>::infinity();
  const double ripple = esr > 0.0 ? square / esr : std::numeric_limits<double>::infinity();
  return std::min({slow, square / resistance, ripple});
}
double least_resistor(double volts, double amps) { return volts / amps; }
double most_resistor(double volts, double watts) { return volts * volts / watts; }
double capacitance_for(double joules, double from, double to) {
  return 2.0 * joules / (to * to - from * from);
}
double wire_resistance(double length, double area, double temperature) {
  constexpr double copper = 0.0172e-6; // Ω·m at 20 °C
  constexpr double rise = 0.00393;     // a kelvin
  constexpr double room = 293.15;      // K
  return 2.0 * length * copper * (1.0 + rise * (temperature - room)) / area;
}

namespace book {
namespace {
const Parameter power{"P", "P", Kind::power, "constant power drawn"};
const Parameter capacitance{"C", "C", Kind::capacitance, "bus capacitance", range::positive};
const Parameter from{"V_0", "V_0", Kind::voltage, "voltage at first", range::positive};
const Parameter to{"V_1", "V_1", Kind::voltage, "voltage at last", range::positive};
const Parameter rated{"V_r", "V_r", Kind::voltage, "rated voltage of the secondary", range::positive};
const Parameter regulation{"eps", "ε", Kind::share, "rise without load over the rated voltage",
                           range::not_negative};
const Parameter phases{"n", "n", Kind::number, "phases, 1 or 3", {1.0, 3.0}};
} // namespace

const Formula rest_voltage{"bus.rest",
                           "Bus voltage at rest under a power",
                           "V",
                           "({V_s} + √({V_s}² − 4·{R_s}·{P}))/2",
                           Kind::voltage,
                           {{"V_s", "V_s", Kind::voltage, "voltage of the supply", range::positive},
                            {"R_s", "R_s", Kind::resistance, "droop and cable", range::positive},
                            power},
                           "power balance; the upper root is the stable one",
                           calling<&fulmox::rest_voltage>};
const Formula holdup_time{"bus.holdup",
                          "Time the bus holds without supply",
                          "t",
                          "{C}·({V_0}² − {V_1}²)/(2·{P})",
                          Kind::time,
                          {capacitance, from, to, power},
                          "energy of a capacitor",
                          calling<&fulmox::holdup_time>};
const Formula discharge_time{
    "bus.discharge",
    "Time the bus stays charged",
    "t",
    "{R}·{C}·ln({V_0}/{V_1})",
    Kind::time,
    {capacitance, {"R", "R", Kind::resistance, "bleeder across the bus", range::positive}, from, to},
    "discharge of a capacitor into a resistor",
    calling<&fulmox::discharge_time>};
const Formula transformer_crest{"supply.crest",
                                "Crest of a transformer without load",
                                "V_pk",
                                "√2·{V_r}·(1 + {eps})",
                                Kind::voltage,
                                {rated, regulation},
                                "crest of a sine",
                                calling<&fulmox::transformer_crest>};
const Formula transformer_resistance{
    "supply.winding",
    "Resistance behind the rectifier",
    "R_s",
    "{eps}·{V_r}/{I_r}; three phases 2/√3 of it",
    Kind::resistance,
    {rated,
     regulation,
     {"I_r", "I_r", Kind::current, "rated current of the secondary", range::positive},
     phases},
    "regulation of a transformer",
    calling<&fulmox::transformer_resistance>};
const Formula ripple_bound{"supply.ripple_bound",
                           "Ripple, at most",
                           "ΔV",
                           "{I}/(2·{n}·{f}·{C})",
                           Kind::voltage,
                           {{"I", "I", Kind::current, "direct current", range::not_negative},
                            {"f", "f", Kind::frequency, "mains frequency", range::positive},
                            capacitance,
                            phases},
                           "the capacitor alone carries the current from pulse to pulse: an upper bound",
                           calling<&fulmox::ripple_bound>};
const Formula least_resistor{"resistor.least",
                             "Least brake resistor",
                             "R_min",
                             "{V}/{I}",
                             Kind::resistance,
                             {{"V", "V", Kind::voltage, "highest voltage it is switched at", range::positive},
                              {"I", "I", Kind::current, "chopper current", range::positive}},
                             "Ohm's law",
                             calling<&fulmox::least_resistor>};
const Formula most_resistor{"resistor.most",
                            "Largest brake resistor that keeps the bus below its trip",
                            "R_max",
                            "{V}²/{P}",
                            Kind::resistance,
                            {{"V", "V", Kind::voltage, "trip", range::positive},
                             {"P", "P", Kind::power, "greatest power that comes back", range::positive}},
                            "power of a resistor",
                            calling<&fulmox::most_resistor>};
const Formula capacitance_for{
    "bus.capacitance",
    "Capacitance that takes an energy",
    "C",
    "2·{W}/({V_1}² − {V_0}²)",
    Kind::capacitance,
    {{"W", "W", Kind::energy, "energy that comes back", range::not_negative}, from, to},
    "energy of a capacitor",
    calling<&fulmox::capacitance_for>};
const Formula stable_power{"bus.stability",
                           "Constant power at which a bus becomes unstable",
                           "P",
                           "min({V}²·({R} + {r})·{C}/({L} + {R}·{r}·{C}), {V}²/{R}, {V}²/{r})",
                           Kind::power,
                           {{"V", "V", Kind::voltage, "bus voltage under load", range::positive},
                            {"R", "R", Kind::resistance, "of the source and its cable", range::positive},
                            {"L", "L", Kind::inductance, "of the source and its cable", range::not_negative},
                            capacitance,
                            {"r", "r", Kind::resistance, "of the capacitor", range::not_negative}},
                           "small signals: the load's resistance −V²/P against source and capacitor",
                           calling<&fulmox::stable_power>};
} // namespace book

std::span<const Formula* const> bus_formulas() {
  static const std::array list{
      &book::rest_voltage,           &book::holdup_time,  &book::discharge_time, &book::transformer_crest,
      &book::transformer_resistance, &book::ripple_bound, &book::least_resistor, &book::most_resistor,
      &book::capacitance_for,        &book::stable_power};
  return list;
}

} // namespace fulmox
