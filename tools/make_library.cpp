// Writes the part libraries in data/library. Every maker and part is invented; sizes are plausible, and each
// motor is consistent by construction: Kt follows from Ke, the winding resistance from the heat path at rated
// torque, the inductance from the voltage at the corner of the peak curve, both curves from the same model.

#include "tools/invented.hpp"

#include "core/coupling/coupling.hpp"
#include "core/drive/formulas.hpp"
#include "core/drive/sine_drive.hpp"
#include "core/gearhead/gearhead.hpp"
#include "core/library/part_library.hpp"
#include "core/motor/constants.hpp"
#include "core/motor/servo.hpp"
#include "core/quantity/constants.hpp"
#include "core/supply/surroundings.hpp"
#include "core/support/text_file.hpp"

#include <cmath>
#include <cstdio>
#include <numbers>

namespace {

using namespace fulmox;
using constants::rpm;
using tools::number;

constexpr std::string_view notice =
    "Invented parts for examples and trials: no maker, part or price here exists.\n"
    "Columns are described in docs/libraries.md; written by tools/make_library.cpp.";

struct Size {
  int frame, watts;
  double torque, rated_rpm, max_rpm, inertia, r_thermal, mass, shaft;
  int pole_pairs;
};

// Torque N·m, inertia kg·m², thermal resistance K/W, mass kg, shaft mm: plausible magnitudes, from memory.
constexpr Size sizes[] = {
    {40, 50, 0.159, 3000, 6000, 0.025e-4, 3.2, 0.35, 8, 5},
    {40, 100, 0.318, 3000, 6000, 0.045e-4, 2.6, 0.48, 8, 5},
    {60, 200, 0.637, 3000, 6000, 0.16e-4, 1.9, 1.0, 11, 5},
    {60, 400, 1.27, 3000, 6000, 0.30e-4, 1.5, 1.4, 14, 5},
    {80, 750, 2.39, 3000, 6000, 0.95e-4, 1.05, 2.5, 19, 5},
    {80, 1000, 3.18, 3000, 5500, 1.4e-4, 0.9, 3.2, 19, 5},
    {130, 1000, 4.77, 2000, 3000, 7.0e-4, 0.62, 5.6, 22, 5},
    {130, 1500, 7.16, 2000, 3000, 10.5e-4, 0.5, 7.2, 22, 5},
    {130, 2000, 9.55, 2000, 3000, 14e-4, 0.42, 9.0, 22, 5},
    {180, 3000, 19.1, 1500, 2500, 42e-4, 0.28, 16, 35, 4},
    {180, 5000, 31.8, 1500, 2500, 72e-4, 0.21, 24, 35, 4},
};

/// The peak torque of the motor, cold, at a speed on its own catalogue bus.
double model_peak(Section motor, double speed, double bus) {
  Recorder silent(false);
  motor.type("winding_limit", ""); // catalogue curves are taken with a cold winding
  const ServoMotor model = ServoMotor::from(motor, silent);
  return model.peak_torque(speed, {voltage_limit(bus, 0.95), std::numeric_limits<double>::infinity(), false},
                           false);
}

Section make_motor(const Size& size, double bus, bool heavy) {
  constexpr double limit = tools::winding_limit, ambient = tools::catalogue_ambient;
  const double rated = size.rated_rpm * rpm;
  const double top = size.max_rpm * rpm;
  const double r_wc = 0.25 * size.r_thermal;
  const double r_ca = 0.75 * size.r_thermal;
  const double k_h = 0.01 * size.torque;
  const double k_e = 0.02 * size.torque / rated;

  // at top speed the back-EMF takes 80 % of the voltage
  const double voltage = voltage_limit(bus, 0.95);
  const double ke_line_rms = std::stod(number(0.8 * voltage / top * std::sqrt(1.5) * 1000.0 * rpm)); // V/krpm
  const double k = ke_line_rms / (1000.0 * rpm) / std::sqrt(1.5);
  const double kt = kt_from_ke(std::numbers::sqrt3 * k);
  const double rated_current = (size.torque + k_h + k_e * rated) / kt;
  const double peak_torque = 3.0 * size.torque;
  const double peak_current = peak_torque / (0.93 * kt); // 7 % saturation at the peak
  const double resistance =
      tools::resistance_by_heat(rated_current, 1.5, r_wc + r_ca, r_ca, (k_h + k_e * rated) * rated);
  // the peak curve bends a little above rated speed
  const double corner = 1.05 * rated;
  const double i = std::numbers::sqrt2 * peak_current;
  const double active = resistance / 2.0 * i + k * corner;
  const double inductance =
      2.0 / (size.pole_pairs * corner * i) * std::sqrt(voltage * voltage - active * active);
  const double inertia = size.inertia * (heavy ? 3.0 : 1.0);

  Section motor(servo_motor_section());
  const auto type = [&](std::string_view field, const std::string& text) {
    motor.type(field, text, Origin::data_sheet);
  };
  char part[48];
  std::snprintf(part, sizeof part, "%s%d-%04d-%03d%s", heavy ? "VK" : "CR", size.frame, size.watts,
                static_cast<int>(bus), heavy ? "H" : "L");
  type("part_number", part);
  type("maker", heavy ? "Veldmark (invented)" : "Corvane (invented)");
  type("frame", std::to_string(size.frame) + " mm");
  type("inertia", number(inertia * 1e4) + " kg.cm2");
  type("max_speed", number(size.max_rpm) + " rpm");
  type("kt", number(kt) + " N.m/A");
  type("kt_per", "rms");
  type("ke", number(ke_line_rms) + " V/krpm");
  type("ke_as", "line rms");
  type("resistance", number(resistance) + " Ohm");
  type("inductance", number(inductance * 1e3) + " mH");
  type("winding_as", "terminal");
  type("pole_pairs", std::to_string(size.pole_pairs));
  type("rated_current", number(rated_current) + " A");
  type("peak_current", number(peak_current) + " A");
  type("hysteresis", number(k_h * 1e3) + " mN.m");
  type("eddy", number(k_e * 1e3 * 1000.0 * rpm) + " mN.m/krpm");
  type("r_winding_case", number(r_wc) + " K/W");
  type("r_case_ambient", number(r_ca) + " K/W");
  type("winding_limit", "155 degC");
  type("catalogue_ambient", "40 degC");
  type("winding_time", number(20.0 + 0.4 * size.frame, 2) + " s");
  type("case_time", number(10.0 + 0.2 * size.frame, 2) + " min");
  type("shaft", number(size.shaft) + " mm");
  type("encoder", "131072");
  type("mass", number(size.mass * (heavy ? 1.1 : 1.0), 3) + " kg");
  type("brake_torque", number(1.15 * size.torque, 3) + " N.m");
  type("brake_inertia", number(size.inertia * 0.12 * 1e4, 3) + " kg.cm2");
  type("brake_price", number(std::round(45.0 + 14.0 * std::sqrt(size.torque)), 4));

  std::string continuous;
  for (const double speed :
       {0.0, 0.5 * size.rated_rpm, size.rated_rpm, 0.5 * (size.rated_rpm + size.max_rpm), size.max_rpm}) {
    const double torque =
        continuous_torque(kt, resistance, limit, ambient, r_wc, r_ca, k_h, k_e, speed * rpm);
    continuous += (continuous.empty() ? "" : "; ") + number(speed) + " rpm: " + number(torque, 3) + " N.m";
  }
  type("continuous_curve", continuous);
  // a flat provisional curve lets the model apply the saturation while the voltage bends it
  type("peak_curve", "0 rpm: " + number(peak_torque) + " N.m; " + number(size.max_rpm) +
                         " rpm: " + number(peak_torque) + " N.m");
  std::string peak = "0 rpm: " + number(peak_torque, 3) + " N.m";
  const double first = size.rated_rpm;
  for (int step = 0; step <= 6; ++step) {
    const double speed = std::round((first + (size.max_rpm - first) * step / 6.0) / 10.0) * 10.0;
    peak += "; " + number(speed) +
            " rpm: " + number(std::min(peak_torque, model_peak(motor, speed * rpm, bus)), 3) + " N.m";
  }
  type("peak_curve", peak);
  return motor;
}

Parts make_motors() {
  Parts parts;
  for (const Size& size : sizes)
    for (const double bus :
         size.frame <= 80 ? std::vector<double>{48.0, 325.0} : std::vector<double>{325.0, 560.0})
      for (const bool heavy : {false, true}) parts.push_back(make_motor(size, bus, heavy));
  return parts;
}

/// What a head takes at its input: a flange of its own, or an inch one.
struct Input {
  const char *flange, *suffix;
  double pilot, bolts, bore_min, bore_max, depth; ///< mm
};

struct HeadFrame {
  int frame;
  double nominal, inertia, mean_rpm, max_rpm, backlash, stiffness, shaft, mass, no_load;
  std::vector<Input> inputs;
};

Section make_gearhead(const HeadFrame& f, int ratio, const Input& input) {
  // small suns of high ratios carry less
  const double nominal = f.nominal * (ratio == 3 ? 0.8 : ratio == 7 ? 0.9 : ratio == 10 ? 0.65 : 1.0);
  Section gear(gearhead_section());
  const auto type = [&](std::string_view field, const std::string& text) {
    gear.type(field, text, Origin::data_sheet);
  };
  type("part_number", "TP" + std::to_string(f.frame) + "-" + std::to_string(ratio) + input.suffix);
  type("maker", "Tarnwerk (invented)");
  type("ratio", std::to_string(ratio));
  type("frame", std::to_string(f.frame) + " mm");
  type("efficiency", "0.96");
  type("inertia", number(f.inertia * (1.0 + 3.0 / (ratio * ratio)), 3) + " kg.cm2");
  type("no_load", number(f.no_load, 3) + " N.m");
  type("nominal_torque", number(nominal, 3) + " N.m");
  type("continuous_torque", number(0.8 * nominal, 3) + " N.m");
  type("peak_torque", number(1.7 * nominal, 3) + " N.m");
  type("emergency_torque", number(3.0 * nominal, 3) + " N.m");
  type("emergency_stops", "1000");
  type("radial_load", number(100.0 * f.shaft) + " N");
  type("mean_speed", number(f.mean_rpm) + " rpm");
  type("max_speed", number(f.max_rpm) + " rpm");
  type("backlash", number(f.backlash) + " arcmin");
  type("stiffness", number(f.stiffness) + " N.m/arcmin");
  type("shaft", number(f.shaft) + " mm");
  type("mass", number(f.mass) + " kg");
  if (*input.flange != '\0') {
    type("input_flange", input.flange);
  } else {
    type("input_pilot", number(input.pilot, 4) + " mm");
    type("input_bolt_circle", number(input.bolts) + " mm");
  }
  type("input_bore_min", number(input.bore_min) + " mm");
  type("input_bore_max", number(input.bore_max) + " mm");
  type("input_depth", number(input.depth) + " mm");
  return gear;
}

Parts make_gearheads() {
  // planetary, one stage; nominal torque at ratio 5: from memory
  const std::vector<HeadFrame> frames{
      {40,
       6.0,
       0.02,
       4000,
       8000,
       12,
       0.7,
       10,
       0.4,
       0.012,
       {{"", "", 30, 46, 5, 8, 28}, {"nema 17", "-N17", 0, 0, 5, 8, 28}}},
      {60,
       26,
       0.10,
       3300,
       6000,
       8,
       2.5,
       16,
       0.9,
       0.03,
       {{"", "", 50, 70, 8, 14, 35}, {"nema 23", "-N23", 0, 0, 6, 14, 35}}},
      {80,
       60,
       0.45,
       3000,
       6000,
       7,
       6.5,
       22,
       2.2,
       0.08,
       {{"", "", 70, 90, 11, 19, 45}, {"nema 34", "-N34", 0, 0, 9, 19, 45}}},
      {115, 150, 1.9, 2800, 4800, 5, 16, 32, 5.5, 0.2, {{"", "", 110, 145, 16, 24, 60}}},
      {142, 330, 6.0, 2500, 4000, 5, 38, 40, 11, 0.45, {{"", "", 114.3, 200, 22, 35, 85}}}};
  Parts parts;
  for (const HeadFrame& f : frames)
    for (const Input& input : f.inputs)
      for (const int ratio : {3, 5, 7, 10}) parts.push_back(make_gearhead(f, ratio, input));
  return parts;
}

Parts make_drives() {
  struct Class {
    const char* prefix;
    double bus, low, high, trip, farad_per_ampere, drop;
    const char* reads;
    std::vector<double> currents;
  };
  const std::vector<Class> classes{
      {"EL48", 48, 20, 60, 72, 500e-6, 0.35, "hall, incremental, serial", {3, 5, 8, 12, 20, 30}},
      {"EM325",
       325,
       240,
       385,
       410,
       90e-6,
       1.1,
       "incremental, resolver, serial",
       {1, 1.7, 2.8, 4.5, 7.6, 11.6, 16}},
      {"EH560", 560, 430, 720, 780, 45e-6, 1.5, "resolver, serial", {3, 5, 8, 12, 18, 25, 40}}};
  Parts parts;
  for (const Class& c : classes)
    for (const double current : c.currents) {
      Section drive(sine_drive_section());
      const auto type = [&](std::string_view field, const std::string& text) {
        drive.type(field, text, Origin::data_sheet);
      };
      char part[32];
      std::snprintf(part, sizeof part, "%s-%03d", c.prefix, static_cast<int>(std::lround(current * 10.0)));
      type("part_number", part);
      type("maker", "Elmridge (invented)");
      type("continuous_current", number(current) + " A");
      type("peak_current", number(3.0 * current) + " A");
      type("peak_time", current < 10.0 ? "3 s" : "2 s");
      type("bus_min", number(c.low) + " V");
      type("bus_max", number(c.high) + " V");
      type("overvoltage", number(c.trip) + " V");
      type("capacitance", number(std::max(4.0, current) * c.farad_per_ampere * 1e6) + " uF");
      // mains drives bring a small brake resistor along
      if (c.bus > 100.0) type("brake_power", number(3.0 * c.bus * current, 2) + " W");
      type("switching", "16 kHz");
      type("rated_ambient", "45 °C");
      type("rated_altitude", "1000 m");
      type("voltage_use", "0.95");
      type("standby", number(6.0 + 0.4 * current, 2) + " W");
      type("device_drop", number(c.drop) + " V");
      type("reads", c.reads);
      type("brake_volts", "24 V");
      type("weakening", "no");
      type("mass", number(0.3 + 0.06 * current, 2) + " kg");
      parts.push_back(std::move(drive));
    }
  return parts;
}

Parts make_couplings() {
  struct Row {
    double torque, max_rpm, inertia, stiffness, bore_min, bore_max, mass;
  };
  // disc couplings: from memory
  constexpr Row rows[] = {{0.6, 12000, 0.6, 120, 3, 8, 0.012},   {1.0, 12000, 1.2, 260, 4, 10, 0.02},
                          {2.0, 12000, 3.4, 500, 5, 12, 0.035},  {4.0, 12000, 8.0, 1100, 6, 14, 0.06},
                          {6.0, 10000, 14, 2200, 6, 16, 0.09},   {10, 10000, 26, 4500, 8, 19, 0.14},
                          {16, 10000, 60, 7500, 10, 24, 0.24},   {25, 9000, 120, 12000, 10, 28, 0.38},
                          {40, 8000, 230, 20000, 12, 32, 0.55},  {60, 7000, 480, 32000, 14, 38, 0.9},
                          {100, 6000, 1100, 56000, 19, 45, 1.5}, {160, 5000, 2600, 95000, 24, 55, 2.6}};
  Parts parts;
  for (const Row& r : rows) {
    Section coupling(coupling_section());
    const auto type = [&](std::string_view field, const std::string& text) {
      coupling.type(field, text, Origin::data_sheet);
    };
    char part[32];
    std::snprintf(part, sizeof part, "DS%02d-%04d", static_cast<int>(r.bore_max),
                  static_cast<int>(std::lround(r.torque * 10)));
    type("part_number", part);
    type("maker", "Lamella & Sons (invented)");
    type("rated_torque", number(r.torque) + " N.m");
    type("max_speed", number(r.max_rpm, 5) + " rpm");
    type("inertia", number(r.inertia) + " g.cm2");
    type("stiffness", number(r.stiffness, 5) + " N.m/rad");
    type("bore_min", number(r.bore_min) + " mm");
    type("bore_max", number(r.bore_max) + " mm");
    type("mass", number(r.mass) + " kg");
    parts.push_back(std::move(coupling));
  }
  return parts;
}

/// DC supplies: regulated, held within 2 %, half as much again for a moment; the large ones hold 5 %.
Parts make_supplies() {
  struct Row {
    double volts, amperes;
  };
  Parts parts;
  for (const Row& r : std::initializer_list<Row>{{24, 2.5},
                                                 {24, 5},
                                                 {24, 10},
                                                 {24, 20},
                                                 {36, 4},
                                                 {36, 10},
                                                 {48, 2.5},
                                                 {48, 5},
                                                 {48, 10},
                                                 {48, 20},
                                                 {60, 10},
                                                 {72, 15}}) {
    Section supply(surroundings_section());
    const auto type = [&](std::string_view field, const std::string& text) {
      supply.type(field, text, Origin::data_sheet);
    };
    const double watts = r.volts * r.amperes, held = watts > 600.0 ? 0.05 : 0.02;
    char part[32];
    std::snprintf(part, sizeof part, "PW%02.0f-%03.0f", r.volts, 10.0 * r.amperes);
    type("part_number", part);
    type("maker", "Elmridge (invented)");
    type("bus", number(r.volts) + " V");
    type("bus_low", number((1.0 - held) * r.volts) + " V");
    type("bus_high", number((1.0 + held) * r.volts) + " V");
    type("supply_current", number(r.amperes) + " A");
    type("supply_peak", number(1.5 * r.amperes) + " A");
    type("mass", number(0.3 + watts / 700.0, 2) + " kg");
    parts.push_back(std::move(supply));
  }
  return parts;
}

/// A price that looks like one: so much a part and so much a kilogram, by what it is; what else the trade
/// tells of it. Invented.
Parts priced(Parts parts) {
  struct Rate {
    std::string_view form;
    double each, per_kg;
  };
  constexpr std::array rates{
      Rate{"motor", 120, 95},        Rate{"six_step_motor", 45, 60},   Rate{"brushed_motor", 30, 45},
      Rate{"stepper_motor", 14, 28}, Rate{"closed_stepper", 48, 40},   Rate{"five_phase", 60, 55},
      Rate{"brake", 38, 60},         Rate{"gearhead", 140, 85},        Rate{"coupling", 25, 110},
      Rate{"surroundings", 22, 55},  Rate{"regulated_supply", 24, 52}, Rate{"transformer", 18, 21}};
  for (Section& part : parts) {
    Rate rate{"", 55, 130}; // drives
    for (const Rate& known : rates)
      if (known.form == part.spec().id) rate = known;
    part.type("price", number(std::round(rate.each + rate.per_kg * part.term("mass")), 5),
              Origin::data_sheet);
    tools::fit_out(part);
  }
  return parts;
}

/// The file in which parts of this form are looked for.
std::string file_of(const SectionSpec& form) {
  for (const SlotSpec* slot : part_slots())
    for (const SlotKind& kind : slot->kinds())
      if (kind.form == &form) return std::string(kind.library);
  return "";
}

bool write(const std::filesystem::path& folder, const Parts& parts) {
  const std::string file = file_of(parts.front().spec());
  for (const Section& part : parts)
    for (std::size_t i = 0; i < part.size(); ++i)
      if (part.entry(i).faulty()) {
        std::fprintf(stderr, "%s: %s\n", std::string(part.field(i).id).c_str(),
                     part.entry(i).fault.text().c_str());
        return false;
      }
  const auto problem = write_text_file(folder / file, write_parts(parts, columns_for(parts), notice));
  if (problem) std::fprintf(stderr, "%s\n", problem->text().c_str());
  std::printf("%s: %zu parts\n", file.c_str(), parts.size());
  return !problem;
}

} // namespace

int main(int argc, char** argv) {
  if (argc != 2) {
    std::fputs("usage: make_library FOLDER\n", stderr);
    return 2;
  }
  const std::filesystem::path folder = argv[1];
  for (const Parts& parts :
       {make_motors(), tools::six_step_motors(), tools::brushed_motors(), tools::steppers(),
        tools::closed_steppers(), make_gearheads(), make_drives(), tools::six_step_drives(),
        tools::brushed_drives(), tools::stepper_drives(), tools::unipolar_drives(),
        tools::five_phase_motors(), tools::five_phase_drives(), make_couplings(), tools::brakes(),
        make_supplies(), tools::regulated_supplies(), tools::transformers()})
    if (!write(folder, priced(parts))) return 1;
  return 0;
}
