#include "core/drive/dc_drive.hpp"

#include "core/drive/drive_fields.hpp"
#include "core/drive/formulas.hpp"

namespace fulmox {
namespace {

SectionSpec form(std::string_view id, std::string_view title) {
  return {id, title,
          drive_fields(overload_currents("Direct current."),
                       {optional("voltage_use", "Voltage use", "m", Kind::number, {0.0, 1.0, true},
                                 "Greatest share of the bus on the leads; blank means 0.95."),
                        standby_field(), device_drop_field()})};
}

SlotKind kind_of(const SectionSpec& spec, std::string_view library) {
  return {.form = &spec,
          .summary = &part_summary,
          .prominent = {"continuous_current", "peak_current"},
          .library = library,
          .columns = {"continuous_current", "peak_current", "bus_min", "bus_max", "overvoltage"},
          .check = &check_drive_sheet};
}

} // namespace

const SectionSpec& brushed_drive_section() {
  static const SectionSpec spec = form("brushed_drive", "Drive for brushed motors");
  return spec;
}

const SectionSpec& six_step_drive_section() {
  static const SectionSpec spec = form("six_step_drive", "Six-step drive");
  return spec;
}

const DriveKind& brushed_drive() {
  static const DriveKind kind{kind_of(brushed_drive_section(), "brushed_drives.csv"),
                              [](const Section& sheet) -> std::unique_ptr<const Drive> {
                                return std::make_unique<const DcDrive>(sheet, Feed::direct);
                              }};
  return kind;
}

const DriveKind& six_step_drive() {
  static const DriveKind kind{kind_of(six_step_drive_section(), "six_step_drives.csv"),
                              [](const Section& sheet) -> std::unique_ptr<const Drive> {
                                return std::make_unique<const DcDrive>(sheet, Feed::blocks);
                              }};
  return kind;
}

DcDrive::DcDrive(const Section& sheet, Feed feed) : feed_(feed) {
  constexpr double usual_voltage_use = 0.95;
  read_common(sheet);
  voltage_use = sheet.term_or("voltage_use", usual_voltage_use);
  standby = sheet.term_or("standby", 0.0);
  device_drop = sheet.term_or("device_drop", 0.0);
}

double DcDrive::loss(double current) const { return bridge_loss(standby, device_drop, current); }
double DcDrive::motor_volts(double bus) const { return bridge_volts(bus, voltage_use, device_drop); }
Term DcDrive::record_motor_volts(const Term& bus, StepName step, Recorder& recorder) const {
  return recorder.apply(book::bridge_volts, step, {bus, voltage_use, device_drop});
}

} // namespace fulmox
