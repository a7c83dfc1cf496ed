// What every invented part has beside its data: flange and hub, encoder, how soon it comes.

#include "core/mounting/mounting.hpp"
#include "invented.hpp"

#include <array>
#include <cmath>
#include <numeric>

namespace fulmox::tools {
namespace {

/// Metric servo flanges: pilot, bolt circle, shaft's end in mm (common practice, from memory).
struct Face {
  double frame, pilot, bolts, shaft_length;
};
constexpr std::array faces{Face{40, 30, 46, 25}, Face{60, 50, 70, 30}, Face{80, 70, 90, 40},
                           Face{130, 110, 145, 55}, Face{180, 114.3, 200, 80}};

std::string mm(double metres) { return number(metres * 1e3, 4) + " mm"; }

void put(Section& part, std::string_view field, const std::string& text) {
  part.type(field, text, Origin::data_sheet);
}

/// "23" of "HS23-56-28": a trade number of an inch frame; "" where it has none.
std::string inch_number(const std::string& part) {
  if (!part.starts_with("HS") && !part.starts_with("HE")) return "";
  return part.substr(2, part.find('-') - 2);
}

void mount_motor(Section& motor) {
  const std::string& name = motor.text("part_number");
  const double frame = motor.term("frame") * 1e3;
  if (const std::string inch = inch_number(name); !inch.empty()) {
    put(motor, "flange", "nema " + inch);
    put(motor, "shaft_length", mm(std::stod(inch) < 20 ? 20e-3 : std::stod(inch) < 30 ? 21e-3 : 32e-3));
    return;
  }
  for (const Face& face : faces)
    if (face.frame == frame && motor.spec().id == "motor") {
      put(motor, "pilot", number(face.pilot, 4) + " mm");
      put(motor, "bolt_circle", number(face.bolts) + " mm");
      put(motor, "shaft_length", number(face.shaft_length) + " mm");
      return;
    }
  put(motor, "pilot", number(std::round(0.45 * frame)) + " mm");
  put(motor, "bolt_circle", number(std::round(0.7 * frame)) + " mm");
  put(motor, "shaft_length", number(std::round(8.0 + 0.25 * frame)) + " mm");
}

void connect_servo(Section& motor) {
  const std::string& name = motor.text("part_number");
  const bool low = name.find("-048") != std::string::npos, high = name.find("-560") != std::string::npos;
  put(motor, "max_volts", low ? "75 V" : high ? "850 V" : "420 V");
  put(motor, "feedback", name.starts_with("VK") ? "serial" : high ? "resolver" : "incremental");
}

/// Not said of any real part: so many kilograms fill so much of a square body.
double length_by_mass(double mass, double side, double density) {
  return std::round(mass / (density * side * side) * 1e3) * 1e-3;
}

void measure(Section& part) {
  const double mass = part.term("mass");
  const std::string_view form = part.spec().id;
  double length = std::round(90.0 + 40.0 * std::cbrt(mass)) * 1e-3;
  if (part.has("bore_max")) length = 1.8 * part.term("bore_max");
  if (part.has("frame"))
    length = length_by_mass(mass, part.term("frame"), form == "gearhead" ? 4500.0 : 5200.0);
  if (form == "brake") length = std::round(20.0 + 6.0 * mass) * 1e-3;
  put(part, "length", mm(length));
}

/// Many at hand, few, or none: told by the letters of its number.
void deliver(Section& part) {
  const std::string& name = part.text("part_number");
  const int sum =
      std::accumulate(name.begin(), name.end(), 0, [](int all, char c) { return 31 * all % 9973 + c; });
  constexpr std::array at_hand{0, 40, 12, 3, 0, 8, 25};
  const int stock = at_hand[static_cast<std::size_t>(sum) % at_hand.size()];
  put(part, "stock", std::to_string(stock));
  put(part, "lead_time", std::to_string(stock > 0 ? 3 : 28 + 14 * (sum % 4)) + " d");
}

} // namespace

void fit_out(Section& part) {
  if (part.has("bolt_circle")) mount_motor(part);
  if (part.spec().id == "motor") connect_servo(part);
  if (part.spec().id == "closed_stepper") put(part, "feedback", "incremental");
  if (part.spec().id == "brake") put(part, "coil_volts", "24 V");
  measure(part);
  deliver(part);
}

} // namespace fulmox::tools
