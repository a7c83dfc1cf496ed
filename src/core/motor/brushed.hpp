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
