#pragma once
#include "core/motor/interior_formulas.hpp"
#include "core/motor/servo.hpp"

namespace fulmox {

/// A servo motor with magnets inside its rotor: its inductance across them differs from that along them, and
/// currents follow most torque per ampere, bent further where the voltage asks for it.
class InteriorServo final : public ServoMotor {
public:
  /// Reluctance brakes with the magnets.
  [[nodiscard]] std::optional<ShortedMotor> shorted(bool hot_winding) const override {
    auto out = ServoMotor::shorted(hot_winding);
    if (out) out->across = 0.5 * pole_pairs * inductance_q;
    return out;
  }
  /// `inductance_q` line-line, H; the round motor's inductance is the one along the magnets. Without a
  /// back-EMF constant it is what a torque constant at the rated current leaves; where that is missing too
  /// the motor stays round (see servo_of()).
  InteriorServo(const ServoMotor& round, const Term& inductance_q, Recorder& recorder);
  /// Whether K can be told apart from the torque of reluctance.
  static bool told(const ServoMotor& round, const Term& inductance_q);

  Term inductance_q = unknown_term;

  [[nodiscard]] double kt_of_ke() const override;
  [[nodiscard]] double current_at(double air_gap_torque, double speed, double volts) const override;
  [[nodiscard]] bool speed_shapes_current() const override { return true; }
  [[nodiscard]] double voltage_left(double air_gap_torque, double speed, double volts) const override;
  [[nodiscard]] double most_torque_of_current(double current) const override;
  [[nodiscard]] double least_peak(double slowest, double fastest, const MotorSupply& supply,
                                  bool braking) const override;
  [[nodiscard]] bool tells_by_voltage(const MotorSupply& supply, bool braking) const override;
  [[nodiscard]] Term record_current_at(const Term& air_gap, const Term& speed, const Term& volts,
                                       StepName step, Recorder& recorder) const override;

  [[nodiscard]] double straight_torque(double current) const override;

protected:
  [[nodiscard]] Term rated_constant() const override { return {rated_torque() / rated_current, ""}; }
  [[nodiscard]] double straight_current(double air_gap_torque) const override;
  [[nodiscard]] Term record_straight_current(const Term& air_gap, StepName step,
                                             Recorder& recorder) const override;
  [[nodiscard]] double voltage_with(double resistance_line, double current, double speed) const override;
  [[nodiscard]] Term record_voltage_with(const Term& resistance_line, double current, double speed,
                                         StepName step, Recorder& recorder) const override;
  [[nodiscard]] Most most_by_voltage(double resistance_line, double speed, const MotorSupply& supply,
                                     bool braking) const override;
  [[nodiscard]] Term record_most_by_voltage(const Term& speed, const Term& volts, const MotorSupply& supply,
                                            Recorder& recorder) const override;
  [[nodiscard]] std::vector<double> voltage_corners(double volts, double peak_amperes) const override;
  [[nodiscard]] Term record_heat_torque(const Term& ambient, const Term& mean_speed,
                                        Recorder& recorder) const override;

private:
  [[nodiscard]] InteriorMachine machine(double resistance_line) const;
  /// Torque that the same current would make if nothing saturated: what the voltage has to carry.
  [[nodiscard]] double unsaturated(double air_gap_torque) const;
};

/// The servo motor of a form: round, or with magnets inside where an inductance across them is told.
std::unique_ptr<ServoMotor> servo_of(const Section& sheet, Recorder& recorder);

} // namespace fulmox
