#include "core/motor/servo.hpp"

#include "core/motor/constants.hpp"
#include "core/motor/magnets.hpp"
#include "core/motor/winding.hpp"

#include <boost/math/tools/toms748_solve.hpp>

#include <algorithm>
#include <cmath>
#include <numbers>

namespace fulmox {

namespace {

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

} // namespace

ServoMotor ServoMotor::from(const Section& motor, Recorder& recorder) {
  ServoMotor out;
  out.read_common(motor);
  out.pole_pairs = motor.term("pole_pairs");
  out.rated_current = motor.term("rated_current");
  out.hysteresis = motor.term_or("hysteresis", 0.0);
  out.eddy = motor.term_or("eddy", 0.0);
  out.continuous = motor.entry("continuous_curve").curve;
  out.peak = motor.entry("peak_curve").curve;
  const LineWinding winding = read_line_winding(motor, recorder);
  out.resistance = winding.resistance;
  out.inductance = winding.inductance;
  out.ke = out.ke_given = read_line_emf(motor, recorder);
  out.kt = out.kt_given = kt_in_core(motor, recorder);
  if (std::isnan(out.ke) && !std::isnan(out.kt))
    out.ke = recorder.apply(book::ke_from_kt, "motor.ke_line", {out.kt});
  if (std::isnan(out.kt) && !std::isnan(out.ke))
    out.kt = recorder.apply(book::kt_from_ke, "motor.kt_rms", {out.ke});
  out.warm_resistance = at_winding_limit(out.resistance, out.winding_limit, recorder);
  if (out.electric()) out.magnet = read_magnets(motor, out.winding_limit, out.catalogue_ambient, recorder);
  if (out.magnet != 1.0) out.kt = recorder.apply(book::kt_hot, "motor.kt_hot", {out.kt, out.magnet});
  if (!std::isnan(out.ke)) out.k = recorder.apply(book::emf_phase_peak, "motor.k", {out.ke});
  out.find_bend();
  return out;
}

std::string_view ServoMotor::refuses(Feed feed) const {
  switch (feed) {
  case Feed::any:
  case Feed::sine:
    return "";
  case Feed::blocks:
    return "The drive switches blocks; this motor's form is for sine currents. Take the six-step kind of "
           "motor.";
  case Feed::direct:
    return "A drive for brushed motors has two leads; this motor has three.";
  default:
    return "A drive for steppers has no leads for a motor of three phases.";
  }
}

bool ServoMotor::has_circuit() const {
  return !std::isnan(k) && !std::isnan(resistance) && !std::isnan(inductance) && !std::isnan(pole_pairs);
}

bool ServoMotor::electric() const { return !std::isnan(kt); }

double ServoMotor::kt_of_ke() const { return kt_from_ke(ke_given); }

double ServoMotor::most_amperes(const MotorSupply& supply) const {
  return std::fmin(supply.drive_current, peak_current);
}

double ServoMotor::peak_air_gap() const { return peak.front()[1] + drag(peak.front()[0]); }

void ServoMotor::find_bend() {
  bend_.reset();
  if (peak.empty() || std::isnan(rated_current) || std::isnan(peak_current) || !electric()) return;
  const Bend bend{rated_torque(), peak_air_gap(), rated_constant()};
  if (peak_current > rated_current && bend.peak > bend.rated && bend.peak < straight_torque(peak_current))
    bend_ = bend;
}

double ServoMotor::current(double air_gap_torque) const {
  const double torque = std::abs(air_gap_torque);
  if (!bend_ || torque <= bend_->rated) return straight_current(torque);
  return saturated_current(torque, bend_->constant, rated_current, peak_current, bend_->peak);
}

SineMachine ServoMotor::machine(bool braking) const {
  return {k, 0.5 * (braking ? resistance : warm_resistance), 0.5 * inductance, pole_pairs};
}

namespace {
/// Torque-making current, peak; negative where it brakes.
double current_q(double rms, double air_gap_torque, double speed) {
  return (air_gap_torque * speed < 0.0 ? -1.0 : 1.0) * std::numbers::sqrt2 * rms;
}
} // namespace

double ServoMotor::current_at(double air_gap_torque, double speed, double volts) const {
  const double straight = current(air_gap_torque);
  if (!speed_shapes_current()) return straight;
  const double q = current_q(straight, air_gap_torque, speed);
  const DqCurrent i = least_current(machine(q < 0.0), q, speed, volts);
  return i.d == 0.0 ? straight : std::hypot(i.d, i.q) / std::numbers::sqrt2;
}

double ServoMotor::voltage_left(double air_gap_torque, double speed, double volts) const {
  if (!speed_shapes_current() || !(volts > 0.0)) return 1.0;
  const double q = current_q(current(air_gap_torque), air_gap_torque, speed);
  return voltage_room(machine(q < 0.0), q, std::abs(speed), volts);
}

double ServoMotor::torque_of_current(double current_rms) const {
  if (current_rms <= rated_current || !bend_) return straight_torque(current_rms);
  return bend_->rated +
         (current_rms - rated_current) * (bend_->peak - bend_->rated) / (peak_current - rated_current);
}

std::vector<double> ServoMotor::bends() const {
  if (bend_) return {bend_->rated};
  return {};
}

double ServoMotor::copper(double current) const {
  return std::isnan(warm_resistance) ? 0.0 : copper_loss(current, warm_resistance);
}

double ServoMotor::voltage_with(double resistance_line, double current, double speed) const {
  return phase_voltage(k, resistance_line / 2.0, inductance / 2.0, pole_pairs, std::abs(speed),
                       std::numbers::sqrt2 * current);
}

namespace {
/// Currents count against the back-EMF where they brake.
double sense_of(double air_gap_torque, double direction) {
  return air_gap_torque * direction < 0.0 ? -1.0 : 1.0;
}
} // namespace

double ServoMotor::voltage(double air_gap_torque, double speed, double direction) const {
  const double along = sense_of(air_gap_torque, direction) * current(air_gap_torque);
  const double warm = voltage_with(warm_resistance, along, speed);
  // more resistance takes more, but may help to brake
  return along >= 0.0 ? warm : std::max(warm, voltage_with(resistance, along, speed));
}

double ServoMotor::emf(double speed) const { return std::numbers::sqrt3 * k * std::abs(speed); }

double ServoMotor::fastest_known() const {
  return std::max(peak.empty() ? 0.0 : peak.back()[0], continuous.empty() ? 0.0 : continuous.back()[0]);
}

PeakLimits ServoMotor::peak_limits(double speed, const MotorSupply& supply, bool braking) const {
  const double n = std::abs(speed);
  PeakLimits limits;
  // the voltage helps when braking: the catalogue's corner does not apply there, its standstill value does
  const bool within = !peak.empty() && n <= peak.back()[0] * (1.0 + 1e-12);
  if (!peak.empty()) limits.catalogue = !within ? 0.0 : braking ? peak.front()[1] : read_curve(peak, n);
  const double sign_of_drag = braking ? 1.0 : -1.0;
  const double amperes = most_amperes(supply);
  if (!std::isfinite(amperes)) return limits;
  if (electric()) limits.current = torque_of_current(amperes) + sign_of_drag * drag(n);
  if (has_circuit() && supply.voltage > 0.0) {
    double most = std::numeric_limits<double>::infinity();
    // a warm winding takes more of the voltage; braking, a cold one may help less: the worse counts
    for (const double r : {warm_resistance.value, resistance.value}) {
      if (!braking && r != warm_resistance) break;
      const Most there = most_by_voltage(r, n, supply, braking);
      most = std::min(most, there.torque);
      if (saturates()) most = std::min(most, torque_of_current(there.current));
    }
    limits.voltage = most + sign_of_drag * drag(n);
  }
  return limits;
}

ServoMotor::Most ServoMotor::most_by_voltage(double resistance_line, double speed, const MotorSupply& supply,
                                             bool braking) const {
  const SineMachine machine{k, resistance_line / 2.0, inductance / 2.0, pole_pairs};
  const double limit = std::numbers::sqrt2 * most_amperes(supply);
  const double q = std::abs(best_current(machine, speed, supply.voltage, limit, supply.weakening, braking).q);
  return {q / std::numbers::sqrt2, magnet * air_gap_torque(k, q)};
}

double ServoMotor::least_peak(double slowest, double fastest, const MotorSupply& supply, bool braking) const {
  if (braking) {
    // curve and current give least at an end; i_q needs at most √((z·i_q)² + (K·ω)²) of the voltage
    PeakLimits least = peak_limits(slowest, {0.0, supply.drive_current, false}, true);
    least.catalogue = std::min(least.catalogue, peak_limits(fastest, {}, true).catalogue);
    if (!has_circuit() || !(supply.voltage > 0.0)) return least.least();
    const double room = supply.voltage * supply.voltage - k * k * fastest * fastest;
    const double z = 0.5 * std::hypot(warm_resistance, pole_pairs * fastest * inductance);
    least.voltage = room > 0.0 ? magnet * air_gap_torque(k, std::sqrt(room) / z) : 0.0;
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

std::vector<double> ServoMotor::voltage_corners(double volts, double amperes) const {
  std::vector<double> speeds;
  // the highest speed with all the current: (p·ω·L·i)² + (R·i + K·ω)² = V² with the wye's R and L
  const double x = pole_pairs * inductance / 2.0 * amperes, a = x * x + k * k;
  for (const double ohms : {warm_resistance.value, -warm_resistance.value, -resistance.value}) {
    const double r = ohms / 2.0 * amperes, b = r * k; // braking, R·i helps
    const double c = r * r - volts * volts;
    if (b * b > a * c) speeds.push_back((std::sqrt(b * b - a * c) - b) / a);
  }
  return speeds;
}

std::vector<double> ServoMotor::peak_corners(const MotorSupply& supply) const {
  std::vector<double> speeds;
  for (const CurvePoint& point : peak) speeds.push_back(point[0]);
  const double amperes = std::numbers::sqrt2 * most_amperes(supply);
  if (has_circuit() && supply.voltage > 0.0 && std::isfinite(amperes)) {
    for (const double speed : voltage_corners(supply.voltage, amperes)) speeds.push_back(speed);
    speeds.push_back(supply.voltage / k); // where none is left without current
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

Term ServoMotor::record_current(const Term& air_gap, StepName step, Recorder& recorder) const {
  if (!saturates() || std::abs(air_gap) <= rated_torque())
    return record_straight_current(air_gap, step, recorder);
  const Term current =
      recorder.apply(book::saturated_current, step,
                     {air_gap, rated_constant(), rated_current, peak_current, {peak_air_gap(), ""}});
  recorder.note("Read from the maker's peak point: the torque constant falls at high current.");
  return current;
}

Term ServoMotor::record_straight_current(const Term& air_gap, StepName step, Recorder& recorder) const {
  return recorder.apply(book::torque_current, step, {air_gap, kt});
}

Term ServoMotor::record_current_at(const Term& air_gap, const Term& speed, const Term& volts, StepName step,
                                   Recorder& recorder) const {
  const double straight = current(air_gap), sense = air_gap < 0.0 ? -1.0 : 1.0;
  if (current_at(air_gap, speed, volts) == straight) return record_current(air_gap, step, recorder);
  const Term rms = record_current(air_gap, "torque_current", recorder);
  const Term q{sense * std::numbers::sqrt2 * rms, rms.ref};
  const Term all = recorder.apply(
      book::least_current, step,
      {k, sense < 0.0 ? resistance : warm_resistance, inductance, pole_pairs, speed, volts, q});
  recorder.note("Above the speed that the voltage allows the field is weakened, which takes current of its "
                "own and heats, also without load.");
  return all;
}

Term ServoMotor::record_voltage(double air_gap_torque, double speed, double direction, StepName step,
                                Recorder& recorder) const {
  const double along = sense_of(air_gap_torque, direction) * current(air_gap_torque);
  const bool warm = voltage_with(warm_resistance, along, speed) >= voltage_with(resistance, along, speed);
  const Term needed =
      record_voltage_with(warm ? warm_resistance : resistance, along, std::abs(speed), step, recorder);
  recorder.note(warm ? "Winding warm: it takes more voltage." : "Winding cold: braking, it helps less.");
  return needed;
}

Term ServoMotor::record_voltage_with(const Term& resistance_line, double current, double speed, StepName step,
                                     Recorder& recorder) const {
  // wye phase values for the formula: half the terminal values
  return recorder.apply(book::phase_voltage, step,
                        {k,
                         {resistance_line / 2.0, ""},
                         {inductance / 2.0, ""},
                         pole_pairs,
                         {speed, ""},
                         {std::numbers::sqrt2 * current, ""}});
}

bool ServoMotor::tells_by_voltage(const MotorSupply& supply, bool braking) const {
  return has_circuit() && !braking && !supply.weakening;
}

Term ServoMotor::record_most_by_voltage(const Term& speed, const Term& volts, const MotorSupply& supply,
                                        Recorder& recorder) const {
  const double amperes = std::numbers::sqrt2 * most_amperes(supply);
  const Term cold = recorder.apply(book::sine_envelope, "by_voltage",
                                   {k, warm_resistance, inductance, pole_pairs, speed, volts, {amperes, ""}});
  return magnet == 1.0 ? cold : recorder.apply(book::hot_torque, "by_voltage_hot", {cold, magnet});
}

Term ServoMotor::record_by_voltage(const Term& speed, const Term& volts, const MotorSupply& supply,
                                   Recorder& recorder) const {
  Term air_gap = record_most_by_voltage(speed, volts, supply, recorder);
  if (saturates()) {
    const Most there =
        most_by_voltage(warm_resistance, speed, {volts, supply.drive_current, supply.weakening}, false);
    air_gap = recorder.apply(book::saturated_torque, "by_voltage_saturated",
                             {air_gap, {torque_of_current(there.current), ""}});
  }
  return recorder.apply(book::shaft_torque, "by_voltage_at_shaft", {air_gap, {drag(speed), ""}});
}

std::optional<Term> ServoMotor::record_base_speed(const Term& volts, StepName step,
                                                  Recorder& recorder) const {
  if (!has_circuit()) return std::nullopt;
  return recorder.apply(book::base_speed, step, {volts, k});
}

std::vector<MotorResult> ServoMotor::results(const Term& ambient, const Term& mean_speed,
                                             Recorder& recorder) const {
  std::vector<MotorResult> out;
  if (!electric() || std::isnan(resistance)) return out;
  out.push_back({"motor.constant", "Motor constant", "Km", "Torque per square root of copper loss.",
                 Kind::motor_constant,
                 recorder.apply(book::motor_constant, "motor.constant", {kt, resistance})});
  add_hot(out, kt, magnet, resistance, warm_resistance);
  if (std::isnan(winding_to_case) || std::isnan(case_to_ambient) || std::isnan(winding_limit)) return out;
  out.push_back({"motor.continuous_model", "Heat-model torque", "T_c",
                 "What the heat path allows at mean speed, beside the catalogue curve.", Kind::torque,
                 record_heat_torque(ambient, mean_speed, recorder)});
  return out;
}

Term ServoMotor::record_heat_torque(const Term& ambient, const Term& mean_speed, Recorder& recorder) const {
  return recorder.apply(book::continuous_torque, "motor.continuous_model",
                        {kt,
                         resistance,
                         winding_limit,
                         ambient,
                         winding_to_case,
                         case_to_ambient,
                         {hysteresis, "motor.hysteresis"},
                         {eddy, "motor.eddy"},
                         mean_speed});
}

} // namespace fulmox
