#pragma once
#include "core/drive/drive.hpp"

namespace fulmox {

/// Drives that put a direct voltage on two leads: a bridge for a brushed motor, or blocks on two of the three
/// leads of a brushless one. Two switches carry the current.
const SectionSpec& brushed_drive_section();
const SectionSpec& six_step_drive_section();
const DriveKind& brushed_drive();
const DriveKind& six_step_drive();

class DcDrive final : public Drive {
public:
  Term voltage_use{0.95, ""}; ///< greatest duty
  Term standby{0.0, ""};      ///< W
  Term device_drop{0.0, ""};  ///< V

  DcDrive(const Section& sheet, Feed feed);

  [[nodiscard]] double loss(double current) const override;
  [[nodiscard]] Feed feed() const override { return feed_; }
  [[nodiscard]] double motor_volts(double bus) const override;
  [[nodiscard]] Term record_motor_volts(const Term& bus, StepName step, Recorder& recorder) const override;

private:
  Feed feed_;
};

} // namespace fulmox
