#pragma once
#include "core/motor/dc_fed.hpp"
#include "core/motor/six_step_formulas.hpp"

namespace fulmox {

const SectionSpec& six_step_motor_section();
const MotorKind& six_step_motor();

/// A brushless motor fed with blocks: two of its three leads carry the current at a time.
class SixStepMotor final : public DcFedMotor {
public:
  Term inductance = unknown_term, pole_pairs = unknown_term;
  Term ke = unknown_term; ///< V·s/rad, line-line peak
  bool flat = false;      ///< shape of the back-EMF

  static SixStepMotor from(const Section& sheet, Recorder& recorder);

  [[nodiscard]] std::string_view refuses(Feed feed) const override;
  [[nodiscard]] bool has_circuit() const override;
  /// What the phases' currents heat, which overlap the more the larger the inductance.
  [[nodiscard]] double current_at(double air_gap_torque, double speed, double volts) const override;
  [[nodiscard]] bool speed_shapes_current() const override { return has_circuit(); }
  [[nodiscard]] Term record_current_at(const Term& air_gap, const Term& speed, const Term& volts,
                                       StepName step, Recorder& recorder) const override;
  /// Two of the three carry at a time.
  [[nodiscard]] Phases phases() const override { return {3.0, 1.5}; }
  [[nodiscard]] double emf(double speed) const override { return ke * std::abs(speed); }

  /// As if its back-EMF were a sine of the same crest between the leads: a flat one brakes up to a tenth
  /// more.
  [[nodiscard]] std::optional<ShortedMotor> shorted(bool hot_winding) const override {
    if (!has_circuit() || std::isnan(ke)) return std::nullopt;
    const double r = 0.5 * (hot_winding ? warm_resistance : resistance);
    const double x = 0.5 * pole_pairs * inductance;
    return ShortedMotor{0.5 * magnet * magnet * ke * ke * r, r, x, x};
  }

protected:
  [[nodiscard]] double driven_current(double speed, double volts) const override;
  [[nodiscard]] double volts_for(double speed, double current) const override;
  [[nodiscard]] Term record_volts_for(const Term& speed, const Term& current, StepName step,
                                      Recorder& recorder) const override;
  [[nodiscard]] Term record_driven_torque(const Term& speed, const Term& volts,
                                          Recorder& recorder) const override;

private:
  [[nodiscard]] BlockMachine warm_machine() const;
  [[nodiscard]] Term shape() const { return {flat ? 1.0 : 0.0, "motor.emf_shape"}; }
};

} // namespace fulmox
