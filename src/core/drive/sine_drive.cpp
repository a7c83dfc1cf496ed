#include "core/drive/sine_drive.hpp"

#include "core/drive/drive_fields.hpp"
#include "core/drive/formulas.hpp"

namespace fulmox {

const SectionSpec& sine_drive_section() {
  static const SectionSpec spec{
      "drive", "Drive",
      drive_fields(overload_currents("Rms line current."),
                   {optional("voltage_use", "Voltage use", "m", Kind::number, {0.0, 1.15, true},
                             "Share of the bus a sine can use; blank means 0.95."),
                    standby_field(), device_drop_field(),
                    maybe_one_of("weakening", "Field weakening", {{"no", "no"}, {"yes", "yes"}}, "")})};
  return spec;
}

const DriveKind& sine_drive() {
  static const DriveKind kind{
      {.form = &sine_drive_section(),
       .summary = &part_summary,
       .prominent = {"continuous_current", "peak_current"},
       .library = "drives.csv",
       .columns = {"continuous_current", "peak_current", "bus_min", "bus_max", "overvoltage"},
       .name = "Servo drive, sine currents",
       .check = &check_drive_sheet},
      [](const Section& sheet) -> std::unique_ptr<const Drive> {
        return std::make_unique<const SineDrive>(SineDrive::from(sheet));
      }};
  return kind;
}

SineDrive SineDrive::from(const Section& sheet) {
  constexpr double usual_voltage_use = 0.95;
  SineDrive drive;
  drive.read_common(sheet);
  drive.voltage_use = sheet.term_or("voltage_use", usual_voltage_use);
  drive.standby = sheet.term_or("standby", 0.0);
  drive.device_drop = sheet.term_or("device_drop", 0.0);
  drive.weakening = sheet.text("weakening") == "yes";
  return drive;
}

double SineDrive::loss(double current) const { return drive_loss(standby, device_drop, current); }
double SineDrive::motor_volts(double bus) const { return voltage_limit(bus, voltage_use); }
Term SineDrive::record_motor_volts(const Term& bus, StepName step, Recorder& recorder) const {
  return recorder.apply(book::voltage_limit, step, {bus, voltage_use});
}

} // namespace fulmox
