#pragma once
#include "core/form/section.hpp"
#include "core/form/slot.hpp"

#include <limits>
#include <memory>
#include <span>

namespace fulmox {

/// How a drive feeds a motor's leads.
enum class Feed : std::uint8_t {
  any,      ///< not told: whatever the motor needs
  sine,     ///< three sine currents by the rotor's position
  blocks,   ///< three leads, two of them carrying current at a time (six-step)
  direct,   ///< two leads, direct current of either sign
  bridges,  ///< two phases, each in a full bridge: current of either sign
  unipolar, ///< four half coils, current of one sign in each
  five      ///< five phases
};

/// What is set on a drive for steppers.
struct StepperSettings {
  Term crest = {std::numeric_limits<double>::quiet_NaN(), ""}; ///< A, of a phase's current; NaN: not set
  Term microsteps{1.0, ""};                                    ///< a full step
  Term standing{1.0, ""};                                      ///< share of the current kept at rest
  /// Hz: most pulses that the controller can send, that the drive's input takes; NaN: not told.
  Term controller_rate = {std::numeric_limits<double>::quiet_NaN(), ""}, pulse_rate = controller_rate;
};

/// A drive of any kind. Blank data stay NaN; what is blank of its losses counts as none.
class Drive {
public:
  virtual ~Drive() = default;

  bool chosen = false;
  bool leaves_open = false; ///< what one of its numbers means, see core/form/meaning
  /// A; A; s: in rms ampere of a line.
  Term continuous_current = blank(), peak_current = blank(), peak_time = blank();
  Term rated_peak = blank(); ///< A, of the drive itself; peak_current may be set lower
  Term capacitance = blank(), overvoltage = blank(), bus_min = blank(), bus_max = blank();
  Term brake_power = blank(); ///< W that its brake resistor takes for a moment
  unsigned reads = 0;         ///< bits of feedbacks(); 0 where not told
  Term brake_volts = blank(); ///< V of its brake output
  bool weakening = false;     ///< may push the motor beyond its base speed

  /// What it loses at a line current >= 0, standby included: runs straight in the current. W.
  [[nodiscard]] virtual double loss(double current) const = 0;
  [[nodiscard]] virtual Feed feed() const { return Feed::any; }
  [[nodiscard]] virtual StepperSettings stepper() const { return {}; }
  /// What it can put on a motor from a bus voltage, in the measure of its kind: phase peak of three sines,
  /// volts between two leads for direct current and blocks, on one phase for steppers. And as a step.
  [[nodiscard]] virtual double motor_volts(double bus) const = 0;
  [[nodiscard]] virtual Term record_motor_volts(const Term& bus, StepName step, Recorder& recorder) const = 0;

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
