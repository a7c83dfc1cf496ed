#pragma once
#include "core/motor/envelope.hpp"
#include "core/motor/motor.hpp"

namespace fulmox {

/// The form of a servo motor; also the columns of a motor library.
const SectionSpec& servo_motor_section();
const MotorKind& servo_motor();

/// A permanent-magnet servo motor on a sine drive.
class ServoMotor : public Motor {
public:
  Term kt = unknown_term, ke = unknown_term, k = unknown_term, resistance = unknown_term,
       inductance = unknown_term, pole_pairs = unknown_term, rated_current = unknown_term;
  Term warm_resistance = unknown_term; ///< line-line, at the winding limit when known, else as `resistance`
  Term magnet{1.0, ""};  ///< what hot magnets leave of the torque per ampere; `k` is with cold ones
  bool weakened = false; ///< its drive may weaken the field
  std::vector<CurvePoint> continuous, peak;              ///< rad/s, N·m
  Term kt_given = unknown_term, ke_given = unknown_term; ///< before one stood in for the other

  static ServoMotor from(const Section& motor, Recorder& recorder);

  /// Kt(rms) = √(3/2)·Ke(ll,pk), as for every round sine machine: what the typed back-EMF stands for, with
  /// cold magnets; NaN where it cannot be told.
  [[nodiscard]] virtual double kt_of_ke() const;

  [[nodiscard]] std::string_view refuses(Feed feed) const override;
  [[nodiscard]] bool electric() const override;
  /// Follows the maker's peak point where the motor saturates.
  [[nodiscard]] double current(double air_gap_torque) const override;
  /// With a weakened field its own current counts as well.
  [[nodiscard]] double current_at(double air_gap_torque, double speed, double volts) const override;
  [[nodiscard]] bool speed_shapes_current() const override { return weakened && has_circuit(); }
  [[nodiscard]] double voltage_left(double air_gap_torque, double speed, double volts) const override;
  [[nodiscard]] double torque_of_current(double current) const override;
  [[nodiscard]] double most_torque_of_current(double current) const override {
    return torque_of_current(current) / magnet;
  }
  [[nodiscard]] std::vector<double> bends() const override;
  [[nodiscard]] double copper(double current) const override;
  [[nodiscard]] std::optional<ShortedMotor> shorted(bool hot_winding) const override {
    if (!has_circuit()) return std::nullopt;
    const double r = 0.5 * (hot_winding ? warm_resistance : resistance), hot = magnet * k;
    const double x = 0.5 * pole_pairs * inductance;
    return ShortedMotor{1.5 * hot * hot * r, r, x, x};
  }
  [[nodiscard]] bool has_circuit() const override; ///< K, R, L, pole pairs known
  [[nodiscard]] double voltage(double air_gap_torque, double speed, double direction) const override;
  [[nodiscard]] double emf(double speed) const override;

  [[nodiscard]] bool has_peak() const override { return !peak.empty(); }
  [[nodiscard]] double standstill_peak() const override { return peak.empty() ? 0.0 : peak.front()[1]; }
  [[nodiscard]] PeakLimits peak_limits(double speed, const MotorSupply& supply, bool braking) const override;
  [[nodiscard]] double least_peak(double slowest, double fastest, const MotorSupply& supply,
                                  bool braking) const override;
  /// Points of the curve, and where curve, current and voltage take turns in limiting the torque.
  [[nodiscard]] std::vector<double> peak_corners(const MotorSupply& supply) const override;
  [[nodiscard]] bool has_continuous() const override { return !continuous.empty(); }
  [[nodiscard]] double continuous_torque(double speed) const override {
    return read_curve(continuous, std::abs(speed));
  }
  [[nodiscard]] std::span<const CurvePoint> continuous_points() const override { return continuous; }
  [[nodiscard]] double fastest_known() const override;

