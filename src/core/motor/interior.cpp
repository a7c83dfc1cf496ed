#include "core/motor/interior.hpp"

#include "core/motor/constants.hpp"
#include "core/motor/winding.hpp"

#include <algorithm>
#include <array>
#include <cmath>
#include <numbers>

namespace fulmox {

using std::numbers::sqrt2;

bool InteriorServo::told(const ServoMotor& round, const Term& inductance_q) {
  if (std::isnan(inductance_q) || std::isnan(round.inductance) || std::isnan(round.pole_pairs)) return false;
  if (!std::isnan(round.ke_given)) return true;
  return !std::isnan(emf_behind_kt(round.kt_given, round.rated_current,
                                   0.5 * (inductance_q - round.inductance), round.pole_pairs));
}

InteriorServo::InteriorServo(const ServoMotor& round, const Term& across, Recorder& recorder)
    : ServoMotor(round), inductance_q(across) {
  if (std::isnan(ke_given)) {
    k = recorder.apply(book::interior_emf, "motor.k_interior",
                       {kt_given, rated_current, {inductance_q - inductance, inductance_q.ref}, pole_pairs});
    recorder.note("A torque constant at the rated current holds the torque of reluctance: it is taken off.");
    ke = {std::numbers::sqrt3 * k, k.ref};
  }
  // what the magnets alone make of an ampere: the rest grows with the current
  kt = recorder.apply(book::kt_from_ke, "motor.kt_magnets", {ke});
  if (magnet != 1.0) kt = recorder.apply(book::kt_hot, "motor.kt_magnets_hot", {kt, magnet});
  find_bend();
}

InteriorMachine InteriorServo::machine(double resistance_line) const {
  return {k, magnet, 0.5 * resistance_line, 0.5 * inductance, 0.5 * inductance_q, pole_pairs};
}

double InteriorServo::kt_of_ke() const {
  const double amperes = std::isnan(rated_current) ? 0.0 : rated_current.value;
  if (amperes == 0.0) return ServoMotor::kt_of_ke();
  InteriorMachine cold = machine(resistance);
  cold.magnet = 1.0;
  return interior_torque(cold, most_torque_per_ampere(cold, sqrt2 * amperes)) / amperes;
}

double InteriorServo::straight_torque(double current) const {
  const InteriorMachine m = machine(warm_resistance);
  return interior_torque(m, most_torque_per_ampere(m, sqrt2 * current));
}

double InteriorServo::straight_current(double air_gap_torque) const {
  return interior_current(machine(warm_resistance), air_gap_torque) / sqrt2;
}

double InteriorServo::most_torque_of_current(double current) const {
  return torque_of_current(current) / magnet; // reluctance does not fall with heat: above what it is
}

double InteriorServo::unsaturated(double air_gap_torque) const {
  return std::copysign(saturates() ? straight_torque(current(air_gap_torque)) : std::abs(air_gap_torque),
                       air_gap_torque);
}

double InteriorServo::current_at(double air_gap_torque, double speed, double volts) const {
  const double straight = current(air_gap_torque);
  if (!weakened || !has_circuit() || !(volts > 0.0)) return straight;
  const bool brakes = air_gap_torque * speed < 0.0;
  const DqCurrent i =
      least_interior_current(machine(brakes ? resistance : warm_resistance),
                             std::copysign(unsaturated(air_gap_torque), brakes ? -1.0 : 1.0), speed, volts);
  return std::max(straight, std::hypot(i.d, i.q) / sqrt2);
}

double InteriorServo::voltage_left(double air_gap_torque, double speed, double volts) const {
  if (!weakened || !has_circuit() || !(volts > 0.0)) return 1.0;
  const bool brakes = air_gap_torque * speed < 0.0;
  const double amperes = current(air_gap_torque);
  const double needed =
      brakes ? voltage_with(resistance, -amperes, speed) : voltage_with(warm_resistance, amperes, speed);
  return volts * volts - needed * needed;
}

double InteriorServo::voltage_with(double resistance_line, double current, double speed) const {
  const InteriorMachine m = machine(resistance_line);
  return interior_voltage(m, most_torque_per_ampere(m, sqrt2 * current), std::abs(speed));
}

ServoMotor::Most InteriorServo::most_by_voltage(double resistance_line, double speed,
                                                const MotorSupply& supply, bool braking) const {
  const InteriorMachine m = machine(resistance_line);
  const DqCurrent i = best_interior_current(m, speed, supply.voltage, sqrt2 * most_amperes(supply),
                                            supply.weakening, braking);
  const double torque = std::abs(interior_torque(m, i));
  return {interior_current(m, torque) / sqrt2, torque};
}

double InteriorServo::least_peak(double slowest, double fastest, const MotorSupply& supply, bool) const {
  // driving against a torque, a given current takes more voltage the faster it turns, and braking with it
  // less than driving: what is left for driving at the fastest is the least of all
  double least = peak_torque(fastest, supply, false);
  if (!peak.empty()) least = std::min(least, peak_limits(slowest, {}, false).catalogue);
  for (const CurvePoint& point : peak)
    if (point[0] > slowest && point[0] < fastest) least = std::min(least, point[1]);
  return least;
}

std::vector<double> InteriorServo::voltage_corners(double volts, double amperes) const {
  std::vector<double> speeds;
  for (const double ohms : {warm_resistance.value, resistance.value}) {
    const InteriorMachine m = machine(ohms);
    for (const double sense : {1.0, -1.0}) {
      // |R·i + jω·λ| = V with the flux λ of all the current
      const DqCurrent i = most_torque_per_ampere(m, sense * amperes);
      const double across = -m.pole_pairs * m.inductance_q * i.q,
                   along = m.pole_pairs * m.inductance_d * i.d + m.k;
      const double a = across * across + along * along, b = m.resistance * (i.d * across + i.q * along),
                   c = m.resistance * m.resistance * amperes * amperes - volts * volts;
      if (b * b > a * c) speeds.push_back((std::sqrt(b * b - a * c) - b) / a);
    }
  }
  return speeds;
}

bool InteriorServo::tells_by_voltage(const MotorSupply&, bool braking) const {
  return has_circuit() && !braking;
}

Term InteriorServo::record_straight_current(const Term& air_gap, StepName step, Recorder& recorder) const {
  return recorder.apply(book::interior_current, step,
                        {k, magnet, inductance, inductance_q, pole_pairs, air_gap});
}

Term InteriorServo::record_current_at(const Term& air_gap, const Term& speed, const Term& volts,
                                      StepName step, Recorder& recorder) const {
  const double shaped = current_at(air_gap, speed, volts);
  if (shaped == current(air_gap)) return record_current(air_gap, step, recorder);
  const bool brakes = air_gap < 0.0;
  Term torque = air_gap;
  if (saturates() && std::abs(air_gap) > rated_torque()) {
    const Term amperes = record_current(air_gap, "torque_current", recorder);
    torque = recorder.apply(book::interior_torque, "unsaturated_torque",
                            {k, magnet, inductance, inductance_q, pole_pairs, amperes});
    torque.value = std::copysign(torque.value, air_gap);
  }
  const Term all = recorder.apply(book::interior_least_current, step,
                                  {k, magnet, brakes ? resistance : warm_resistance, inductance, inductance_q,
                                   pole_pairs, speed, volts, torque});
  recorder.note("Above the speed that the voltage allows the field is weakened further, which takes current "
                "of its own and heats, also without load.");
  return all;
}

Term InteriorServo::record_voltage_with(const Term& resistance_line, double current, double speed,
                                        StepName step, Recorder& recorder) const {
  const Term along = recorder.apply(book::interior_d_current, "d_current",
                                    {k, magnet, inductance, inductance_q, pole_pairs, {current, ""}});
  return recorder.apply(
      book::interior_voltage, step,
      {k, resistance_line, inductance, inductance_q, pole_pairs, {speed, ""}, {current, ""}, along});
}

Term InteriorServo::record_most_by_voltage(const Term& speed, const Term& volts, const MotorSupply& supply,
                                           Recorder& recorder) const {
  return recorder.apply(book::interior_envelope, "by_voltage",
                        {k,
                         magnet,
                         warm_resistance,
                         inductance,
                         inductance_q,
                         pole_pairs,
                         speed,
                         volts,
                         {sqrt2 * most_amperes(supply), ""},
                         {supply.weakening ? 1.0 : 0.0, ""}});
}

Term InteriorServo::record_heat_torque(const Term& ambient, const Term& mean_speed,
                                       Recorder& recorder) const {
  const Term allowed = recorder.apply(book::heat_current, "motor.continuous_current",
                                      {resistance,
                                       winding_limit,
                                       ambient,
                                       winding_to_case,
                                       case_to_ambient,
                                       {hysteresis, "motor.hysteresis"},
                                       {eddy, "motor.eddy"},
                                       mean_speed});
  const Term air_gap = recorder.apply(book::interior_torque, "motor.continuous_air_gap",
                                      {k, magnet, inductance, inductance_q, pole_pairs, allowed});
  return recorder.apply(book::shaft_torque, "motor.continuous_model", {air_gap, {drag(mean_speed), ""}});
}

std::unique_ptr<ServoMotor> servo_of(const Section& sheet, Recorder& recorder) {
  auto round = std::make_unique<ServoMotor>(ServoMotor::from(sheet, recorder));
  if (sheet.blank("inductance_q")) return round;
  const Term across = read_line_inductance(sheet, "inductance_q", "motor.inductance_line_q", recorder);
  if (InteriorServo::told(*round, across)) return std::make_unique<InteriorServo>(*round, across, recorder);
  // nothing tells the magnets' torque from that of reluctance: the larger inductance is on the safe side
  round->inductance = {std::fmax(round->inductance, across), across.ref};
  return round;
}

} // namespace fulmox
