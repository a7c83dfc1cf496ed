#include "core/motor/block_heat.hpp"

#include <cmath>

namespace fulmox {
namespace {

/// Heating over torque-making current where the phases' currents overlap; x = ω_e·L/R, z = p·L·I/Kt. A curve
/// through currents stepped in time with ideal diodes (2880 steps a turn), −1 to +5 % of them.
double overlap(double x, double z) {
  if (!(x > 0.0 && z > 0.0)) return 1.0;
  const double most = 0.9 / (1.0 + 3.5 / x + 30.0 / (x * x * x));
  return 1.0 + most / (1.0 + (1.0 + 1.6 / x) / z + (2.5 + 28.0 / x) / (z * z * z));
}

/// Currents that the arcs of a sine drive without torque, as R·I over the mean back-EMF: the rms of 60° of a
/// sine around its mean, and what inductance leaves of it.
double circulating(double x, bool flat) { return flat ? 0.0 : 0.0417 / std::hypot(1.0, 6.2 * x); }

double book_heat(double kt, double resistance, double inductance, double pole_pairs, double speed,
                 double current, double flat) {
  return block_heat_current({kt, resistance, inductance, pole_pairs, flat != 0.0}, speed, current);
}

} // namespace

double block_heat_current(const BlockMachine& m, double speed, double current) {
  const double x = m.pole_pairs * speed * m.inductance / m.resistance;
  const double driven = overlap(x, m.pole_pairs * m.inductance * current / m.kt) * current;
  return std::hypot(driven, circulating(x, m.flat) * m.kt * speed / m.resistance);
}

namespace book {
const Formula block_heat_current{
    "motor.block_heat_current",
    "Current that heats like the phases'",
    "I",
    "√((F(x, z)·{I})² + (c(x)·{Kt}·{omega}/{R})²); x = {p}·{omega}·{L}/{R}, z = {p}·{L}·{I}/{Kt}",
    Kind::current,
    {{"Kt", "Kt", Kind::torque_constant, "torque per commutated ampere", range::positive},
     {"R", "R_ll", Kind::resistance, "line-line resistance", range::positive},
     {"L", "L_ll", Kind::inductance, "line-line inductance", range::not_negative},
     {"p", "p", Kind::number, "pole pairs", {1.0, 100.0}},
     {"omega", "ω", Kind::angular_speed, "mechanical speed", range::not_negative},
     {"I", "I", Kind::current, "commutated current", range::not_negative},
     {"flat", "flat", Kind::number, "1 for a flat back-EMF, 0 for a sine", {0.0, 1.0}}},
    "steady currents of the voltage-fed machine, stepped in time with ideal diodes",
    calling<&book_heat>};
} // namespace book

} // namespace fulmox
