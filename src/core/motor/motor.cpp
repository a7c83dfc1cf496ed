#include "core/motor/motor.hpp"

#include "core/motor/constants.hpp"

#include <boost/math/tools/toms748_solve.hpp>

#include <algorithm>
#include <cmath>
#include <numbers>

namespace fulmox {

double read_curve(const std::vector<CurvePoint>& curve, double x) {
  if (curve.empty() || x > curve.back()[0] * (1.0 + 1e-12)) return 0.0;
  if (x <= curve.front()[0]) return curve.front()[1];
  const auto after = std::lower_bound(curve.begin(), curve.end(), x,
                                      [](const CurvePoint& p, double at) { return p[0] < at; });
  if (after == curve.end()) return curve.back()[1];
  const auto before = after - 1;
  const double share = (x - (*before)[0]) / ((*after)[0] - (*before)[0]);
  return (*before)[1] + share * ((*after)[1] - (*before)[1]);
}

namespace {

Term ke_in_core(const Section& motor, Recorder& recorder) {
  const Term given = motor.term("ke");
  if (motor.blank("ke")) return given;
  const std::string& as = motor.text("ke_as");
  const Formula& formula = as == "line peak"    ? book::ke_from_line_peak
                           : as == "phase rms"  ? book::ke_from_phase_rms
                           : as == "phase peak" ? book::ke_from_phase_peak
                                                : book::ke_from_line_rms;
  return recorder.apply(formula, "motor.ke_line", {given});
}

Term kt_in_core(const Section& motor, Recorder& recorder) {
  const Term given = motor.term("kt");
  if (motor.blank("kt")) return given;
  const std::string& per = motor.text("kt_per");
  const Formula& formula = per == "peak" ? book::kt_from_peak
                           : per == "dc" ? book::kt_from_dc
                                         : book::kt_as_rms;
  const Term kt = recorder.apply(formula, "motor.kt_rms", {given});
  if (per.empty())
    recorder.note("The data sheet does not say which ampere is meant; rms line current is assumed.");
  return kt;
}

void read_winding(const Section& motor, ServoMotor& out, Recorder& recorder) {
  const std::string& as = motor.text("winding_as");
  const bool wye = as == "phase wye";
  const bool delta = as == "phase delta";
  if (!motor.blank("resistance"))
    out.resistance = recorder.apply(wye     ? book::resistance_from_wye
                                    : delta ? book::resistance_from_delta
                                            : book::resistance_as_line,
                                    "motor.resistance_line", {motor.term("resistance")});
  if (!motor.blank("inductance"))
    out.inductance = recorder.apply(wye     ? book::inductance_from_wye
                                    : delta ? book::inductance_from_delta
                                            : book::inductance_as_line,
                                    "motor.inductance_line", {motor.term("inductance")});
}

} // namespace

ServoMotor ServoMotor::from(const Section& motor, Recorder& recorder) {
  constexpr double unknown = std::numeric_limits<double>::quiet_NaN();
  ServoMotor out;
  out.inertia = motor.term_or("inertia", 0.0);
  out.chosen = !motor.blank("inertia");
  out.max_speed = motor.term("max_speed");
  out.pole_pairs = motor.term("pole_pairs");
  out.rated_current = motor.term("rated_current");
  out.peak_current = motor.term("peak_current");
  out.hysteresis = motor.term_or("hysteresis", 0.0);
  out.eddy = motor.term_or("eddy", 0.0);
  out.continuous = motor.entry("continuous_curve").curve;
  out.peak = motor.entry("peak_curve").curve;
  out.resistance = out.inductance = {unknown, ""};
  read_winding(motor, out, recorder);
  out.ke = out.ke_given = ke_in_core(motor, recorder);
  out.kt = out.kt_given = kt_in_core(motor, recorder);
  if (std::isnan(out.ke) && !std::isnan(out.kt))
    out.ke = recorder.apply(book::ke_from_kt, "motor.ke_line", {out.kt});
  if (std::isnan(out.kt) && !std::isnan(out.ke))
    out.kt = recorder.apply(book::kt_from_ke, "motor.kt_rms", {out.ke});
  out.warm_resistance = out.resistance;
  const Term limit = motor.term("winding_limit");
  if (!std::isnan(limit) && !std::isnan(out.resistance))
    out.warm_resistance =
        recorder.apply(book::warm_resistance, "motor.resistance_warm", {out.resistance, limit});
  out.k = {unknown, ""};
  if (!std::isnan(out.ke)) out.k = recorder.apply(book::emf_phase_peak, "motor.k", {out.ke});
  return out;
}

bool ServoMotor::has_circuit() const {
  return !std::isnan(k) && !std::isnan(resistance) && !std::isnan(inductance) && !std::isnan(pole_pairs);
}

bool ServoMotor::has_kt() const { return !std::isnan(kt); }

double ServoMotor::peak_air_gap() const { return peak.front()[1] + drag(peak.front()[0]); }

bool ServoMotor::saturates() const {
  if (peak.empty() || std::isnan(rated_current) || std::isnan(peak_current) || !has_kt()) return false;
  return peak_current > rated_current && peak_air_gap() > rated_torque() &&
         peak_air_gap() < kt * peak_current;
}

double ServoMotor::air_gap(double shaft_torque, double speed, double direction) const {
  const double against = direction != 0.0 ? direction : (shaft_torque > 0.0) - (shaft_torque < 0.0);
  return shaft_torque + drag_torque(speed, against);
}

double ServoMotor::current(double air_gap_torque) const {
  const double torque = std::abs(air_gap_torque);
  if (torque <= rated_torque() || !saturates()) return torque / kt;
  return saturated_current(torque, kt, rated_current, peak_current, peak_air_gap());
}

double ServoMotor::torque_of_current(double current_rms) const {
  if (current_rms <= rated_current || !saturates()) return kt * current_rms;
  return rated_torque() +
         (current_rms - rated_current) * (peak_air_gap() - rated_torque()) / (peak_current - rated_current);
}

double PeakLimits::least() const {
  const double smallest = std::min({catalogue, current, voltage});
  return std::isfinite(smallest) ? std::max(0.0, smallest) : 0.0;
}

PeakLimits ServoMotor::peak_limits(double speed, const MotorSupply& supply, bool braking) const {
  const double n = std::abs(speed);
  PeakLimits limits;
  // the voltage helps when braking: the catalogue's corner does not apply there, its standstill value does
  const bool within = !peak.empty() && n <= peak.back()[0] * (1.0 + 1e-12);
  if (!peak.empty()) limits.catalogue = !within ? 0.0 : braking ? peak.front()[1] : read_curve(peak, n);
  const double sign_of_drag = braking ? 1.0 : -1.0;
  const double amperes = std::fmin(supply.drive_current, peak_current);
  if (!std::isfinite(amperes)) return limits;
  if (has_kt()) limits.current = torque_of_current(amperes) + sign_of_drag * drag(n);
  if (has_circuit() && supply.voltage > 0.0) {
    double most = std::numeric_limits<double>::infinity();
    // a warm winding takes more of the voltage; braking, a cold one may help less: the worse counts
    for (const double r : {warm_resistance.value, resistance.value}) {
      if (!braking && r != warm_resistance) break;
      const SineMachine machine{k, r / 2.0, inductance / 2.0, pole_pairs};
      const DqCurrent i =
          best_current(machine, n, supply.voltage, std::numbers::sqrt2 * amperes, supply.weakening, braking);
      most = std::min(most, air_gap_torque(k, std::abs(i.q)));
      if (saturates()) most = std::min(most, torque_of_current(std::abs(i.q) / std::numbers::sqrt2));
    }
    limits.voltage = most + sign_of_drag * drag(n);
  }
  return limits;
}

double ServoMotor::least_peak(double slowest, double fastest, const MotorSupply& supply, bool braking) const {
  if (braking) {
    // curve and current give least at an end; i_q needs at most √((z·i_q)² + (K·ω)²) of the voltage
    PeakLimits least = peak_limits(slowest, {0.0, supply.drive_current, false}, true);
    least.catalogue = std::min(least.catalogue, peak_limits(fastest, {}, true).catalogue);
    if (!has_circuit() || !(supply.voltage > 0.0)) return least.least();
    const double room = supply.voltage * supply.voltage - k * k * fastest * fastest;
    const double z = 0.5 * std::hypot(warm_resistance, pole_pairs * fastest * inductance);
    least.voltage = room > 0.0 ? air_gap_torque(k, std::sqrt(room) / z) : 0.0;
    if (saturates()) least.voltage = std::min(least.voltage, torque_of_current(std::sqrt(room / 2.0) / z));
    return least.least();
  }
  if (supply.weakening) return 0.0;
  // motoring, current and voltage leave less the faster it turns; the catalogue's curve may rise as well
  double least = peak_torque(fastest, supply, false);
  if (!peak.empty()) least = std::min(least, peak_limits(slowest, {}, false).catalogue);
  for (const CurvePoint& point : peak)
    if (point[0] > slowest && point[0] < fastest) least = std::min(least, point[1]);
  return least;
}

std::vector<double> ServoMotor::peak_corners(const MotorSupply& supply) const {
  std::vector<double> speeds;
  for (const CurvePoint& point : peak) speeds.push_back(point[0]);
  const double amperes = std::numbers::sqrt2 * std::fmin(supply.drive_current, peak_current);
  if (has_circuit() && supply.voltage > 0.0 && std::isfinite(amperes)) {
    // the highest speed with all the current: (p·ω·L·i)² + (R·i + K·ω)² = V² with the wye's R and L
    const double x = pole_pairs * inductance / 2.0 * amperes, a = x * x + k * k;
    for (const double ohms : {warm_resistance.value, -warm_resistance.value, -resistance.value}) {
      const double r = ohms / 2.0 * amperes, b = r * k; // braking, R·i helps
      const double c = r * r - supply.voltage * supply.voltage;
      if (b * b > a * c) speeds.push_back((std::sqrt(b * b - a * c) - b) / a);
    }
    speeds.push_back(supply.voltage / k); // and with none
  }
  std::erase_if(speeds, [](double speed) { return !(speed > 0.0); });
  std::sort(speeds.begin(), speeds.end());
  // between these all three are smooth: find where two of them cross
  std::vector<double> all = speeds;
  double from = 0.0;
  for (const double to : speeds) {
    const auto limits_at = [&](double n) { return peak_limits(n, supply, false); };
    const auto cross = [&](auto difference) {
      constexpr double inside = 1e-9; // a curve ends at its last point
      const double a = from + inside * (to - from), b = to - inside * (to - from);
      const double low = difference(limits_at(a)), high = difference(limits_at(b));
      if (!(low * high < 0.0)) return;
      std::uintmax_t tries = 40;
      const auto root =
          boost::math::tools::toms748_solve([&](double n) { return difference(limits_at(n)); }, a, b, low,
                                            high, boost::math::tools::eps_tolerance<double>(40), tries);
      all.push_back(0.5 * (root.first + root.second));
    };
    if (to > from) {
      cross([](const PeakLimits& l) { return l.catalogue - l.current; });
      cross([](const PeakLimits& l) { return l.catalogue - l.voltage; });
    }
    from = to;
  }
  return all;
}

} // namespace fulmox
