// Supplies of a bus: regulated ones by what they do in overload, and transformers; invented, of plausible
// size (from memory).

#include "tools/invented.hpp"

#include "core/plan/supply_parts.hpp"

#include <cmath>
#include <cstdio>
#include <numbers>

namespace fulmox::tools {
namespace {

const SectionSpec& form_of(std::string_view id) {
  for (const SlotKind& kind : bus_supply_slot().kinds())
    if (kind.form->id == id) return *kind.form;
  return *bus_supply_slot().kinds().front().form;
}

/// What they do in overload: "RC" gives its limit on, "RF" folds back, "RH" switches off, "RB" takes back.
Section regulated(std::string_view series, double volts, double watts) {
  const double amps = watts / volts;
  const bool hiccup = series == "RH", generous = hiccup || series == "RB";
  char part[32];
  std::snprintf(part, sizeof part, "%.2s%02.0f-%04.0f", series.data(), volts, watts);
  Sheet sheet(form_of("regulated_supply"));
  sheet.type("part_number", part)
      .type("maker", "Elmridge (invented)")
      .type("volts", number(volts) + " V")
      .type("droop", number(5.0 * volts / amps, 2) + " mΩ") // half a percent at its rating
      .type("limit", number((generous ? 1.6 : 1.15) * amps, 3) + " A")
      .type("power", number(watts) + " W")
      .type("peak", number((generous ? 1.5 : 1.1) * watts, 4) + " W")
      .type("peak_time", generous ? "4 s" : "60 s")
      .type("backfed_trip", number(1.2 * volts, 3) + " V")
      .type("efficiency", number(86.0 + 2.5 * std::log10(watts), 2) + " %");
  if (series == "RF") sheet.type("overload", "foldback").type("short_current", number(0.4 * amps, 3) + " A");
  if (hiccup) sheet.type("overload", "hiccup").type("trip_time", "80 ms").type("off_time", "0.6 s");
  if (series == "RB") sheet.type("sink", number(0.6 * amps, 3) + " A");
  return sheet.type("mass", number(0.25 + watts / (generous ? 900.0 : 700.0), 2) + " kg").take();
}

Section transformer(double volts, double va, bool three) {
  const double regulation = 30.0 / std::cbrt(va); // the larger, the stiffer
  const double amps = va / (volts * (three ? std::numbers::sqrt3 : 1.0));
  char part[32];
  std::snprintf(part, sizeof part, "%s%02.0f-%04.0f", three ? "TD" : "TR", volts, va);
  return Sheet(form_of("transformer"))
      .type("part_number", part)
      .type("maker", "Fennick (invented)")
      .type("volts", number(volts) + " V")
      .type("amps", number(amps, 3) + " A")
      .type("regulation", number(regulation, 2) + " %")
      .type("quoted", "rated")
      .type("phases", three ? "3" : "1")
      .type("mass", number(0.035 * std::pow(va, 0.78), 2) + " kg")
      .take();
}

} // namespace

Parts regulated_supplies() {
  Parts parts;
  for (const double volts : {24.0, 36.0, 48.0, 60.0, 72.0})
    for (const double watts : {120.0, 240.0, 480.0, 960.0, 1500.0}) {
      if (volts < 30.0 && watts > 1000.0) continue;
      parts.push_back(regulated("RC", volts, watts));
      parts.push_back(regulated("RH", volts, watts));
      if (watts < 500.0) parts.push_back(regulated("RF", volts, watts));
      if (watts > 900.0 && volts > 40.0) parts.push_back(regulated("RB", volts, watts));
    }
  return parts;
}

Parts transformers() {
  Parts parts;
  for (const double volts : {18.0, 24.0, 30.0, 36.0, 45.0, 54.0})
    for (const double va : {160.0, 320.0, 630.0, 1000.0}) parts.push_back(transformer(volts, va, false));
  for (const double volts : {24.0, 36.0, 54.0})
    for (const double va : {1600.0, 2500.0}) parts.push_back(transformer(volts, va, true));
  return parts;
}

} // namespace fulmox::tools
