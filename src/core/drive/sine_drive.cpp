#include "core/drive/sine_drive.hpp"

#include "core/drive/formulas.hpp"

namespace fulmox {

const SectionSpec& sine_drive_section() {
  static const SectionSpec spec{
      "drive",
      "Drive",
      {part_number_field(), maker_field(),
       optional("continuous_current", "Continuous current", "I_c", Kind::current, range::positive,
                "Rms line current."),
       optional("peak_current", "Peak current", "I_pk", Kind::current, range::positive, "Rms line current."),
       optional("peak_time", "Peak time", "t_pk", Kind::time, range::positive, "How long the peak may last."),
       optional("bus_min", "Lowest bus voltage", "V_min", Kind::voltage, range::positive, "DC bus."),
       optional("bus_max", "Highest bus voltage", "V_max", Kind::voltage, range::positive,
                "DC bus, operating."),
       optional("overvoltage", "Overvoltage trip", "V_ov", Kind::voltage, range::positive,
                "Bus voltage at which the drive switches off."),
       optional("capacitance", "Bus capacitance", "C", Kind::capacitance, range::positive, ""),
       optional("voltage_use", "Voltage use", "m", Kind::number, {0.0, 1.15, true},
                "Share of the bus a sine can use; blank means 0.95."),
       optional("standby", "Standby power", "P_0", Kind::power, range::not_negative, ""),
       optional("device_drop", "Device drop", "V_ce", Kind::voltage, range::not_negative,
                "Voltage lost in a power switch."),
       maybe_one_of("weakening", "Field weakening", {{"no", "no"}, {"yes", "yes"}}, ""), mass_field()}};
  return spec;
}

const DriveKind& sine_drive() {
  static const DriveKind kind{
      {.form = &sine_drive_section(),
       .summary = &part_summary,
       .prominent = {"continuous_current", "peak_current"},
       .library = "drives.csv",
       .columns = {"continuous_current", "peak_current", "bus_min", "bus_max", "overvoltage"}},
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
double SineDrive::phase_volts(double bus) const { return voltage_limit(bus, voltage_use); }
Term SineDrive::record_phase_volts(const Term& bus, StepName step, Recorder& recorder) const {
  return recorder.apply(book::voltage_limit, step, {bus, voltage_use});
}

} // namespace fulmox
