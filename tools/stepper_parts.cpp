// Invented two-phase steppers and their drives. Consistent by construction: the resistance from the heat at
// rest, the inductance from a time constant, measured curves from the model of the program with the scatter
// and the safe rounding of a test bench.

#include "tools/invented.hpp"

#include "core/drive/stepper_drive.hpp"
#include "core/motor/stepper.hpp"

#include <cmath>
#include <cstdio>
#include <numbers>

namespace fulmox::tools {
namespace {

/// J/(kg·K) of the whole motor: a tenth of it copper, the rest iron and aluminium (from memory).
constexpr double copper_heat = 0.1 * 390.0, case_heat = 0.9 * 450.0;

using constants::rpm;

struct Size {
  int frame, length; ///< trade number of the flange, mm of the body
  double side, holding, inertia, watts, time_constant, mass, shaft,
      detent; ///< mm, N·m, kg·m², W, s, kg, mm, N·m
  int leads;
  std::vector<double> amperes;
  std::array<double, 2> volts;
};

Section stepper(const Size& s, double amperes, bool encoder = false) {
  Sheet sheet(encoder ? closed_stepper_section() : stepper_motor_section());
  char part[48];
  std::snprintf(part, sizeof part, encoder ? "HE%d-%d-%02d%s" : "HS%d-%d-%02d%s", s.frame, s.length,
                static_cast<int>(std::lround(amperes * 10.0)),
                s.leads == 8   ? "W"
                : s.leads == 6 ? "C"
                               : "");
  const double resistance = s.watts / (2.0 * amperes * amperes); // both phases at the rated current
  const double constant = s.holding / (std::numbers::sqrt2 * amperes);
  const double k_h = 0.012 * s.holding, k_e = 0.03 * s.holding / (1000.0 * rpm);
  sheet.type("part_number", part)
      .type("maker", "Hallstein Schritt (invented)")
      .type("frame", number(s.side) + " mm")
      .type("inertia", number(s.inertia * 1e7) + " g.cm2")
      .type("max_speed", s.frame < 24 ? "3000 rpm" : "2000 rpm")
      .type("teeth", "50")
      .type("holding_torque", number(s.holding) + " N.m")
      .type("rated_current", number(amperes) + " A")
      .type("rated_for", s.leads == 4 ? "series" : "unipolar")
      .type("leads", number(s.leads))
      .type("resistance", number(resistance) + " Ohm")
      .type("inductance", number(resistance * s.time_constant * 1e3) + " mH")
      .type("ke", number(1.15 * constant * 1000.0 * rpm) + " V/krpm")
      .type("detent", number(s.detent * 1e3) + " mN.m")
      .type("hysteresis", number(k_h * 1e3) + " mN.m")
      .type("eddy", number(k_e * 1e3 * 1000.0 * rpm) + " mN.m/krpm")
      .type("r_winding_case", number(0.35 * 90.0 / s.watts, 3) + " K/W")
      .type("r_case_ambient", number(0.65 * 90.0 / s.watts, 3) + " K/W")
      .type("winding_limit", "130 degC")
      .type("catalogue_ambient", "40 degC")
      .type("winding_time", number(0.35 * 90.0 / s.watts * copper_heat * s.mass, 2) + " s")
      .type("case_time", number(0.65 * 90.0 / s.watts * case_heat * s.mass / 60.0, 2) + " min")
      .type("shaft", number(s.shaft) + " mm")
      .type("mass", number(s.mass, 3) + " kg");
  if (s.leads == 6 || s.leads == 8) sheet.type("connection", "series");
  if (encoder)
    sheet.type("control", s.frame == 17 ? "compensating" : "load angle")
        .type("encoder", s.frame < 23 ? "4000" : "16384");
  // measured on whole phases in series, fine steps, winding still cold
  Section bench = sheet.section();
  bench.type("winding_limit", "");
  Recorder silent(false);
  Section no_drive(bipolar_drive_section());
  no_drive.type("microsteps", "64");
  const StepperMotor motor = StepperMotor::from(bench, StepperDrive(no_drive, Feed::bridges), silent);
  for (std::size_t i = 0; i < s.volts.size(); ++i) {
    std::string curve;
    for (const double n : {60.0, 150.0, 300.0, 450.0, 600.0, 800.0, 1000.0, 1300.0, 1700.0, 2200.0, 3000.0}) {
      const double torque = 0.96 * motor.pull_out_torque(n * rpm, s.volts[i]);
      if (torque < 0.03 * s.holding) break;
      curve += (curve.empty() ? "" : "; ") + number(n) + " rpm: " + number(torque, 3) + " N.m";
    }
    const std::string suffix = i == 0 ? "" : "_2";
    sheet.type("pullout_volts" + suffix, number(s.volts[i]) + " V").type("pullout_curve" + suffix, curve);
  }
  return sheet.take();
}

Section drive(const SectionSpec& form, const char* prefix, double volts, double amperes, double rate) {
  Sheet sheet(form);
  char part[32];
  std::snprintf(part, sizeof part, "%s%02d-%03d", prefix, static_cast<int>(volts),
                static_cast<int>(std::lround(amperes * 10.0)));
  return sheet.type("part_number", part)
      .type("maker", "Elmridge (invented)")
      .type("peak_current", number(amperes) + " A")
      .type("bus_min", number(volts < 40.0   ? 12.0
                              : volts < 60.0 ? 18.0
                                             : 24.0) +
                           " V")
      .type("bus_max", number(volts) + " V")
      .type("overvoltage", number(1.15 * volts) + " V")
      .type("capacitance", number(150.0 * std::max(2.0, amperes)) + " uF")
      .type("pulse_rate", number(rate / 1000.0) + " kHz")
      .type("standby", number(1.0 + 0.25 * amperes, 2) + " W")
      .type("device_drop", number(0.12 + 0.03 * amperes, 2) + " V")
      .type("mass", number(0.1 + 0.03 * amperes, 2) + " kg")
      .take();
}

} // namespace

// Holding torque, inertia, heat and time constant: plausible magnitudes, from memory.
Parts steppers() {
  const std::vector<Size> sizes{
      {11, 32, 28, 0.06, 0.9e-6, 3.0, 0.9e-3, 0.11, 5, 0.002, 4, {0.67}, {24, 12}},
      {11, 51, 28, 0.12, 1.8e-6, 4.0, 1.0e-3, 0.2, 5, 0.004, 4, {0.67}, {24, 12}},
      {14, 28, 35, 0.12, 1.1e-6, 4.2, 1.1e-3, 0.18, 5, 0.006, 4, {0.8}, {24, 12}},
      {14, 36, 35, 0.2, 1.8e-6, 5.0, 1.2e-3, 0.23, 5, 0.008, 4, {0.8, 1.5}, {24, 12}},
      {17, 34, 42, 0.26, 3.5e-6, 7.0, 1.5e-3, 0.22, 5, 0.012, 4, {0.7, 1.3}, {24, 36}},
      {17, 40, 42, 0.4, 5.4e-6, 8.0, 1.7e-3, 0.28, 5, 0.015, 4, {0.9, 1.7}, {24, 36}},
      {17, 48, 42, 0.55, 7.5e-6, 9.5, 1.9e-3, 0.36, 5, 0.02, 4, {1.0, 2.0}, {24, 36}},
      {23, 41, 57, 0.6, 12e-6, 9.0, 2.0e-3, 0.47, 6.35, 0.025, 6, {1.0, 2.0}, {24, 48}},
      {23, 56, 57, 1.26, 30e-6, 11.0, 2.6e-3, 0.72, 6.35, 0.04, 4, {2.8, 4.2}, {24, 48}},
      {23, 56, 57, 0.9, 30e-6, 11.0, 2.2e-3, 0.72, 6.35, 0.04, 8, {2.0, 3.0}, {24, 48}},
      {23, 76, 57, 1.9, 48e-6, 13.0, 3.2e-3, 1.1, 8, 0.068, 4, {2.8, 4.2}, {24, 48}},
      {23, 76, 57, 1.35, 48e-6, 13.0, 2.8e-3, 1.1, 8, 0.068, 8, {2.0, 3.0}, {24, 48}},
      {34, 68, 86, 3.4, 100e-6, 18.0, 4.5e-3, 1.8, 12.7, 0.1, 4, {4.5, 6.0}, {48, 72}},
      {34, 98, 86, 6.5, 185e-6, 23.0, 5.5e-3, 2.8, 12.7, 0.18, 4, {4.5, 6.0}, {48, 72}},
      {34, 98, 86, 4.6, 185e-6, 23.0, 5.0e-3, 2.8, 12.7, 0.18, 8, {3.5}, {48, 72}},
      {34, 128, 86, 9.0, 270e-6, 27.0, 6.5e-3, 3.9, 14, 0.25, 4, {5.0, 6.5}, {48, 72}},
      {42, 150, 110, 18.0, 900e-6, 38.0, 9.0e-3, 8.4, 19, 0.5, 4, {6.5, 8.0}, {72, 96}}};
  Parts parts;
  for (const Size& s : sizes)
    for (const double amperes : s.amperes) parts.push_back(stepper(s, amperes));
  return parts;
}

Parts closed_steppers() {
  const std::vector<Size> sizes{
      {17, 40, 42, 0.4, 6.2e-6, 8.0, 1.7e-3, 0.36, 5, 0.015, 4, {1.7}, {24, 36}},
      {17, 48, 42, 0.55, 8.3e-6, 9.5, 1.9e-3, 0.44, 5, 0.02, 4, {2.0}, {24, 36}},
      {23, 56, 57, 1.2, 32e-6, 11.0, 2.6e-3, 0.85, 8, 0.04, 4, {3.0, 4.2}, {24, 48}},
      {23, 76, 57, 1.9, 50e-6, 13.0, 3.2e-3, 1.25, 8, 0.068, 4, {3.5, 4.2}, {24, 48}},
      {34, 68, 86, 3.4, 105e-6, 18.0, 4.5e-3, 2.0, 14, 0.1, 4, {4.5, 6.0}, {48, 72}},
      {34, 98, 86, 6.5, 190e-6, 23.0, 5.5e-3, 3.0, 14, 0.18, 4, {6.0}, {48, 72}},
      {34, 128, 86, 9.0, 275e-6, 27.0, 6.5e-3, 4.1, 14, 0.25, 4, {6.5}, {48, 72}}};
  Parts parts;
  for (const Size& s : sizes)
    for (const double amperes : s.amperes) parts.push_back(stepper(s, amperes, true));
  return parts;
}

Parts stepper_drives() {
  Parts parts;
  for (const double volts : {36.0, 50.0, 80.0, 110.0})
    for (const double amperes : {1.5, 3.0, 4.5, 6.0, 9.0})
      if (volts < 80.0 ? amperes < 9.0 : amperes > 3.0)
        parts.push_back(drive(bipolar_drive_section(), "SS", volts, amperes, volts < 40.0 ? 200e3 : 400e3));
  return parts;
}

namespace {
struct FiveSize {
  int side, length;
  double holding, inertia, amperes, resistance, inductance, mass, shaft; ///< N·m, kg·m², A, Ω, H, kg, mm
  const char* winding;
};
Section five_phase(const FiveSize& s) {
  Sheet sheet(five_phase_section());
  char part[48];
  std::snprintf(part, sizeof part, "HF%d-%d-%02d", s.side, s.length,
                static_cast<int>(std::lround(s.amperes * 10.0)));
  const double watts = 4.0 * s.resistance * s.amperes * s.amperes;
  const double phase = s.holding / (3.078 * s.amperes);
  return sheet.type("part_number", part)
      .type("maker", "Hallstein Schritt (invented)")
      .type("frame", number(s.side) + " mm")
      .type("inertia", number(s.inertia * 1e7) + " g.cm2")
      .type("max_speed", s.side < 70 ? "3000 rpm" : "2000 rpm")
      .type("teeth", "50")
      .type("holding_torque", number(s.holding) + " N.m")
      .type("phases_on", "4")
      .type("rated_current", number(s.amperes) + " A")
      .type("winding", s.winding)
      .type("resistance", number(s.resistance) + " Ohm")
      .type("inductance", number(s.inductance * 1e3) + " mH")
      .type("ke", number(1.15 * phase * 1000.0 * rpm) + " V/krpm")
      .type("detent", number(0.02 * s.holding * 1e3) + " mN.m")
      .type("hysteresis", number(0.012 * s.holding * 1e3) + " mN.m")
      .type("eddy", number(0.03 * s.holding * 1e3) + " mN.m/krpm")
      .type("r_winding_case", number(0.35 * 90.0 / watts, 3) + " K/W")
      .type("r_case_ambient", number(0.65 * 90.0 / watts, 3) + " K/W")
      .type("winding_limit", "130 degC")
      .type("catalogue_ambient", "40 degC")
      .type("winding_time", number(0.35 * 90.0 / watts * copper_heat * s.mass, 2) + " s")
      .type("case_time", number(0.65 * 90.0 / watts * case_heat * s.mass / 60.0, 2) + " min")
      .type("shaft", number(s.shaft) + " mm")
      .type("mass", number(s.mass, 3) + " kg")
      .take();
}
} // namespace

Parts five_phase_motors() {
  Parts parts;
  for (const FiveSize& s : {FiveSize{42, 33, 0.13, 3.5e-6, 0.75, 1.7, 1.4e-3, 0.25, 5, "pentagon 144"},
                            FiveSize{42, 47, 0.24, 6.8e-6, 0.75, 2.2, 2.2e-3, 0.4, 5, "pentagon 144"},
                            FiveSize{60, 47, 0.48, 18e-6, 1.4, 0.8, 1.4e-3, 0.6, 8, "pentagon 144"},
                            FiveSize{60, 89, 1.66, 56e-6, 1.4, 1.2, 3.0e-3, 1.3, 8, "star"},
                            FiveSize{85, 98, 4.1, 270e-6, 2.8, 0.5, 2.2e-3, 2.8, 14, "pentagon 144"}})
    parts.push_back(five_phase(s));
  return parts;
}

Parts five_phase_drives() {
  Parts parts;
  for (const double amperes : {1.5, 3.0, 6.0})
    parts.push_back(drive(five_phase_drive_section(), "SF", amperes < 2.0 ? 36.0 : 55.0, amperes, 500e3));
  return parts;
}

Parts unipolar_drives() {
  Parts parts;
  for (const double amperes : {1.0, 2.0, 3.0, 5.0})
    parts.push_back(drive(unipolar_drive_section(), "SU", amperes < 2.5 ? 32.0 : 48.0, amperes, 50e3));
  return parts;
}

} // namespace fulmox::tools
