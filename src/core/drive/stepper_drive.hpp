#pragma once
#include "core/drive/drive.hpp"

namespace fulmox {

const SectionSpec& bipolar_drive_section();
const SectionSpec& unipolar_drive_section();
const SectionSpec& five_phase_drive_section();
const DriveKind& bipolar_drive();
const DriveKind& unipolar_drive();
const DriveKind& five_phase_drive();

/// A chopper for steppers of two phases, or five: keeps the current of each phase at a sine of the crest set.
class StepperDrive final : public Drive {
public:
  Term standby{0.0, ""};     ///< W
  Term device_drop{0.0, ""}; ///< V

  StepperDrive(const Section& sheet, Feed feed);

  [[nodiscard]] double loss(double current) const override;
  [[nodiscard]] Feed feed() const override { return feed_; }
  [[nodiscard]] StepperSettings stepper() const override { return settings_; }
  [[nodiscard]] double motor_volts(double bus) const override;
  [[nodiscard]] Term record_motor_volts(const Term& bus, StepName step, Recorder& recorder) const override;

private:
  Feed feed_;
  StepperSettings settings_;
};

/// Crest of a phase's sine from a setting: "crest", "rms" (crest/√2), or "phase" (ampere of each phase with
/// both on at once, √2 below the crest that heats alike).
/// With five phases that ampere is meant with four on: √1.6 below.
double crest_of_setting(double setting, std::string_view as, Feed feed = Feed::bridges);

} // namespace fulmox
