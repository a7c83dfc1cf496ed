#include "core/motor/constants.hpp"

#include "core/quantity/constants.hpp"

#include <array>
#include <cmath>
#include <numbers>

namespace fulmox {

using std::numbers::pi;
using std::numbers::sqrt2;
using std::numbers::sqrt3;

double ke_from_line_rms(double ke) { return sqrt2 * ke; }
double ke_from_phase_rms(double ke) { return sqrt3 * sqrt2 * ke; }
double ke_from_phase_peak(double ke) { return sqrt3 * ke; }
double ke_from_kt(double kt_rms) { return kt_rms / std::sqrt(1.5); }
double kt_from_ke(double ke_line_peak) { return std::sqrt(1.5) * ke_line_peak; }
double kt_from_peak(double kt_peak) { return sqrt2 * kt_peak; }
double kt_from_dc(double kt_dc) { return pi / 3.0 * std::sqrt(1.5) * kt_dc; }
double line_from_wye(double phase) { return 2.0 * phase; }
double line_from_delta(double phase) { return 2.0 / 3.0 * phase; }
double magnet_factor(double per_kelvin, double temperature) {
  return 1.0 + per_kelvin * (temperature - constants::zero_celsius - 20.0);
}
double usual_magnet_temperature(double winding_limit, double ambient) {
  return ambient + 0.6 * (winding_limit - ambient);
}
double warm_resistance(double resistance_20, double temperature) {
  return resistance_20 *
         (1.0 + constants::copper_temperature_coefficient * (temperature - constants::copper_reference));
}
double copper_loss(double current_rms, double resistance_line) {
  return 1.5 * current_rms * current_rms * resistance_line;
}
double motor_constant(double kt_rms, double resistance_line) {
  return kt_rms / std::sqrt(1.5 * resistance_line);
}
double torque_current(double torque, double kt_rms) { return std::abs(torque) / kt_rms; }
double air_gap_for(double shaft_torque, double direction, double drag) {
  return shaft_torque + direction * drag;
}
double saturated_current(double air_gap, double kt_rms, double rated_current, double peak_current,
                         double peak_air_gap) {
  const double rated = kt_rms * rated_current;
  return rated_current +
         (std::abs(air_gap) - rated) * (peak_current - rated_current) / (peak_air_gap - rated);
}

namespace {
double same(double value) { return value; }
} // namespace

namespace {
double scaled_kt(double kt, double factor) { return kt * factor; }
double scaled_torque(double torque, double factor) { return torque * factor; }
} // namespace

namespace book {
namespace {
constexpr std::string_view theory = "theory of the sinusoidal permanent-magnet machine";
constexpr std::string_view network = "equivalence of wye and delta networks";
const Parameter ke_ll{"Ke", "Ke", Kind::emf_constant, "back-EMF constant as given", range::positive};
const Parameter kt{"Kt", "Kt", Kind::torque_constant, "torque constant as given", range::positive};
const Parameter r_phase{"R", "R_ph", Kind::resistance, "resistance of one phase", range::positive};
const Parameter l_phase{"L", "L_ph", Kind::inductance, "inductance of one phase", range::positive};
const Parameter r_line{"R", "R_ll", Kind::resistance, "resistance between two leads", range::positive};

Formula ke_formula(std::string_view id, std::string_view title, std::string_view expression,
                   double (*f)(std::span<const double>)) {
  return {id, title, "Ke(ll,pk)", expression, Kind::emf_constant, {ke_ll}, theory, f};
}
Formula kt_formula(std::string_view id, std::string_view title, std::string_view expression,
                   double (*f)(std::span<const double>)) {
  return {id, title, "Kt(rms)", expression, Kind::torque_constant, {kt}, theory, f};
}
} // namespace

const Formula ke_from_line_rms = ke_formula("motor.ke_from_line_rms", "Back-EMF constant from line-line rms",
                                            "√2·{Ke}", calling<&fulmox::ke_from_line_rms>);
const Formula ke_from_line_peak =
    ke_formula("motor.ke_from_line_peak", "Back-EMF constant, line-line peak", "{Ke}", calling<&same>);
const Formula ke_from_phase_rms =
    ke_formula("motor.ke_from_phase_rms", "Back-EMF constant from phase rms (wye)", "√6·{Ke}",
               calling<&fulmox::ke_from_phase_rms>);
const Formula ke_from_phase_peak =
    ke_formula("motor.ke_from_phase_peak", "Back-EMF constant from phase peak (wye)", "√3·{Ke}",
               calling<&fulmox::ke_from_phase_peak>);
const Formula ke_from_kt{
    "motor.ke_from_kt",
    "Back-EMF constant from the torque constant",
    "Ke(ll,pk)",
    "{Kt}/√(3/2)",
    Kind::emf_constant,
    {{"Kt", "Kt(rms)", Kind::torque_constant, "torque per rms line ampere", range::positive}},
    theory,
    calling<&fulmox::ke_from_kt>};
const Formula kt_from_ke{
    "motor.kt_from_ke",
    "Torque constant from the back-EMF constant",
    "Kt(rms)",
    "√(3/2)·{Ke}",
    Kind::torque_constant,
    {{"Ke", "Ke(ll,pk)", Kind::emf_constant, "line-line peak back-EMF constant", range::positive}},
    theory,
    calling<&fulmox::kt_from_ke>};
const Formula kt_as_rms =
    kt_formula("motor.kt_as_rms", "Torque constant per rms ampere", "{Kt}", calling<&same>);
const Formula kt_from_peak = kt_formula("motor.kt_from_peak", "Torque constant from per peak ampere",
                                        "√2·{Kt}", calling<&fulmox::kt_from_peak>);
const Formula kt_from_dc =
    kt_formula("motor.kt_from_dc", "Torque constant from per DC ampere (six-step, sine EMF)",
               "(π/3)·√(3/2)·{Kt}", calling<&fulmox::kt_from_dc>);
const Formula resistance_as_line{
    "motor.resistance_line", "Terminal resistance", "R_ll", "{R}", Kind::resistance, {r_line}, network,
    calling<&same>};
const Formula resistance_from_wye{"motor.resistance_from_wye",
                                  "Terminal resistance of a wye",
                                  "R_ll",
                                  "2·{R}",
                                  Kind::resistance,
                                  {r_phase},
                                  network,
                                  calling<&fulmox::line_from_wye>};
const Formula resistance_from_delta{"motor.resistance_from_delta",
                                    "Terminal resistance of a delta",
                                    "R_ll",
                                    "(2/3)·{R}",
                                    Kind::resistance,
                                    {r_phase},
                                    network,
                                    calling<&fulmox::line_from_delta>};
const Formula inductance_as_line{
    "motor.inductance_line",
    "Terminal inductance",
    "L_ll",
    "{L}",
    Kind::inductance,
    {{"L", "L_ll", Kind::inductance, "inductance between two leads", range::positive}},
    network,
    calling<&same>};
const Formula inductance_from_wye{"motor.inductance_from_wye",
                                  "Terminal inductance of a wye",
                                  "L_ll",
                                  "2·{L}",
                                  Kind::inductance,
                                  {l_phase},
                                  network,
                                  calling<&fulmox::line_from_wye>};
const Formula inductance_from_delta{"motor.inductance_from_delta",
                                    "Terminal inductance of a delta",
                                    "L_ll",
                                    "(2/3)·{L}",
                                    Kind::inductance,
                                    {l_phase},
                                    network,
                                    calling<&fulmox::line_from_delta>};
const Formula warm_resistance{"motor.warm_resistance",
                              "Resistance of the warm winding",
                              "R",
                              "{R20}·(1 + 0.00393/K·({T} − 20 °C))",
                              Kind::resistance,
                              {{"R20", "R20", Kind::resistance, "resistance at 20 °C", range::positive},
                               {"T", "T", Kind::temperature, "winding temperature", range::not_negative}},
                              "IEC 60028, copper",
                              calling<&fulmox::warm_resistance>};
const Formula magnet_factor{"motor.magnet_factor",
                            "What hot magnets leave",
                            "f_m",
                            "1 + {beta}·({T} − 20 °C)",
                            Kind::number,
                            {{"beta", "β", Kind::number, "change per kelvin", {-0.01, 0.0}},
                             {"T", "T_m", Kind::temperature, "magnet temperature", range::positive}},
                            "common practice: NdFeB −0.12 %/K, SmCo −0.03 %/K, ferrite −0.20 %/K",
                            calling<&fulmox::magnet_factor>};
const Formula kt_hot{"motor.kt_hot",
                     "Torque constant with hot magnets",
                     "Kt",
                     "{Kt}·{f}",
                     Kind::torque_constant,
                     {{"Kt", "Kt(20 °C)", Kind::torque_constant, "magnets at 20 °C", range::positive},
                      {"f", "f_m", Kind::number, "what hot magnets leave", {0.0, 2.0}}},
                     "flux of the magnets",
                     calling<&scaled_kt>};
const Formula hot_torque{
    "motor.hot_torque",
    "Torque with hot magnets",
    "T_g",
    "{T}·{f}",
    Kind::torque,
    {{"T", "T(20 °C)", Kind::torque, "with the back-EMF of cold magnets, which takes most volts"},
     {"f", "f_m", Kind::number, "what hot magnets leave", {0.0, 2.0}}},
    "flux of the magnets",
    calling<&scaled_torque>};
const Formula copper_loss{"motor.copper_loss",
                          "Copper loss",
                          "P_cu",
                          "1.5·{I}²·{R}",
                          Kind::power,
                          {{"I", "I", Kind::current, "rms line current"}, r_line},
                          theory,
                          calling<&fulmox::copper_loss>};
const Formula motor_constant{
    "motor.constant",
    "Motor constant",
    "Km",
    "{Kt}/√(1.5·{R})",
    Kind::motor_constant,
    {{"Kt", "Kt(rms)", Kind::torque_constant, "torque per rms line ampere", range::positive}, r_line},
    theory,
    calling<&fulmox::motor_constant>};
const Formula air_gap_for{
    "motor.air_gap_for",
    "Torque in the air gap",
    "T_g",
    "{T} + {s}·{T_d}",
    Kind::torque,
    {{"T", "T", Kind::torque, "torque at the shaft"},
     {"s", "s", Kind::number, "direction of rotation; at rest against the help of drag", {-1.0, 1.0}},
     {"T_d", "T_d", Kind::torque, "friction and iron drag of the motor", range::not_negative}},
    "equilibrium of the rotor",
    calling<&fulmox::air_gap_for>};
const Formula saturated_current{
    "motor.saturated_current",
    "Line current above the rated point",
    "I",
    "{I_r} + (|{T}| − {Kt}·{I_r})·({I_pk} − {I_r})/({T_pk} − {Kt}·{I_r})",
    Kind::current,
    {{"T", "T_g", Kind::torque, "torque in the air gap"},
     {"Kt", "Kt(rms)", Kind::torque_constant, "torque per rms ampere", range::positive},
     {"I_r", "I_r", Kind::current, "rated current", range::positive},
     {"I_pk", "I_pk", Kind::current, "current of the maker's peak point", range::positive},
     {"T_pk", "T_pk", Kind::torque, "air-gap torque of the maker's peak point", range::positive}},
    "straight line through the maker's rated and peak point: the torque constant falls at high current",
    calling<&fulmox::saturated_current>};
const Formula torque_current{
    "drive.current",
    "Line current",
    "I",
    "|{T}|/{Kt}",
    Kind::current,
    {{"T", "T", Kind::torque, "shaft torque with the motor's drag"},
     {"Kt", "Kt(rms)", Kind::torque_constant, "torque per rms ampere", range::positive}},
    "definition of the torque constant",
    calling<&fulmox::torque_current>};
} // namespace book

std::span<const Formula* const> motor_constant_formulas() {
  static const std::array list{
      &book::ke_from_line_rms,   &book::ke_from_line_peak,   &book::ke_from_phase_rms,
      &book::ke_from_phase_peak, &book::ke_from_kt,          &book::kt_from_ke,
      &book::kt_as_rms,          &book::kt_from_peak,        &book::kt_from_dc,
      &book::resistance_as_line, &book::resistance_from_wye, &book::resistance_from_delta,
      &book::inductance_as_line, &book::inductance_from_wye, &book::inductance_from_delta,
      &book::warm_resistance,    &book::magnet_factor,       &book::kt_hot,
      &book::hot_torque,         &book::copper_loss,         &book::motor_constant,
      &book::air_gap_for,        &book::saturated_current,   &book::torque_current};
  return list;
}

} // namespace fulmox
