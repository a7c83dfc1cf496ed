#pragma once
#include "core/form/section.hpp"
#include "core/form/slot.hpp"

#include <limits>
#include <memory>
#include <span>

namespace fulmox {

/// A drive of any kind. Blank data stay NaN; what is blank of its losses counts as none.
class Drive {
public:
  virtual ~Drive() = default;

  bool chosen = false;
  /// A; A; s: in rms ampere of a line.
  Term continuous_current = blank(), peak_current = blank(), peak_time = blank();
  Term capacitance = blank(), overvoltage = blank(), bus_min = blank(), bus_max = blank();
  bool weakening = false; ///< may push the motor beyond its base speed

  /// What it loses at a line current, standby included. W.
  [[nodiscard]] virtual double loss(double current) const = 0;
  /// The phase peak voltage it can make from a bus voltage, and the same as a step.
  [[nodiscard]] virtual double phase_volts(double bus) const = 0;
  [[nodiscard]] virtual Term record_phase_volts(const Term& bus, StepName step, Recorder& recorder) const = 0;

protected:
  /// The fields that every drive's form has.
  void read_common(const Section& sheet);

private:
  static Term blank() { return {std::numeric_limits<double>::quiet_NaN(), ""}; }
};

/// A kind of drive: its form and library, and how to make one.
struct DriveKind {
  SlotKind slot; ///< its form must have the fields that read_common() reads
  std::unique_ptr<const Drive> (*build)(const Section& sheet);
};

std::span<const DriveKind* const> drive_kinds();
/// Adds one; what is already there stays.
void register_drive(const DriveKind& kind);
/// A drive of the kind whose form the section is.
std::unique_ptr<const Drive> build_drive(const Section& sheet);

const SlotSpec& drive_slot();

} // namespace fulmox