  [[nodiscard]] Term record_current(const Term& air_gap, StepName step, Recorder& recorder) const override;
  [[nodiscard]] Term record_current_at(const Term& air_gap, const Term& speed, const Term& volts,
                                       StepName step, Recorder& recorder) const override;
  [[nodiscard]] Term record_voltage(double air_gap_torque, double speed, double direction, StepName step,
                                    Recorder& recorder) const override;
  [[nodiscard]] bool tells_by_voltage(const MotorSupply& supply, bool braking) const override;
  [[nodiscard]] Term record_by_voltage(const Term& speed, const Term& volts, const MotorSupply& supply,
                                       Recorder& recorder) const override;
  [[nodiscard]] std::optional<Term> record_base_speed(const Term& volts, StepName step,
                                                      Recorder& recorder) const override;
  /// The motor constant, and the torque of the heat path beside the catalogue's: shown so that a gap is seen.
  [[nodiscard]] std::vector<MotorResult> results(const Term& ambient, const Term& mean_speed,
                                                 Recorder& recorder) const override;

  /// Whether the maker's peak point lies below Kt times its current.
  [[nodiscard]] bool saturates() const { return bend_.has_value(); }
  /// Air-gap torque of an rms current where nothing saturates.
  [[nodiscard]] virtual double straight_torque(double current) const { return kt * current; }
  /// Air-gap torque at rated current, up to which current follows torque in a straight line from 0.
  [[nodiscard]] double rated_torque() const { return straight_torque(rated_current); }
  /// Air-gap torque of the maker's peak point: curves are torques at the shaft, drag is already off.
  [[nodiscard]] double peak_air_gap() const;

protected:
  /// Works out whether it saturates, once all of the sheet is read.
  void find_bend();

  // What a rotor with magnets inside answers otherwise.

  /// Torque over current at the rated one.
  [[nodiscard]] virtual Term rated_constant() const { return kt; }
  /// The current of an air-gap torque where nothing saturates, A rms.
  [[nodiscard]] virtual double straight_current(double air_gap_torque) const { return air_gap_torque / kt; }
  [[nodiscard]] virtual Term record_straight_current(const Term& air_gap, StepName step,
                                                     Recorder& recorder) const;
  /// Phase peak voltage; an rms current below 0 brakes.
  [[nodiscard]] virtual double voltage_with(double resistance_line, double current, double speed) const;
  [[nodiscard]] virtual Term record_voltage_with(const Term& resistance_line, double current, double speed,
                                                 StepName step, Recorder& recorder) const;
  /// The greatest torque that voltage and current leave, with a resistance between the leads: its current of
  /// the same size where nothing saturates, and the torque in the air gap.
  struct Most {
    double current = 0.0, torque = 0.0; ///< A rms, N·m, both >= 0
  };
  [[nodiscard]] virtual Most most_by_voltage(double resistance_line, double speed, const MotorSupply& supply,
                                             bool braking) const;
  [[nodiscard]] virtual Term record_most_by_voltage(const Term& speed, const Term& volts,
                                                    const MotorSupply& supply, Recorder& recorder) const;
  /// Speeds at which the voltage begins to bound a peak current.
  [[nodiscard]] virtual std::vector<double> voltage_corners(double volts, double peak_amperes) const;
  /// The torque that the heat path allows, as a step.
  [[nodiscard]] virtual Term record_heat_torque(const Term& ambient, const Term& mean_speed,
                                                Recorder& recorder) const;
  /// Rms ampere: the least of drive and motor; not finite where neither is told.
  [[nodiscard]] double most_amperes(const MotorSupply& supply) const;

private:
  /// The winding as the worst for a current: warm; cold when braking, where it helps least.
  [[nodiscard]] SineMachine machine(bool braking) const;

  /// Between rated current and the maker's peak point the current follows another straight line. Asked with
  /// every current, so it is kept.
  struct Bend {
    double rated = 0.0, peak = 0.0; ///< N·m in the air gap
    double constant = 0.0;          ///< N·m/A rms, up to the rated current
  };
  std::optional<Bend> bend_;
};

} // namespace fulmox
