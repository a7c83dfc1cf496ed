#include "core/motor/stepper.hpp"

#include "core/motor/envelope.hpp"
#include "core/motor/stepper_formulas.hpp"
#include "core/motor/winding.hpp"

#include <algorithm>
#include <array>
#include <cmath>
#include <numbers>

namespace fulmox {
namespace {

/// Factors from what the sheet rates to what is connected.
Connection between(std::string_view rated, std::string_view chosen) {
  const Connection from = connection_of(rated), to = connection_of(chosen);
  return {to.constant / from.constant, to.current / from.current, to.resistance / from.resistance,
          to.inductance / from.inductance};
}

Term times(const Term& term, double factor) { return {term * factor, factor == 1.0 ? term.ref : ""}; }

} // namespace

StepperMotor StepperMotor::from(const Section& sheet, const Drive& drive, Recorder& recorder) {
  StepperMotor out;
  out.read_common(sheet);
  out.hysteresis = sheet.term_or("hysteresis", 0.0);
  out.eddy = sheet.term_or("eddy", 0.0);
  out.teeth = sheet.term("teeth");
  out.leads = std::stoi(sheet.text("leads"));
  out.connection = sheet.text("connection");
  const std::string& rated = sheet.text("rated_for");
  const Connection k = rated.empty() || rated == "chosen" ? Connection{} : between(rated, out.connection);
  out.rated_current = times(sheet.term("rated_current"), k.current);
  out.holding_rated = times(sheet.term("holding_torque"), k.constant * k.current);
  out.resistance = times(sheet.term("resistance"), k.resistance);
  out.inductance = times(sheet.term("inductance"), k.inductance);
  out.warm_resistance = at_winding_limit(out.resistance, out.winding_limit, recorder);
  out.detent = sheet.term_or("detent", 0.0);
  if (!std::isnan(out.holding_rated) && !std::isnan(out.rated_current))
    out.k_torque = recorder.apply(book::stepper_constant, "motor.stepper_constant",
                                  {out.holding_rated, out.rated_current});
  out.k_emf = sheet.blank("ke") ? out.k_torque : times(sheet.term("ke"), k.constant);
  out.take_settings(drive, recorder);
  out.read_tables(sheet);
  if (sheet.has("control")) {
    out.tells_lost = true;
    out.by_load_angle = sheet.text("control") == "load angle";
    out.least_share = sheet.term_or("least_current", 0.0);
  }
  return out;
}

Term StepperMotor::record_rated_crest(StepName step, Recorder& recorder) const {
  return recorder.apply(book::crest_for_rated, step, {rated_current, {system.on_at_rating, ""}});
}

void StepperMotor::take_settings(const Drive& drive, Recorder& recorder) {
  const StepperSettings set = drive.stepper();
  crest_is_set = !std::isnan(set.crest);
  if (crest_is_set)
    crest = set.crest;
  else if (!std::isnan(rated_current))
    crest = record_rated_crest("motor.crest", recorder);
  if (!std::isnan(k_torque) && !std::isnan(rated_current) && crest > rated_crest() * (1.0 + 1e-12)) {
    const Term as_rated{rated_crest() / std::numbers::sqrt2, rated_current.ref};
    k_torque = recorder.apply(book::constant_above_rating, "motor.constant_above_rating",
                              {k_torque, as_rated, crest});
    recorder.note("Set above the motor's rating, where the iron saturates: more torque than rated is not "
                  "counted.");
  }
  microsteps = set.microsteps;
  standing = set.standing;
}

void StepperMotor::read_tables(const Section& sheet) {
  for (const auto& [volts, curve] : pull_out_fields())
    if (!sheet.blank(volts) && !sheet.entry(curve).curve.empty())
      tables.push_back({sheet.term(volts), sheet.entry(curve).curve});
  std::sort(tables.begin(), tables.end(),
            [](const PullOutTable& a, const PullOutTable& b) { return a.volts < b.volts; });
}

std::string_view StepperMotor::refuses(Feed feed) const {
  const bool unipolar = connection == "unipolar";
  if (system.phases == 5.0) {
    if (feed == Feed::any || feed == Feed::five) return "";
    return "This motor has five phases; the drive has no legs for them.";
  }
  if (leads == 4 && connection != "series")
    return "With 4 leads only whole phases can be connected: choose bipolar series.";
  if (leads == 5 && !unipolar) return "With 5 leads the centre taps are joined inside: unipolar only.";
  if (leads == 6 && connection == "parallel")
    return "With 6 leads the half coils are joined inside: they cannot be put in parallel.";
  switch (feed) {
  case Feed::any:
    return "";
  case Feed::bridges:
    return unipolar ? "Connected as unipolar, but the drive feeds whole coils in both directions." : "";
  case Feed::unipolar:
    return unipolar ? "" : "A unipolar drive needs the half coils: connect the motor as unipolar.";
  case Feed::five:
    return "The drive is for five phases; this motor has two.";
  default:
    return "The drive has no leads for the two separate phases of a stepper.";
  }
}

std::optional<ShortedMotor> StepperMotor::shorted(bool hot_winding) const {
  if (!has_model()) return std::nullopt;
  const double r = hot_winding ? warm_resistance : resistance, x = teeth * inductance;
  return ShortedMotor{k_torque * k_emf * r, r, x, x};
}

double StepperMotor::current(double air_gap_torque) const {
  if (!by_load_angle) return phase_rms(crest);
  return phase_rms(std::max(least_share * crest, std::abs(air_gap_torque) / k_torque));
}
SineMachine StepperMotor::sine_machine(bool braking) const {
  return {k_emf, braking ? resistance : warm_resistance, inductance, teeth};
}

std::optional<double> StepperMotor::sine_current(double current_q, double speed, double volts) const {
  if (!has_model()) {
    // by the curve alone: straight from no current to all of it, once the back-EMF takes the voltage all
    const double most = pull_out_torque(speed, volts);
    if (k_emf * speed >= volts || std::abs(current_q) * k_torque > most + drag(speed)) return std::nullopt;
    return crest * std::abs(current_q) * k_torque / (most + drag(speed));
  }
  const SineMachine machine = sine_machine(current_q < 0.0);
  const DqCurrent i = least_current(machine, current_q, speed, volts);
  const double needed =
      std::hypot(machine.resistance * i.d - teeth * speed * inductance * i.q,
                 machine.resistance * i.q + teeth * speed * inductance * i.d + machine.k * speed);
  if (needed > volts * (1.0 + 1e-9)) return std::nullopt;
  return std::hypot(i.d, i.q);
}

double StepperMotor::current_at(double air_gap_torque, double speed, double volts) const {
  if (!speed_shapes_current() || !(volts > 0.0)) return current(air_gap_torque);
  const double sense = air_gap_torque * speed < 0.0 ? -1.0 : 1.0;
  const double q = std::abs(air_gap_torque) / k_torque, least = std::max(q, least_share * crest);
  // beyond what the voltage carries, all that is set flows
  const double all = sine_current(sense * q, std::abs(speed), volts).value_or(crest);
  return phase_rms(std::max(least, std::min(all, crest.value)));
}

double StepperMotor::voltage_left(double air_gap_torque, double speed, double volts) const {
  if (!by_load_angle || !has_model() || !(volts > 0.0)) return 1.0;
  const double sense = air_gap_torque * speed < 0.0 ? -1.0 : 1.0;
  return voltage_room(sine_machine(sense < 0.0), sense * std::abs(air_gap_torque) / k_torque, std::abs(speed),
                      volts);
}

std::optional<double> StepperMotor::running_current(double air_gap_torque, double speed,
                                                    const MotorSupply& supply) const {
  if (by_circles() || !has_model() || !(supply.voltage > 0.0))
    return Motor::running_current(air_gap_torque, speed, supply);
  if (speed == 0.0) return air_gap_torque > holding() ? std::nullopt : std::optional(phase_rms(crest));
  const auto phase = running_phase(machine_at(supply.voltage), speed, air_gap_torque);
  if (!phase) return std::nullopt;
  return std::sqrt(phase->mean_square);
}

double StepperMotor::rest_current(double air_gap_torque) const {
  return by_load_angle ? current(air_gap_torque) : phase_rms(standing * crest);
}
double StepperMotor::torque_of_current(double current) const {
  return k_torque * std::numbers::sqrt2 * current;
}
std::vector<double> StepperMotor::bends() const {
  if (!by_load_angle || least_share == 0.0) return {};
  return {least_share * k_torque * crest};
}
double StepperMotor::continuous_torque(double speed) const {
  const double most = std::isnan(rated_current) ? crest.value : std::min(crest.value, rated_crest());
  return std::max(0.0, k_torque * most - drag(speed));
}
double StepperMotor::copper(double current) const {
  return std::isnan(warm_resistance) ? 0.0 : system.phases * warm_resistance * current * current;
}

bool StepperMotor::has_model() const {
  return electric() && !std::isnan(k_emf) && !std::isnan(resistance) && !std::isnan(inductance);
}

ChoppedStepper StepperMotor::machine_at(double volts) const {
  return {k_torque, k_emf, warm_resistance, inductance, teeth, crest, system.volts * volts, microsteps};
}

PeakLimits StepperMotor::peak_limits(double speed, const MotorSupply& supply, bool braking) const {
  const double n = std::abs(speed);
  PeakLimits limits;
  if (!electric()) return limits;
  limits.current = holding();
  // braking, drag and back-EMF help: what driving leaves is the safe side of it
  (void)braking;
  if (supply.voltage > 0.0 && (has_model() || !tables.empty()))
    limits.voltage = pull_out_torque(n, supply.voltage);
  return limits;
}

std::vector<double> StepperMotor::peak_corners(const MotorSupply& supply) const {
  std::vector<double> speeds;
  if (tables.empty() && has_model() && supply.voltage > 0.0)
    speeds = by_circles() ? std::vector{corner_speed(machine_at(supply.voltage)),
                                        system.volts * supply.voltage / k_emf}
                          : pull_out_curve(machine_at(supply.voltage))->speeds();
  for (const PullOutTable& table : tables)
    for (const CurvePoint& point : table.points) speeds.push_back(point[0] * supply.voltage / table.volts);
  std::erase_if(speeds, [](double speed) { return !(speed > 0.0); });
  std::sort(speeds.begin(), speeds.end());
  // tables often name the same speeds over voltage
  const auto same = [](double a, double b) { return b - a <= 1e-12 * b; };
  speeds.erase(std::unique(speeds.begin(), speeds.end(), same), speeds.end());
  return speeds;
}

double StepperMotor::fastest_known() const {
  double fastest = 0.0;
  for (const PullOutTable& table : tables) fastest = std::max(fastest, table.points.back()[0]);
  if (fastest > 0.0 || !has_model()) return fastest;
  return std::isnan(max_speed) ? 0.0 : max_speed.value;
}

Term StepperMotor::record_current(const Term& air_gap, StepName step, Recorder& recorder) const {
  if (by_load_angle) {
    const Term follows =
        recorder.apply(book::phase_current_for, step, {air_gap, k_torque, {least_share, ""}, crest});
    recorder.note("Closed over the load angle: the current follows the torque.");
    return follows;
  }
  const Term rms = recorder.apply(book::phase_rms, step, {crest});
  recorder.note("The drive keeps the current of its phases at what is set, whatever the torque.");
  return rms;
}

Term StepperMotor::record_current_at(const Term& air_gap, const Term& speed, const Term& volts, StepName step,
                                     Recorder& recorder) const {
  const double all = current_at(air_gap, speed, volts);
  if (!speed_shapes_current() || all == current(air_gap)) return record_current(air_gap, step, recorder);
  if (!has_model() || all >= phase_rms(crest) * (1.0 - 1e-12)) {
    const Term crest_term = has_model() ? crest : Term{all * std::numbers::sqrt2, ""};
    const Term rms = recorder.apply(book::phase_rms, step, {crest_term});
    recorder.note(has_model() ? "The voltage does not carry this torque: all the current that is set flows."
                              : "By the measured curve: all the current that is set at its torque, "
                                "proportionally less below.");
    return rms;
  }
  const bool braking = air_gap < 0.0;
  const Term rms = recorder.apply(
      book::turned_current, step,
      {air_gap, k_torque, k_emf, braking ? resistance : warm_resistance, inductance, teeth, speed, volts});
  recorder.note("Above the speed that the voltage allows the field is turned ahead, which takes current of "
                "its own.");
  return rms;
}

bool StepperMotor::tells_by_voltage(const MotorSupply&, bool) const { return has_model() && tables.empty(); }

Term StepperMotor::record_by_voltage(const Term& speed, const Term& volts, const MotorSupply&,
                                     Recorder& recorder) const {
  const Term at_phase = system.volts == 1.0
                            ? volts
                            : recorder.apply(book::phase_volts, "phase_volts", {volts, {system.volts, ""}});
  const Term air_gap =
      by_circles()
          ? recorder.apply(book::turned_torque, "by_voltage",
                           {k_torque, k_emf, warm_resistance, inductance, teeth, crest, at_phase, speed})
          : recorder.apply(
                book::pull_out_torque, "by_voltage",
                {k_torque, k_emf, warm_resistance, inductance, teeth, crest, at_phase, microsteps, speed});
  return recorder.apply(book::shaft_torque, "by_voltage_at_shaft", {air_gap, {drag(speed), ""}});
}

std::vector<MotorResult> StepperMotor::results(const Term&, const Term&, Recorder& recorder) const {
  std::vector<MotorResult> out;
  if (!electric()) return out;
  out.push_back({"stepper.holding", "Hold at current set", "T_hold",
                 "At rest with the full current, before it is reduced.", Kind::torque,
                 recorder.apply(book::holding_torque, "stepper.holding", {k_torque, crest})});
  if (system.phases != 2.0) return out;
  out.push_back(
      {"supply.all_phases", "Supply, 2 × phase", "I_2",
       "What the trade adds up: both phases at the current set. Right for a winding fed by voltage; "
       "with a chopper never reached. The peak bus current is the balance of power.",
       Kind::current, recorder.apply(book::supply_for_both, "supply.all_phases", {crest})});
  out.push_back(
      {"supply.microstepped", "Supply, × 0.707", "I_√2",
       "The same where it microsteps, as the phases share: close above what sines can take at most.",
       Kind::current, recorder.apply(book::supply_for_fine, "supply.microstepped", {crest})});
  if (!has_model() || std::isnan(rated_current)) return out;
  out.push_back(
      {"stepper.school_rated", "Supply volts, 15 × rated", "V_15",
       "The school that takes ten to fifteen times R·I: its upper end.", Kind::voltage,
       recorder.apply(book::school_rated, "stepper.school_rated", {{15.0, ""}, resistance, rated_current})});
  out.push_back({"stepper.school_inductance", "Supply volts, 32·√L", "V_L",
                 "The school of the inductance: an upper bound.", Kind::voltage,
                 recorder.apply(book::school_inductance, "stepper.school_inductance", {inductance})});
  return out;
}

} // namespace fulmox
