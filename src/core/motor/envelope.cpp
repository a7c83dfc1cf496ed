#include "core/motor/envelope.hpp"

#include "core/motor/constants.hpp"
#include "core/motor/dq_parameters.hpp"

#include <algorithm>
#include <array>
#include <cmath>
#include <numbers>

namespace fulmox {
namespace {

/// All voltage-limited currents lie in a circle around (centre_d, centre_q) in the d-q plane.
struct VoltageCircle {
  double d, q, radius;
};

VoltageCircle voltage_circle(const SineMachine& m, double speed, double voltage) {
  const double x = m.pole_pairs * speed * m.inductance;
  const double z2 = m.resistance * m.resistance + x * x;
  const double emf = m.k * speed;
  return {-x * emf / z2, -m.resistance * emf / z2, voltage / std::sqrt(z2)};
}

/// i_q extreme on the line i_d = 0.
double without_weakening(const VoltageCircle& circle, double limit, bool braking) {
  const double reach2 = circle.radius * circle.radius - circle.d * circle.d;
  if (reach2 < 0.0) return 0.0;
  const double reach = std::sqrt(reach2);
  const double low = std::max(circle.q - reach, -limit);
  const double high = std::min(circle.q + reach, limit);
  if (low > high) return 0.0;
  return braking ? std::min(low, 0.0) : std::max(high, 0.0);
}

/// i_q extreme over the lens of current and voltage circle, i_d <= 0.
DqCurrent with_weakening(const VoltageCircle& circle, double limit, double sense) {
  const auto inside_voltage = [&](DqCurrent i) {
    return std::hypot(i.d - circle.d, i.q - circle.q) <= circle.radius * (1.0 + 1e-12);
  };
  // current limit alone
  const DqCurrent straight{0.0, sense * limit};
  if (inside_voltage(straight)) return straight;

  DqCurrent best{0.0, 0.0};
  bool found = false;
  const auto consider = [&](DqCurrent i) {
    if (i.d > 0.0 || std::hypot(i.d, i.q) > limit * (1.0 + 1e-12) || !inside_voltage(i)) return;
    if (!found || sense * i.q > sense * best.q) best = i;
    found = true;
  };
  consider({circle.d, circle.q + sense * circle.radius}); // top of the voltage circle
  consider({0.0, without_weakening(circle, limit, sense < 0.0)});
  // where the circles cross
  const double distance = std::hypot(circle.d, circle.q);
  if (distance > 0.0) {
    const double along =
        (limit * limit - circle.radius * circle.radius + distance * distance) / (2.0 * distance);
    const double across2 = limit * limit - along * along;
    if (across2 >= 0.0) {
      const double across = std::sqrt(across2);
      const double ud = circle.d / distance;
      const double uq = circle.q / distance;
      consider({along * ud - across * uq, along * uq + across * ud});
      consider({along * ud + across * uq, along * uq - across * ud});
    }
  }
  if (!found || sense * best.q < 0.0) return {0.0, 0.0};
  return best;
}

} // namespace

DqCurrent best_current(const SineMachine& machine, double speed, double voltage, double limit, bool weakening,
                       bool braking) {
  const VoltageCircle circle = voltage_circle(machine, std::abs(speed), voltage);
  if (!weakening) return {0.0, without_weakening(circle, limit, braking)};
  return with_weakening(circle, limit, braking ? -1.0 : 1.0);
}

double voltage_room(const SineMachine& m, double current_q, double speed, double voltage) {
  const double needed = phase_voltage(m.k, m.resistance, m.inductance, m.pole_pairs, speed, current_q);
  return voltage * voltage - needed * needed;
}

DqCurrent least_current(const SineMachine& machine, double current_q, double speed, double voltage) {
  const double n = std::abs(speed);
  if (!(voltage > 0.0) || voltage_room(machine, current_q, n, voltage) >= 0.0) return {0.0, current_q};
  const VoltageCircle circle = voltage_circle(machine, n, voltage);
  const double across = current_q - circle.q, reach2 = circle.radius * circle.radius - across * across;
  return {std::min(0.0, circle.d + std::sqrt(std::max(0.0, reach2))), current_q};
}

double phase_voltage(double k, double resistance, double inductance, double pole_pairs, double speed,
                     double current_q) {
  const double across = pole_pairs * speed * inductance * current_q,
               along = resistance * current_q + k * speed;
  return std::sqrt(across * across + along * along); // volts: far from where hypot would be needed
}

double air_gap_torque(double k, double current_q) { return 1.5 * k * current_q; }
double base_speed(double voltage, double k) { return voltage / k; }

double heat_current(double resistance_20, double limit_temperature, double ambient, double r_winding_case,
                    double r_case_ambient, double hysteresis, double eddy, double speed) {
  const double iron = (hysteresis + eddy * speed) * speed;
  const double copper =
      (limit_temperature - ambient - iron * r_case_ambient) / (r_winding_case + r_case_ambient);
  return std::sqrt(std::max(0.0, copper) / (1.5 * warm_resistance(resistance_20, limit_temperature)));
}

double continuous_torque(double kt_rms, double resistance_20, double limit_temperature, double ambient,
                         double r_winding_case, double r_case_ambient, double hysteresis, double eddy,
                         double speed) {
  const double current = heat_current(resistance_20, limit_temperature, ambient, r_winding_case,
                                      r_case_ambient, hysteresis, eddy, speed);
  return std::max(0.0, kt_rms * current - (hysteresis + eddy * speed));
}

double ambient_derating(double limit_temperature, double ambient, double catalogue_ambient,
                        double iron_rise) {
  const double catalogue_room = limit_temperature - catalogue_ambient - iron_rise;
  if (catalogue_room <= 0.0) return 0.0;
  const double left = (limit_temperature - ambient - iron_rise) / catalogue_room;
  return left <= 0.0 ? 0.0 : std::min(1.0, std::sqrt(left));
}

double altitude_derating(double altitude) {
  return std::clamp(1.0 - (altitude - 1000.0) / 100.0 * 0.01, 0.0, 1.0);
}

namespace {
double sine_envelope(double k, double r_line, double l_line, double pole_pairs, double speed, double voltage,
                     double limit) {
  const SineMachine machine{k, r_line / 2.0, l_line / 2.0, pole_pairs};
  return air_gap_torque(k, best_current(machine, speed, voltage, limit, false).q);
}
double book_least_current(double k, double r_line, double l_line, double pole_pairs, double speed,
                          double voltage, double current_q) {
  const SineMachine machine{k, r_line / 2.0, l_line / 2.0, pole_pairs};
  const DqCurrent i = least_current(machine, current_q, speed, voltage);
  return std::hypot(i.d, i.q) / std::numbers::sqrt2;
}
double emf_phase_peak(double ke_line_peak) { return ke_line_peak / std::numbers::sqrt3; }
double shaft_torque(double air_gap, double drag) { return air_gap - drag; }
double saturated_torque(double straight, double saturated) { return std::min(straight, saturated); }
} // namespace

namespace book {
namespace {
const Parameter k{"K", "K", Kind::emf_constant, "peak back-EMF of one wye phase", range::positive};
const Parameter limit_temperature{"T_lim", "T_lim", Kind::temperature, "limit of the winding",
                                  range::positive};
const Parameter ambient{"T_amb", "T_amb", Kind::temperature, "ambient temperature", range::positive};
using dq::pole_pairs, dq::speed, dq::voltage;
} // namespace

const Formula emf_phase_peak{
    "motor.emf_phase_peak",
    "Phase back-EMF constant",
    "K",
    "{Ke}/√3",
    Kind::emf_constant,
    {{"Ke", "Ke(ll,pk)", Kind::emf_constant, "line-line peak back-EMF constant", range::positive}},
    "equivalent wye",
    calling<&fulmox::emf_phase_peak>};
const Formula phase_voltage{"envelope.phase_voltage",
                            "Phase voltage needed",
                            "V",
                            "√(({p}·{omega}·{L}·{i_q})² + ({R}·{i_q} + {K}·{omega})²)",
                            Kind::voltage,
                            {k,
                             {"R", "R", Kind::resistance, "resistance of one wye phase", range::not_negative},
                             {"L", "L", Kind::inductance, "inductance of one wye phase", range::not_negative},
                             pole_pairs,
                             speed,
                             {"i_q", "i_q", Kind::current, "torque-making current, peak"}},
                            dq::source,
                            calling<&fulmox::phase_voltage>};
const Formula air_gap_torque{"envelope.air_gap_torque",
                             "Air-gap torque",
                             "T",
                             "1.5·{K}·{i_q}",
                             Kind::torque,
                             {k, {"i_q", "i_q", Kind::current, "torque-making current, peak"}},
                             dq::source,
                             calling<&fulmox::air_gap_torque>};
const Formula base_speed{"envelope.base_speed",
                         "Speed at which back-EMF uses up the voltage",
                         "ω_0",
                         "{V}/{K}",
                         Kind::angular_speed,
                         {voltage, k},
                         dq::source,
                         calling<&fulmox::base_speed>};
const Formula continuous_torque{
    "envelope.continuous",
    "Continuous torque of the heat path",
    "T_c",
    "{Kt}·√(({T_lim} − {T_amb} − P_Fe·{R_ca})/(({R_wc} + {R_ca})·1.5·{R20}·(1 + 0.00393·({T_lim} − 20 °C)))) "
    "− ({k_h} + {k_e}·{omega})",
    Kind::torque,
    {{"Kt", "Kt(rms)", Kind::torque_constant, "torque per rms ampere", range::positive},
     {"R20", "R20", Kind::resistance, "line-line resistance at 20 °C", range::positive},
     limit_temperature,
     ambient,
     {"R_wc", "R_wc", Kind::thermal_resistance, "winding to case", range::not_negative},
     {"R_ca", "R_ca", Kind::thermal_resistance, "case to ambient", range::positive},
     {"k_h", "k_h", Kind::torque, "hysteresis torque", range::not_negative},
     {"k_e", "k_e", Kind::iron_viscous, "eddy-current torque per speed", range::not_negative},
     speed},
    "two-node heat path; P_Fe = k_h·ω + k_e·ω²",
    calling<&fulmox::continuous_torque>};
const Formula heat_current{
    "envelope.heat_current",
    "Continuous current of the heat path",
    "I_c",
    "√(({T_lim} − {T_amb} − P_Fe·{R_ca})/(({R_wc} + {R_ca})·1.5·{R20}·(1 + 0.00393·({T_lim} − 20 °C))))",
    Kind::current,
    {{"R20", "R20", Kind::resistance, "line-line resistance at 20 °C", range::positive},
     limit_temperature,
     ambient,
     {"R_wc", "R_wc", Kind::thermal_resistance, "winding to case", range::not_negative},
     {"R_ca", "R_ca", Kind::thermal_resistance, "case to ambient", range::positive},
     {"k_h", "k_h", Kind::torque, "hysteresis torque", range::not_negative},
     {"k_e", "k_e", Kind::iron_viscous, "eddy-current torque per speed", range::not_negative},
     speed},
    "two-node heat path; P_Fe = k_h·ω + k_e·ω²",
    calling<&fulmox::heat_current>};
const Formula ambient_derating{
    "derate.ambient",
    "Derating for ambient temperature",
    "k_a",
    "√(({T_lim} − {T_amb} − {dT})/({T_lim} − {T_cat} − {dT})), at most 1",
    Kind::share,
    {limit_temperature,
     ambient,
     {"T_cat", "T_cat", Kind::temperature, "ambient of the catalogue", range::positive},
     {"dT", "ΔT_Fe", Kind::temperature_rise, "case rise from friction and iron loss", range::not_negative}},
    "heat flow proportional to temperature difference",
    calling<&fulmox::ambient_derating>};
const Formula altitude_derating{"derate.altitude",
                                "Derating for altitude",
                                "k_h",
                                "1 − 1 %·({h} − 1000 m)/100 m, at most 1",
                                Kind::share,
                                {{"h", "h", Kind::length, "altitude", {-500.0, 10000.0}}},
                                "common practice; confirm with the maker",
                                calling<&fulmox::altitude_derating>};
const Formula sine_envelope{
    "envelope.sine",
    "Largest air-gap torque at a speed",
    "T_max",
    "1.5·{K}·i_q; largest i_q ≤ {I} with √(({p}·{omega}·{L}/2·i_q)² + ({R}/2·i_q + {K}·{omega})²) ≤ {V}",
    Kind::torque,
    {k,
     dq::resistance_line,
     {"L", "L_ll", Kind::inductance, "line-line inductance", range::not_negative},
     pole_pairs,
     speed,
     voltage,
     dq::current_limit},
    dq::source,
    calling<&fulmox::sine_envelope>};
const Formula least_current{
    "envelope.least_current",
    "Current with the field weakened",
    "I",
    "√({i_q}² + i_d²)/√2; i_d nearest to 0 with √(({R}/2·i_d − {p}·{omega}·{L}/2·{i_q})² + ({R}/2·{i_q} + "
    "{p}·{omega}·{L}/2·i_d + {K}·{omega})²) ≤ {V}",
    Kind::current,
    {k,
     dq::resistance_line,
     {"L", "L_ll", Kind::inductance, "line-line inductance", range::not_negative},
     pole_pairs,
     speed,
     voltage,
     {"i_q", "i_q", Kind::current, "torque-making current, peak; negative when braking"}},
    dq::source,
    calling<&fulmox::book_least_current>};
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

std::span<const Formula* const> envelope_formulas() {
  static const std::array list{&book::emf_phase_peak,   &book::phase_voltage,     &book::air_gap_torque,
                               &book::base_speed,       &book::sine_envelope,     &book::continuous_torque,
                               &book::ambient_derating, &book::altitude_derating, &book::saturated_torque,
                               &book::least_current,    &book::shaft_torque,      &book::heat_current};
  return list;
}

} // namespace fulmox
