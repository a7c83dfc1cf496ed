#pragma once
#include "core/motor/motor.hpp"

namespace fulmox {

/// A motor whose torque follows one direct current: T_g = Kt·I. What sets the kinds apart is how much of that
/// current a voltage can drive at a speed.
class DcFedMotor : public Motor {
public:
  Term kt = unknown_term;                                         ///< N·m/A, magnets hot
  Term k = unknown_term;                                          ///< N·m/A or V·s/rad with cold ones
  Term magnet{1.0, ""};                                           ///< what hot ones leave: kt/k
  Term resistance = unknown_term, warm_resistance = unknown_term; ///< Ω between the leads, at 20 °C and hot
  Term brush_drop{0.0, ""};                                       ///< V
  std::vector<CurvePoint> continuous, peak;                       ///< rad/s, N·m

  [[nodiscard]] std::string_view ampere() const override { return "ampere of direct current"; }
  [[nodiscard]] bool electric() const override { return !std::isnan(kt); }
  [[nodiscard]] double current(double air_gap_torque) const override;
  [[nodiscard]] double torque_of_current(double current) const override { return kt * current; }
  [[nodiscard]] double most_torque_of_current(double current) const override { return k * current; }
  /// Brushes included.
  [[nodiscard]] double copper(double current) const override;
  [[nodiscard]] bool knows_copper() const override { return !std::isnan(resistance); }
  [[nodiscard]] bool has_circuit() const override { return electric() && !std::isnan(resistance); }
  [[nodiscard]] double voltage(double air_gap_torque, double speed, double direction) const override;

  /// By a catalogue curve or by the greatest current.
  [[nodiscard]] bool has_peak() const override;
  [[nodiscard]] double standstill_peak() const override;
  [[nodiscard]] PeakLimits peak_limits(double speed, const MotorSupply& supply, bool braking) const override;
  [[nodiscard]] double least_peak(double slowest, double fastest, const MotorSupply& supply,
                                  bool braking) const override;
  [[nodiscard]] std::vector<double> peak_corners(const MotorSupply& supply) const override;
  /// By a catalogue curve, else by the heat path at the catalogue's ambient.
  [[nodiscard]] bool has_continuous() const override { return !continuous.empty() || has_heat_path(); }
  [[nodiscard]] double continuous_torque(double speed) const override;
  [[nodiscard]] std::span<const CurvePoint> continuous_points() const override { return continuous; }
  [[nodiscard]] double fastest_known() const override;

  [[nodiscard]] Term record_current(const Term& air_gap, StepName step, Recorder& recorder) const override;
  [[nodiscard]] Term record_voltage(double air_gap_torque, double speed, double direction, StepName step,
                                    Recorder& recorder) const override;
  [[nodiscard]] bool tells_by_voltage(const MotorSupply& supply, bool braking) const override;
  [[nodiscard]] Term record_by_voltage(const Term& speed, const Term& volts, const MotorSupply& supply,
                                       Recorder& recorder) const override;
  [[nodiscard]] std::optional<Term> record_base_speed(const Term& volts, StepName step,
                                                      Recorder& recorder) const override;
  [[nodiscard]] std::vector<MotorResult> results(const Term& ambient, const Term& mean_speed,
                                                 Recorder& recorder) const override;

protected:
  /// Current >= 0 that a voltage drives through the warm winding against the back-EMF of cold magnets at a
  /// speed >= 0, motoring. A.
  [[nodiscard]] virtual double driven_current(double speed, double volts) const = 0;
  /// Volts for a current >= 0 while motoring, winding warm.
  [[nodiscard]] virtual double volts_for(double speed, double current) const = 0;
  [[nodiscard]] virtual Term record_volts_for(const Term& speed, const Term& current, StepName step,
                                              Recorder& recorder) const = 0;
  /// What it would make with cold magnets.
  [[nodiscard]] virtual Term record_driven_torque(const Term& speed, const Term& volts,
                                                  Recorder& recorder) const = 0;
  /// Fields that all of them have; constants and winding are each kind's own.
  void read_dc(const Section& sheet);
  /// Takes a torque constant as with cold magnets, and what hot ones leave of it.
  void take_constant(const Term& cold, const Section& sheet, Recorder& recorder);

private:
  [[nodiscard]] bool has_heat_path() const;
};

} // namespace fulmox
