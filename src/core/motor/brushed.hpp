#pragma once
#include "core/motor/dc_fed.hpp"

namespace fulmox {

const SectionSpec& brushed_motor_section();
const MotorKind& brushed_motor();

/// A brushed DC motor with permanent magnets: V = Ke·ω + R·I + V_b, Kt = Ke.
class BrushedMotor final : public DcFedMotor {
public:
  static BrushedMotor from(const Section& sheet, Recorder& recorder);

  [[nodiscard]] std::string_view refuses(Feed feed) const override;
  /// The drop of the brushes ends its braking early: counted with friction, not here.
  [[nodiscard]] std::optional<ShortedMotor> shorted(bool hot_winding) const override {
    if (!electric() || !knows_copper()) return std::nullopt;
    const double r = hot_winding ? warm_resistance : resistance;
    return ShortedMotor{kt * kt * r, r, 0.0, 0.0};
  }
  /// One winding, heated as a whole.
  [[nodiscard]] Phases phases() const override { return {1.0, 1.0}; }
  [[nodiscard]] double emf(double speed) const override { return k * std::abs(speed); }

protected:
  [[nodiscard]] double driven_current(double speed, double volts) const override;
  [[nodiscard]] double volts_for(double speed, double current) const override;
  [[nodiscard]] Term record_volts_for(const Term& speed, const Term& current, StepName step,
                                      Recorder& recorder) const override;
  [[nodiscard]] Term record_driven_torque(const Term& speed, const Term& volts,
                                          Recorder& recorder) const override;
};

} // namespace fulmox
