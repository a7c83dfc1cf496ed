#pragma once
#include "core/drive/drive.hpp"

namespace fulmox {

/// The form of a servo drive; also the columns of a drive library.
const SectionSpec& sine_drive_section();
const DriveKind& sine_drive();

/// A drive that makes three sine currents from a bus.
class SineDrive final : public Drive {
public:
  Term voltage_use{0.95, ""}; ///< m, share of the bus a sine can use
  Term standby{0.0, ""};      ///< W
  Term device_drop{0.0, ""};  ///< V

  static SineDrive from(const Section& sheet);

  [[nodiscard]] double loss(double current) const override;
  [[nodiscard]] Feed feed() const override { return Feed::sine; }
  [[nodiscard]] double motor_volts(double bus) const override;
  [[nodiscard]] Term record_motor_volts(const Term& bus, StepName step, Recorder& recorder) const override;
};

} // namespace fulmox
