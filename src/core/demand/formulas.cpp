#include "core/demand/demand.hpp"

#include <array>
#include <cmath>
#include <numeric>

namespace fulmox {

double rms_of(std::span<const double> time_then_integrals) {
  const auto integrals = time_then_integrals.subspan(1);
  return std::sqrt(std::accumulate(integrals.begin(), integrals.end(), 0.0) / time_then_integrals[0]);
}

double square_quadrature(std::span<const double> length_then_torques) {
  const auto rule = gauss_rule(length_then_torques.size() - 1);
  double sum = 0.0;
  for (std::size_t k = 0; k < rule.size(); ++k)
    sum += 0.5 * rule[k].weight * length_then_torques[k + 1] * length_then_torques[k + 1];
  return sum * length_then_torques[0];
}

double square_integral(double start, double end, double duration) {
  return duration * (start * start + start * end + end * end) / 3.0;
}

namespace {
double magnitude(double value) { return std::abs(value); }
double per_time(double integral, double time) { return integral / time; }
double rms_from(double integral, double time) { return std::sqrt(integral / time); }
double quotient(double load, double rotor) { return load / rotor; }
double same(double value) { return value; }
} // namespace

namespace book {
namespace {
const Parameter cycle_time{"t", "t_c", Kind::time, "cycle time, dwells included", range::positive};
}
const Formula peak_value{"demand.peak",
                         "Peak torque",
                         "T_pk",
                         "max |{T}|",
                         Kind::torque,
                         {{"T", "T", Kind::torque, "torque at that moment"}},
                         "greatest magnitude over the cycle",
                         calling<&magnitude>};
const Formula peak_speed{"demand.max_speed",
                         "Greatest motor speed",
                         "n_max",
                         "max |{n}|",
                         Kind::angular_speed,
                         {{"n", "n", Kind::angular_speed, "speed at that moment"}},
                         "greatest magnitude over the cycle",
                         calling<&magnitude>};
const Formula rms_torque{
    "demand.rms",
    "Rms torque",
    "T_rms",
    "√({Q}/{t})",
    Kind::torque,
    {cycle_time,
     {"Q", "Σ∫T²dt", Kind::torque_squared_time, "squared torque over each span", range::not_negative}},
    "equal copper loss over the cycle",
    &rms_of,
    true};
const Formula rms_current{
    "drive.rms_current",
    "Rms line current",
    "I_rms",
    "√({Q}/{t})",
    Kind::current,
    {{"Q", "∫I²dt", Kind::current_squared_time, "squared current over the cycle", range::not_negative},
     cycle_time},
    "equal copper loss over the cycle",
    calling<&rms_from>};
const Formula square_integral{"demand.square_integral",
                              "Squared torque over a span",
                              "∫T²dt",
                              "{t}·({T1}² + {T1}·{T2} + {T2}²)/3",
                              Kind::torque_squared_time,
                              {{"T1", "T1", Kind::torque, "torque at the start"},
                               {"T2", "T2", Kind::torque, "torque at the end"},
                               {"t", "t", Kind::time, "duration", range::not_negative}},
                              "exact integral of a straight line squared",
                              calling<&fulmox::square_integral>};
const Formula square_quadrature{"demand.square_quadrature",
                                "Squared torque over a span",
                                "∫T²dt",
                                "{t}·Σ w_k·T_k² with T_k = {T}",
                                Kind::torque_squared_time,
                                {{"t", "t", Kind::time, "length of the span", range::not_negative},
                                 {"T", "T_k", Kind::torque, "torque at the Gauss points of the span"}},
                                "Gauss–Legendre quadrature: n points are exact to the degree 2n − 1",
                                &fulmox::square_quadrature,
                                true};
const Formula mean_speed{
    "demand.mean_speed",
    "Mean motor speed",
    "n_m",
    "{q}/{t}",
    Kind::angular_speed,
    {{"q", "∫|n|dt", Kind::angle, "turns without sign", range::not_negative}, cycle_time},
    "mean over the cycle",
    calling<&per_time>};
const Formula rms_speed{
    "demand.rms_speed",
    "Rms motor speed",
    "n_rms",
    "√({q}/{t})",
    Kind::angular_speed,
    {{"q", "∫n²dt", Kind::number, "squared speed over the cycle, rad²/s", range::not_negative}, cycle_time},
    "rms over the cycle",
    calling<&rms_from>};
const Formula inertia_ratio{
    "demand.ratio",
    "Inertia ratio",
    "J_L/J_m",
    "{J_L}/{J_m}",
    Kind::number,
    {{"J_L", "J_L", Kind::inertia, "everything but the rotor, at the motor", range::not_negative},
     {"J_m", "J_m", Kind::inertia, "rotor with brake", range::positive}},
    "definition",
    calling<&quotient>};
const Formula energy_sum{"demand.energy",
                         "Energy over the cycle",
                         "E",
                         "{E}",
                         Kind::energy,
                         {{"E", "∫T·ω dt", Kind::energy, "mechanical work at the shaft"}},
                         "work of the shaft torque",
                         calling<&same>};
const Formula mean_power{
    "supply.mean_power",
    "Mean power drawn",
    "P_m",
    "{E}/{t}",
    Kind::power,
    {{"E", "E_in", Kind::energy, "energy drawn from the bus", range::not_negative}, cycle_time},
    "power balance; what is returned counts as lost, as in a brake resistor",
    calling<&per_time>};
const Formula net_power{
    "supply.net_power",
    "Mean power, returns used again",
    "P_n",
    "({E} − {E_ret})/{t}",
    Kind::power,
    {{"E", "E_in", Kind::energy, "energy drawn from the bus", range::not_negative},
     {"E_ret", "E_ret", Kind::energy, "energy returned to the bus", range::not_negative},
     cycle_time},
    "power balance; what is returned is stored and drawn again",
    calling<+[](double drawn, double returned, double time) { return (drawn - returned) / time; }>};
const Formula peak_power{"supply.peak_power",
                         "Peak bus power",
                         "P_pk",
                         "{P_m} + {P_cu} + {P_fe} + {P_d}",
                         Kind::power,
                         {{"P_m", "T·ω", Kind::power, "mechanical power"},
                          {"P_cu", "P_cu", Kind::power, "copper loss, warm winding"},
                          {"P_fe", "P_Fe", Kind::power, "friction and iron loss"},
                          {"P_d", "P_d", Kind::power, "drive loss"}},
                         "power balance",
                         calling<+[](double a, double b, double c, double d) { return a + b + c + d; }>};
const Formula returned_energy{
    "supply.returned", "Energy returned to the bus",
    "E_ret",           "{E}",
    Kind::energy,      {{"E", "∫P<0 dt", Kind::energy, "bus power while negative", range::not_negative}},
    "power balance",   calling<&same>};
} // namespace book

std::span<const Formula* const> demand_formulas() {
  static const std::array list{&book::peak_value,      &book::peak_speed,        &book::rms_torque,
                               &book::square_integral, &book::square_quadrature, &book::mean_speed,
                               &book::rms_speed,       &book::inertia_ratio,     &book::energy_sum,
                               &book::rms_current,     &book::mean_power,        &book::peak_power,
                               &book::net_power,       &book::returned_energy};
  return list;
}

} // namespace fulmox
