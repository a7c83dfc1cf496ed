// Invented brushed motors, brushless motors for blocks, and their drives. Each motor is consistent by
// construction: Kt from the no-load speed at its voltage, resistance from the heat path at rated torque.

#include "tools/invented.hpp"

#include "core/drive/dc_drive.hpp"
#include "core/motor/brushed.hpp"
#include "core/motor/six_step.hpp"

#include <cmath>
#include <cstdio>
#include <numbers>

namespace fulmox::tools {
namespace {

using constants::rpm;

struct Size {
  int frame;
  double torque, rated_rpm, max_rpm, inertia, r_thermal, mass, shaft; ///< N·m, rpm, kg·m², K/W, kg, mm
  double time_constant;                                               ///< s, L/R
  int pole_pairs;
  double volts;
};

/// What a drive leaves of its supply, and where the no-load speed lies above the rated one.
constexpr double usable = 0.95, no_load_over_rated = 1.45;

struct Laid {
  double kt, current, resistance, k_h, k_e;
};

Laid lay_out(const Size& s, double winding_share) {
  const double rated = s.rated_rpm * rpm;
  Laid out{};
  out.k_h = 0.015 * s.torque;
  out.k_e = 0.02 * s.torque / rated;
  out.kt = std::stod(number(usable * s.volts / (no_load_over_rated * rated)));
  const double drag = out.k_h + out.k_e * rated;
  out.current = (s.torque + drag) / out.kt;
  out.resistance =
      resistance_by_heat(out.current, 1.0, s.r_thermal, (1.0 - winding_share) * s.r_thermal, drag * rated);
  return out;
}

void type_common(Sheet& sheet, const Size& s, const Laid& laid, double winding_share) {
  sheet.type("frame", number(s.frame) + " mm")
      .type("inertia", number(s.inertia * 1e7) + " g.cm2")
      .type("max_speed", number(s.max_rpm) + " rpm")
      .type("resistance", number(laid.resistance) + " Ohm")
      .type("inductance", number(laid.resistance * s.time_constant * 1e3) + " mH")
      .type("rated_current", number(laid.current) + " A")
      .type("hysteresis", number(laid.k_h * 1e3) + " mN.m")
      .type("eddy", number(laid.k_e * 1e3 * 1000.0 * rpm) + " mN.m/krpm")
      .type("r_winding_case", number(winding_share * s.r_thermal) + " K/W")
      .type("r_case_ambient", number((1.0 - winding_share) * s.r_thermal) + " K/W")
      .type("winding_limit", "155 degC")
      .type("catalogue_ambient", "40 degC")
      .type("winding_time", number(8.0 + 0.4 * s.frame, 2) + " s")
      .type("case_time", number(5.0 + 0.2 * s.frame, 2) + " min")
      .type("shaft", number(s.shaft) + " mm")
      .type("mass", number(s.mass, 3) + " kg");
}

/// The continuous curve of the model the sheet already describes.
void type_curve(Sheet& sheet, const Motor& motor, double top) {
  std::string curve;
  for (const double share : {0.0, 0.35, 0.7, 1.0})
    curve += (curve.empty() ? "" : "; ") + number(share * top) +
             " rpm: " + number(motor.continuous_torque(share * top * rpm), 3) + " N.m";
  sheet.type("continuous_curve", curve);
}

Section six_step(const Size& s) {
  constexpr double winding_share = 0.35;
  const Laid laid = lay_out(s, winding_share);
  Sheet sheet(six_step_motor_section());
  char part[48];
  std::snprintf(part, sizeof part, "BW%d-%03d-%02d", s.frame, static_cast<int>(std::lround(s.torque * 100.0)),
                static_cast<int>(s.volts));
  sheet.type("part_number", part).type("maker", "Bramhill (invented)");
  type_common(sheet, s, laid, winding_share);
  sheet.type("kt", number(laid.kt) + " N.m/A")
      .type("kt_per", "dc")
      .type("ke", number(laid.kt * std::numbers::pi / 3.0 * 1000.0 * rpm) + " V/krpm")
      .type("ke_as", "line peak")
      .type("emf_shape", "sine")
      .type("winding_as", "terminal")
      .type("pole_pairs", number(s.pole_pairs))
      .type("peak_current", number(3.0 * laid.current) + " A");
  Recorder silent(false);
  type_curve(sheet, SixStepMotor::from(sheet.section(), silent), no_load_over_rated * s.rated_rpm * 0.9);
  return sheet.take();
}

Section brushed(const Size& s) {
  constexpr double winding_share = 0.65; // the winding turns in the air gap
  const Laid laid = lay_out(s, winding_share);
  Sheet sheet(brushed_motor_section());
  char part[48];
  std::snprintf(part, sizeof part, "KD%d-%03d-%02d", s.frame,
                static_cast<int>(std::lround(s.torque * 1000.0)), static_cast<int>(s.volts));
  sheet.type("part_number", part).type("maker", "Kestrel Dynamo (invented)");
  type_common(sheet, s, laid, winding_share);
  sheet.type("kt", number(laid.kt) + " N.m/A")
      .type("brush_drop", s.frame < 30 ? "0.2 V" : "1.2 V")
      .type("peak_current", number((s.frame < 30 ? 3.0 : 4.0) * laid.current) + " A");
  Recorder silent(false);
  type_curve(sheet, BrushedMotor::from(sheet.section(), silent), no_load_over_rated * s.rated_rpm * 0.9);
  return sheet.take();
}

Section drive(const SectionSpec& form, const char* prefix, const char* maker, double volts, double current) {
  Sheet sheet(form);
  char part[32];
  std::snprintf(part, sizeof part, "%s%02d-%03d", prefix, static_cast<int>(volts),
                static_cast<int>(std::lround(current * 10.0)));
  const double most = volts == 24.0 ? 32.0 : 56.0, trip = volts == 24.0 ? 38.0 : 68.0;
  return sheet.type("part_number", part)
      .type("maker", maker)
      .type("continuous_current", number(current) + " A")
      .type("peak_current", number(2.5 * current) + " A")
      .type("peak_time", "2 s")
      .type("bus_min", volts == 24.0 ? "10 V" : "18 V")
      .type("bus_max", number(most) + " V")
      .type("overvoltage", number(trip) + " V")
      .type("capacitance", number(220.0 * std::max(2.0, current)) + " uF")
      .type("voltage_use", "0.95")
      .type("standby", number(1.5 + 0.1 * current, 2) + " W")
      .type("device_drop", number(0.15 + 0.01 * current, 2) + " V")
      .type("mass", number(0.08 + 0.015 * current, 2) + " kg")
      .take();
}

} // namespace

// Torque, inertia, thermal resistance and mass: plausible magnitudes, from memory.
Parts six_step_motors() {
  constexpr Size sizes[] = {{42, 0.063, 4000, 6500, 2.4e-6, 4.0, 0.3, 5, 0.7e-3, 4, 24},
                            {42, 0.125, 4000, 6500, 4.8e-6, 3.2, 0.45, 5, 0.8e-3, 4, 24},
                            {42, 0.185, 4000, 6500, 7.2e-6, 2.7, 0.65, 5, 0.9e-3, 4, 24},
                            {42, 0.25, 4000, 6500, 9.6e-6, 2.4, 0.85, 5, 0.9e-3, 4, 24},
                            {57, 0.22, 3500, 6000, 11e-6, 2.3, 0.75, 8, 1.0e-3, 4, 24},
                            {57, 0.43, 3500, 6000, 20e-6, 1.9, 1.1, 8, 1.1e-3, 4, 24},
                            {57, 0.64, 3500, 6000, 29e-6, 1.6, 1.5, 8, 1.2e-3, 4, 24},
                            {57, 0.22, 3500, 6000, 11e-6, 2.3, 0.75, 8, 1.0e-3, 4, 48},
                            {57, 0.43, 3500, 6000, 20e-6, 1.9, 1.1, 8, 1.1e-3, 4, 48},
                            {57, 0.64, 3500, 6000, 29e-6, 1.6, 1.5, 8, 1.2e-3, 4, 48},
                            {57, 0.85, 3500, 6000, 38e-6, 1.4, 1.9, 8, 1.2e-3, 4, 48},
                            {80, 0.8, 3000, 4500, 60e-6, 1.3, 2.1, 14, 1.5e-3, 4, 48},
                            {80, 1.4, 3000, 4500, 100e-6, 1.0, 3.0, 14, 1.7e-3, 4, 48},
                            {80, 2.0, 3000, 4500, 140e-6, 0.85, 3.9, 14, 1.9e-3, 4, 48},
                            {80, 2.4, 2500, 4500, 160e-6, 0.8, 4.3, 14, 2.0e-3, 4, 48}};
  Parts parts;
  for (const Size& s : sizes) parts.push_back(six_step(s));
  return parts;
}

Parts brushed_motors() {
  constexpr Size sizes[] = {{16, 0.005, 6000, 10000, 1.1e-7, 25, 0.045, 2, 0.1e-3, 1, 24},
                            {22, 0.012, 5500, 9000, 4.5e-7, 17, 0.11, 2, 0.12e-3, 1, 24},
                            {32, 0.045, 4500, 8000, 3.2e-6, 9, 0.27, 5, 0.25e-3, 1, 24},
                            {40, 0.1, 4000, 7000, 10e-6, 5, 0.45, 6, 0.4e-3, 1, 24},
                            {40, 0.17, 4000, 7000, 18e-6, 4, 0.7, 6, 0.5e-3, 1, 24},
                            {52, 0.22, 3500, 6000, 32e-6, 3.1, 0.95, 8, 0.8e-3, 1, 24},
                            {52, 0.22, 3500, 6000, 32e-6, 3.1, 0.95, 8, 0.8e-3, 1, 48},
                            {63, 0.33, 3300, 5000, 55e-6, 2.4, 1.5, 8, 1.2e-3, 1, 48},
                            {63, 0.55, 3300, 5000, 95e-6, 1.9, 2.2, 8, 1.5e-3, 1, 48},
                            {80, 0.9, 3000, 4500, 240e-6, 1.3, 3.6, 12, 1.9e-3, 1, 48}};
  Parts parts;
  for (const Size& s : sizes) parts.push_back(brushed(s));
  return parts;
}

Parts six_step_drives() {
  Parts parts;
  for (const double volts : {24.0, 48.0})
    for (const double current : {4.0, 8.0, 15.0, 25.0})
      parts.push_back(drive(six_step_drive_section(), "SB", "Elmridge (invented)", volts, current));
  return parts;
}

Parts brushed_drives() {
  Parts parts;
  for (const double volts : {24.0, 48.0})
    for (const double current : {2.0, 5.0, 10.0, 20.0})
      parts.push_back(drive(brushed_drive_section(), "SD", "Elmridge (invented)", volts, current));
  return parts;
}

} // namespace fulmox::tools
