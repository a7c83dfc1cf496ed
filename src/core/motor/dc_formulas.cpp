#include "core/motor/dc_formulas.hpp"

#include "core/motor/constants.hpp"
#include "core/motor/envelope.hpp"

#include <algorithm>
#include <array>
#include <cmath>
#include <numbers>

namespace fulmox {

double dc_current(double air_gap_torque, double kt) { return std::abs(air_gap_torque) / kt; }

double dc_volts(double kt, double resistance, double brush_drop, double speed, double current) {
  const double sense = (current > 0.0) - (current < 0.0);
  return kt * speed + resistance * current + sense * brush_drop;
}

double dc_torque_at(double kt, double resistance, double brush_drop, double speed, double volts) {
  return kt * std::max(0.0, volts - brush_drop - kt * speed) / resistance;
}

double dc_top_speed(double volts, double brush_drop, double kt) {
  return std::max(0.0, volts - brush_drop) / kt;
}

double dc_motor_constant(double kt, double resistance) { return kt / std::sqrt(resistance); }

double dc_continuous_torque(double kt, double resistance_20, double limit_temperature, double ambient,
                            double r_winding_case, double r_case_ambient, double hysteresis, double eddy,
                            double speed) {
  // the loss of three-phase currents is 1.5·R·I², here it is R·I²
  return continuous_torque(kt, resistance_20 / 1.5, limit_temperature, ambient, r_winding_case,
                           r_case_ambient, hysteresis, eddy, speed);
}

double kt_flat(double ke_line_peak) { return ke_line_peak; }
double kt_blocks_on_sine(double ke_line_peak) { return 3.0 / std::numbers::pi * ke_line_peak; }
double kt_blocks_from_rms(double kt_rms) { return kt_blocks_on_sine(ke_from_kt(kt_rms)); }
// over half a turn the line-line EMF rises for 60°, stays for 60°, falls for 60°: mean square (1/3 + 2/9)
double ke_flat_from_line_rms(double ke_line_rms) { return ke_line_rms / std::sqrt(5.0 / 9.0); }

namespace {
double same(double value) { return value; }
} // namespace

namespace book {
namespace {
const Parameter kt{"Kt", "Kt", Kind::torque_constant, "torque per ampere of direct current", range::positive};
const Parameter ke{"Ke", "Ke(ll,pk)", Kind::emf_constant, "line-line peak back-EMF constant",
                   range::positive};
const Parameter resistance{"R", "R", Kind::resistance, "resistance between the leads", range::positive};
const Parameter drop{"V_b", "V_b", Kind::voltage, "drop across the brushes", range::not_negative};
const Parameter speed{"omega", "ω", Kind::angular_speed, "mechanical speed", range::not_negative};
const Parameter volts{"V", "V", Kind::voltage, "volts between the leads", range::not_negative};
constexpr std::string_view circuit = "voltage balance of the winding";
constexpr std::string_view blocks = "two phases in series carry the current for 120° each";
} // namespace

const Formula dc_current{"motor.dc_current",
                         "Current for a torque",
                         "I",
                         "|{T}|/{Kt}",
                         Kind::current,
                         {{"T", "T_g", Kind::torque, "air-gap torque"}, kt},
                         "definition of Kt",
                         calling<&fulmox::dc_current>};
const Formula dc_volts{"motor.dc_volts",
                       "Volts needed between the leads",
                       "V",
                       "{Kt}·{omega} + {R}·{I} + {V_b}·sgn({I})",
                       Kind::voltage,
                       {kt, resistance, drop, speed, {"I", "I", Kind::current, "negative while braking"}},
                       circuit,
                       calling<&fulmox::dc_volts>};
const Formula dc_torque_at{"motor.dc_torque_at",
                           "Air-gap torque the voltage leaves",
                           "T_V",
                           "{Kt}·({V} − {V_b} − {Kt}·{omega})/{R}",
                           Kind::torque,
                           {kt, resistance, drop, speed, volts},
                           circuit,
                           calling<&fulmox::dc_torque_at>};
const Formula dc_top_speed{"motor.dc_top_speed",
                           "Speed at which back-EMF uses up the voltage",
                           "ω_0",
                           "({V} − {V_b})/{Kt}",
                           Kind::angular_speed,
                           {volts, drop, kt},
                           circuit,
                           calling<&fulmox::dc_top_speed>};
const Formula dc_motor_constant{"motor.dc_constant",
                                "Motor constant",
                                "Km",
                                "{Kt}/√{R}",
                                Kind::motor_constant,
                                {kt, resistance},
                                "torque over the root of the copper loss R·I²",
                                calling<&fulmox::dc_motor_constant>};
const Formula dc_continuous{
    "envelope.dc_continuous",
    "Continuous torque of the heat path",
    "T_c",
    "{Kt}·√(({T_lim} − {T_amb} − P_Fe·{R_ca})/(({R_wc} + {R_ca})·{R20}·(1 + 0.00393·({T_lim} − 20 °C)))) − "
    "({k_h} + {k_e}·{omega})",
    Kind::torque,
    {kt,
     {"R20", "R20", Kind::resistance, "resistance between the leads at 20 °C", range::positive},
     {"T_lim", "T_lim", Kind::temperature, "limit of the winding", range::positive},
     {"T_amb", "T_amb", Kind::temperature, "ambient temperature", range::positive},
     {"R_wc", "R_wc", Kind::thermal_resistance, "winding to case", range::not_negative},
     {"R_ca", "R_ca", Kind::thermal_resistance, "case to ambient", range::positive},
     {"k_h", "k_h", Kind::torque, "hysteresis torque", range::not_negative},
     {"k_e", "k_e", Kind::iron_viscous, "eddy-current torque per speed", range::not_negative},
     speed},
    "two-node heat path; P_Fe = k_h·ω + k_e·ω²",
    calling<&fulmox::dc_continuous_torque>};
const Formula kt_flat{"motor.kt_flat", "Torque per commutated ampere", "Kt",
                      "{Ke}",          Kind::torque_constant,          {ke},
                      blocks,          calling<&fulmox::kt_flat>};
const Formula kt_blocks_on_sine{"motor.kt_blocks_on_sine",
                                "Torque per commutated ampere",
                                "Kt",
                                "3/π·{Ke}",
                                Kind::torque_constant,
                                {ke},
                                "mean of a sine over the 60° around its crest",
                                calling<&fulmox::kt_blocks_on_sine>};
const Formula kt_blocks_from_rms{
    "motor.kt_blocks_from_rms",
    "Torque per commutated ampere",
    "Kt",
    "3/π·{Kt}/√(3/2)",
    Kind::torque_constant,
    {{"Kt", "Kt(rms)", Kind::torque_constant, "torque per rms ampere of sine currents", range::positive}},
    "the same sine back-EMF fed with blocks",
    calling<&fulmox::kt_blocks_from_rms>};
const Formula kt_dc_as_given{"motor.kt_dc",
                             "Torque per ampere of direct current",
                             "Kt",
                             "{Kt}",
                             Kind::torque_constant,
                             {kt},
                             "as given",
                             calling<&fulmox::same>};
const Formula ke_flat_from_line_rms{
    "motor.ke_flat_from_line_rms",
    "Back-EMF constant, line-line peak",
    "Ke(ll,pk)",
    "{Ke}/√(5/9)",
    Kind::emf_constant,
    {{"Ke", "Ke(ll,rms)", Kind::emf_constant, "line-line rms, flat back-EMF", range::positive}},
    "mean square of a wave that rises, stays and falls for 60° each",
    calling<&fulmox::ke_flat_from_line_rms>};
} // namespace book

std::span<const Formula* const> dc_formulas() {
  static const std::array list{&book::dc_current,
                               &book::dc_volts,
                               &book::dc_torque_at,
                               &book::dc_top_speed,
                               &book::dc_motor_constant,
                               &book::dc_continuous,
                               &book::kt_flat,
                               &book::kt_blocks_on_sine,
                               &book::kt_blocks_from_rms,
                               &book::kt_dc_as_given,
                               &book::ke_flat_from_line_rms};
  return list;
}

} // namespace fulmox
