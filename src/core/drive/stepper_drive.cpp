#include "core/drive/stepper_drive.hpp"

#include "core/drive/drive_fields.hpp"
#include "core/drive/formulas.hpp"

#include <cmath>
#include <numbers>

namespace fulmox {
namespace {

SectionSpec form(std::string_view id, std::string_view title) {
  return {id, title,
          drive_fields(
              {optional("peak_current", "Greatest current", "I_max", Kind::current, range::positive,
                        "Crest of a phase's current that can be set.")},
              {optional("current_setting", "Current set", "I_set", Kind::current, range::positive,
                        "Of one phase. Blank: what heats like the motor's rating.")
                   .as_setting(),
               maybe_one_of(
                   "current_as", "It is set as",
                   {{"crest", "crest of the sine"}, {"rms", "rms of the sine"}, {"phase", "both phases on"}},
                   "A factor 1.41 lies between them. Blank: crest is assumed.")
                   .as_setting(),
               one_of("microsteps", "Microsteps",
                      {{"1", "full steps"},
                       {"2", "2"},
                       {"4", "4"},
                       {"8", "8"},
                       {"16", "16"},
                       {"32", "32"},
                       {"64", "64"},
                       {"128", "128"},
                       {"256", "256"}},
                      "A full step.")
                   .as_setting(),
               optional("standing_current", "Current kept at rest", "f", Kind::share, {0.0, 1.0, true, false},
                        "Share of the current set; torque falls with it, heat with its square. Blank: all.")
                   .as_setting(),
               optional("start_speed", "Started at", "n_s", Kind::angular_speed, range::not_negative,
                        "Speed the first pulses command at once. Blank: a ramp from nothing.")
                   .as_setting(),
               optional("controller_rate", "Controller's pulse rate", "f_c", Kind::frequency, range::positive,
                        "Most pulses a second it can send.")
                   .as_setting(),
               optional("pulse_rate", "Greatest pulse rate", "f_max", Kind::frequency, range::positive,
                        "That the drive's input takes."),
               standby_field(), device_drop_field()})};
}

SlotKind kind_of(const SectionSpec& spec, std::string_view library, std::string_view name) {
  return {.form = &spec,
          .summary = &part_summary,
          .prominent = {"current_setting", "current_as", "microsteps", "standing_current"},
          .library = library,
          .columns = {"peak_current", "bus_min", "bus_max", "overvoltage", "pulse_rate"},
          .name = name,
          .check = &check_drive_sheet};
}

} // namespace

const SectionSpec& bipolar_drive_section() {
  static const SectionSpec spec = form("bipolar_drive", "Stepper drive, bipolar");
  return spec;
}

const SectionSpec& unipolar_drive_section() {
  static const SectionSpec spec = form("unipolar_drive", "Stepper drive, unipolar");
  return spec;
}

const DriveKind& bipolar_drive() {
  static const DriveKind kind{kind_of(bipolar_drive_section(), "stepper_drives.csv", ""),
                              [](const Section& sheet) -> std::unique_ptr<const Drive> {
                                return std::make_unique<const StepperDrive>(sheet, Feed::bridges);
                              }};
  return kind;
}

const DriveKind& unipolar_drive() {
  static const DriveKind kind{kind_of(unipolar_drive_section(), "unipolar_drives.csv", ""),
                              [](const Section& sheet) -> std::unique_ptr<const Drive> {
                                return std::make_unique<const StepperDrive>(sheet, Feed::unipolar);
                              }};
  return kind;
}

const SectionSpec& five_phase_drive_section() {
  static const SectionSpec spec = form("five_phase_drive", "Stepper drive, five phases");
  return spec;
}

const DriveKind& five_phase_drive() {
  static const DriveKind kind{kind_of(five_phase_drive_section(), "five_phase_drives.csv", ""),
                              [](const Section& sheet) -> std::unique_ptr<const Drive> {
                                return std::make_unique<const StepperDrive>(sheet, Feed::five);
                              }};
  return kind;
}

double crest_of_setting(double setting, std::string_view as, Feed feed) {
  if (as == "phase") return std::sqrt(feed == Feed::five ? 1.6 : 2.0) * setting;
  return as == "rms" ? std::numbers::sqrt2 * setting : setting;
}

StepperDrive::StepperDrive(const Section& sheet, Feed feed) : feed_(feed) {
  read_common(sheet);
  standby = sheet.term_or("standby", 0.0);
  device_drop = sheet.term_or("device_drop", 0.0);
  settings_.microsteps = {std::stod(sheet.text("microsteps")), "drive.microsteps"};
  settings_.standing = sheet.term_or("standing_current", 1.0);
  settings_.controller_rate = sheet.term("controller_rate");
  settings_.pulse_rate = sheet.term("pulse_rate");
  if (sheet.blank("current_setting")) return;
  const Term set = sheet.term("current_setting");
  const double crest = crest_of_setting(set, sheet.text("current_as"), feed_);
  settings_.crest = {crest, set.ref};
}

double StepperDrive::loss(double current) const {
  const double phases = feed_ == Feed::five ? 2.5 : 1.0; // five instead of two
  return standby + phases * stepper_loss(0.0, device_drop, current);
}
double StepperDrive::motor_volts(double bus) const {
  // a whole coil is switched at both ends, a half coil at one
  return bridge_volts(bus, 1.0, feed_ == Feed::unipolar ? 0.5 * device_drop : device_drop.value);
}
Term StepperDrive::record_motor_volts(const Term& bus, StepName step, Recorder& recorder) const {
  const double drop = feed_ == Feed::unipolar ? 0.5 * device_drop : device_drop.value;
  return recorder.apply(book::bridge_volts, step,
                        {bus, {1.0, ""}, {drop, drop == device_drop ? device_drop.ref : ""}});
}

} // namespace fulmox
