#include "core/motor/dc_fed.hpp"

#include "core/form/curve.hpp"
#include "core/motor/constants.hpp"
#include "core/motor/dc_formulas.hpp"
#include "core/motor/envelope.hpp"
#include "core/motor/magnets.hpp"

#include <algorithm>
#include <cmath>

namespace fulmox {

void DcFedMotor::read_dc(const Section& sheet) {
  read_common(sheet);
  hysteresis = sheet.term_or("hysteresis", 0.0);
  eddy = sheet.term_or("eddy", 0.0);
  continuous = sheet.entry("continuous_curve").curve;
  peak = sheet.entry("peak_curve").curve;
}

void DcFedMotor::take_constant(const Term& cold, const Section& sheet, Recorder& recorder) {
  k = kt = cold;
  if (!electric()) return;
  magnet = read_magnets(sheet, winding_limit, catalogue_ambient, recorder);
  if (magnet != 1.0) kt = recorder.apply(book::kt_hot, "motor.kt_hot", {k, magnet});
}

double DcFedMotor::current(double air_gap_torque) const { return dc_current(air_gap_torque, kt); }

double DcFedMotor::copper(double current) const {
  const double brushes = brush_drop * std::abs(current);
  return std::isnan(warm_resistance) ? brushes : warm_resistance * current * current + brushes;
}

double DcFedMotor::voltage(double air_gap_torque, double speed, double direction) const {
  const double amperes = current(air_gap_torque), n = std::abs(speed);
  if (air_gap_torque * direction >= 0.0) return volts_for(n, amperes);
  // braking, the winding helps: the cold one least. Beyond the EMF the voltage is turned round
  return std::max(std::abs(dc_volts(k, resistance, brush_drop, n, -amperes)),
                  std::abs(dc_volts(k, warm_resistance, brush_drop, n, -amperes)));
}

bool DcFedMotor::has_peak() const { return !peak.empty() || (electric() && !std::isnan(peak_current)); }

double DcFedMotor::standstill_peak() const {
  if (!peak.empty()) return peak.front()[1];
  return has_peak() ? std::max(0.0, kt * peak_current - drag(0.0)) : 0.0;
}

PeakLimits DcFedMotor::peak_limits(double speed, const MotorSupply& supply, bool braking) const {
  const double n = std::abs(speed), with_drag = braking ? drag(n) : -drag(n);
  PeakLimits limits;
  if (!peak.empty())
    limits.catalogue = n > peak.back()[0] * (1.0 + 1e-12) ? 0.0
                       : braking                          ? peak.front()[1]
                                                          : read_curve(peak, n);
  if (!electric()) return limits;
  const double amperes = std::fmin(supply.drive_current, peak_current);
  if (std::isfinite(amperes)) limits.current = kt * amperes + with_drag;
  // braking, the back-EMF helps to drive the current: what motoring leaves is the safe side of it
  if (has_circuit() && supply.voltage > 0.0)
    limits.voltage = kt * driven_current(n, supply.voltage) + with_drag;
  return limits;
}

double DcFedMotor::least_peak(double slowest, double fastest, const MotorSupply& supply, bool braking) const {
  // current and voltage leave less the faster it turns, but drag helps to brake; a curve may rise as well
  double least = peak_torque(fastest, supply, braking);
  if (braking) least = std::min(least, peak_torque(fastest, supply, false));
  if (!peak.empty()) least = std::min(least, peak_limits(slowest, {}, braking).catalogue);
  for (const CurvePoint& point : peak)
    if (point[0] > slowest && point[0] < fastest) least = std::min(least, point[1]);
  return least;
}

std::vector<double> DcFedMotor::peak_corners(const MotorSupply& supply) const {
  std::vector<double> speeds;
  for (const CurvePoint& point : peak) speeds.push_back(point[0]);
  if (has_circuit() && supply.voltage > 0.0) {
    const double amperes = std::fmin(supply.drive_current, peak_current);
    speeds.push_back(dc_top_speed(supply.voltage, brush_drop, k));
    if (std::isfinite(amperes))
      speeds.push_back(dc_top_speed(supply.voltage - warm_resistance * amperes, brush_drop, k));
  }
  std::erase_if(speeds, [](double speed) { return !(speed > 0.0); });
  std::sort(speeds.begin(), speeds.end());
  return speeds;
}

bool DcFedMotor::has_heat_path() const {
  return has_circuit() && !std::isnan(winding_to_case) && !std::isnan(case_to_ambient) &&
         !std::isnan(winding_limit);
}

double DcFedMotor::continuous_torque(double speed) const {
  const double n = std::abs(speed);
  if (!continuous.empty()) return read_curve(continuous, n);
  if (!has_heat_path()) return 0.0;
  return dc_continuous_torque(kt, resistance, winding_limit, catalogue_ambient, winding_to_case,
                              case_to_ambient, hysteresis, eddy, n);
}

double DcFedMotor::fastest_known() const {
  const double by_curves =
      std::max(peak.empty() ? 0.0 : peak.back()[0], continuous.empty() ? 0.0 : continuous.back()[0]);
  return by_curves > 0.0 || std::isnan(max_speed) ? by_curves : max_speed.value;
}

Term DcFedMotor::record_current(const Term& air_gap, StepName step, Recorder& recorder) const {
  return recorder.apply(book::dc_current, step, {air_gap, kt});
}

Term DcFedMotor::record_voltage(double air_gap_torque, double speed, double direction, StepName step,
                                Recorder& recorder) const {
  const double amperes = current(air_gap_torque);
  const Term n{std::abs(speed), ""};
  if (air_gap_torque * direction >= 0.0) return record_volts_for(n, {amperes, ""}, step, recorder);
  const auto size = [&](const Term& ohms) { return std::abs(dc_volts(k, ohms, brush_drop, n, -amperes)); };
  const bool warm = size(warm_resistance) >= size(resistance);
  const Term volts = recorder.apply(book::dc_volts, step,
                                    {k, warm ? warm_resistance : resistance, brush_drop, n, {-amperes, ""}});
  recorder.note(warm ? "Winding warm: it takes more voltage." : "Winding cold: braking, it helps less.");
  return {std::abs(volts), volts < 0.0 ? std::string_view() : volts.ref};
}

bool DcFedMotor::tells_by_voltage(const MotorSupply&, bool braking) const {
  return has_circuit() && !braking;
}

Term DcFedMotor::record_by_voltage(const Term& speed, const Term& volts, const MotorSupply&,
                                   Recorder& recorder) const {
  Term air_gap = record_driven_torque(speed, volts, recorder);
  if (magnet != 1.0) air_gap = recorder.apply(book::hot_torque, "by_voltage_hot", {air_gap, magnet});
  return recorder.apply(book::shaft_torque, "by_voltage_at_shaft", {air_gap, {drag(speed), ""}});
}

std::optional<Term> DcFedMotor::record_base_speed(const Term& volts, StepName step,
                                                  Recorder& recorder) const {
  if (!has_circuit()) return std::nullopt;
  return recorder.apply(book::dc_top_speed, step, {volts, brush_drop, k});
}

std::vector<MotorResult> DcFedMotor::results(const Term& ambient, const Term& mean_speed,
                                             Recorder& recorder) const {
  std::vector<MotorResult> out;
  if (!has_circuit()) return out;
  out.push_back({"motor.constant", "Motor constant", "Km", "Torque per square root of copper loss.",
                 Kind::motor_constant,
                 recorder.apply(book::dc_motor_constant, "motor.constant", {kt, resistance})});
  add_hot(out, kt, magnet, resistance, warm_resistance);
  if (!has_heat_path()) return out;
  out.push_back({"motor.continuous_model", "Heat-model torque", "T_c",
                 "What the heat path allows at mean speed, beside the catalogue curve.", Kind::torque,
                 recorder.apply(book::dc_continuous, "motor.continuous_model",
                                {kt,
                                 resistance,
                                 winding_limit,
                                 ambient,
                                 winding_to_case,
                                 case_to_ambient,
                                 {hysteresis, "motor.hysteresis"},
                                 {eddy, "motor.eddy"},
                                 mean_speed})});
  return out;
}

} // namespace fulmox
