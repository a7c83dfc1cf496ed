#include "core/mounting/mounting.hpp"

#include "core/support/text_lines.hpp"

#include <algorithm>
#include <array>
#include <cmath>

namespace fulmox {
namespace {

constexpr double mm = 1e-3, inch = 25.4e-3;

constexpr std::array flanges{
    // NEMA ICS 16, motion control: the number is the side of the face in tenths of an inch
    StandardFlange{"nema 8", "NEMA 8", 15.0 * mm, 21.78 * mm},
    StandardFlange{"nema 11", "NEMA 11", 22.0 * mm, 32.53 * mm},
    StandardFlange{"nema 14", "NEMA 14", 22.0 * mm, 36.77 * mm},
    StandardFlange{"nema 17", "NEMA 17", 0.866 * inch, 1.725 * inch},
    StandardFlange{"nema 23", "NEMA 23", 1.500 * inch, 2.625 * inch},
    StandardFlange{"nema 34", "NEMA 34", 2.875 * inch, 3.875 * inch},
    StandardFlange{"nema 42", "NEMA 42", 2.186 * inch, 4.950 * inch},
    // IEC 60072-1: the number is the bolt circle in mm
    StandardFlange{"iec 65", "IEC FF/FT 65", 50.0 * mm, 65.0 * mm},
    StandardFlange{"iec 75", "IEC FF/FT 75", 60.0 * mm, 75.0 * mm},
    StandardFlange{"iec 85", "IEC FF/FT 85", 70.0 * mm, 85.0 * mm},
    StandardFlange{"iec 100", "IEC FF/FT 100", 80.0 * mm, 100.0 * mm},
    StandardFlange{"iec 115", "IEC FF/FT 115", 95.0 * mm, 115.0 * mm},
    StandardFlange{"iec 130", "IEC FF/FT 130", 110.0 * mm, 130.0 * mm},
    StandardFlange{"iec 165", "IEC FF/FT 165", 130.0 * mm, 165.0 * mm},
    StandardFlange{"iec 215", "IEC FF/FT 215", 180.0 * mm, 215.0 * mm}};

std::vector<Choice> flange_choices() {
  std::vector<Choice> all;
  for (const StandardFlange& flange : flanges) all.push_back({flange.id, flange.label});
  return all;
}

double difference(double a, double b) { return std::abs(a - b); }

} // namespace

std::span<const StandardFlange> standard_flanges() { return flanges; }

Flange Flange::from(const Section& section, std::string_view prefix) {
  const auto named = [&](std::string_view field) { return std::string(prefix) + std::string(field); };
  Flange flange{section.term_if(named("pilot")), section.term_if(named("bolt_circle"))};
  if (!section.has(named("flange"))) return flange;
  const std::string& id = section.text(named("flange"));
  const std::string_view ref = section.term(named("flange")).ref;
  const auto known =
      std::find_if(flanges.begin(), flanges.end(), [&](const StandardFlange& f) { return f.id == id; });
  if (known == flanges.end()) return flange;
  if (std::isnan(flange.pilot)) flange.pilot = {known->pilot, ref};
  if (std::isnan(flange.bolt_circle)) flange.bolt_circle = {known->bolt_circle, ref};
  return flange;
}

std::vector<FieldSpec> motor_mounting_fields() {
  return {maybe_one_of("flange", "Standard flange", flange_choices(),
                       "Gives pilot and bolt circle where they are left blank. NEMA ICS 16, IEC 60072-1."),
          optional("pilot", "Pilot", "", Kind::length, range::positive,
                   "Diameter of the ring on the flange that centres the motor."),
          optional("bolt_circle", "Bolt circle", "", Kind::length, range::positive,
                   "Diameter of the circle on which the screws stand: 1.414 times their distance where four "
                   "stand in a square."),
          optional("shaft_length", "Shaft's end", "", Kind::length, range::positive,
                   "Free length of the shaft, from the flange.")};
}

std::vector<FieldSpec> gearhead_mounting_fields() {
  return {maybe_one_of("input_flange", "Takes flange", flange_choices(),
                       "Of the motor. Gives pilot and bolt circle where they are left blank. Blank, and "
                       "these too: made to fit the motor, nothing is judged."),
          optional("input_pilot", "Takes pilot", "", Kind::length, range::positive,
                   "Diameter of the motor's ring that it centres."),
          optional("input_bolt_circle", "Takes bolt circle", "", Kind::length, range::positive, ""),
          optional("input_bore_min", "Smallest motor shaft", "", Kind::length, range::positive,
                   "That its hub clamps, with the sleeves its maker sells."),
          optional("input_bore_max", "Largest motor shaft", "", Kind::length, range::positive,
                   "That its hub clamps."),
          optional("input_depth", "Depth for the motor shaft", "", Kind::length, range::positive,
                   "The longest shaft's end that goes in.")};
}

std::vector<Choice> feedbacks() {
  return {{"hall", "Hall sensors"},
          {"incremental", "incremental, square waves"},
          {"sincos", "sine and cosine, 1 V"},
          {"resolver", "resolver"},
          {"serial", "serial, absolute"}};
}

FieldSpec feedback_field() {
  return maybe_one_of("feedback", "Feedback", feedbacks(),
                      "How the motor's encoder speaks. Serial ones have makers' own languages: ask.");
}

FieldSpec reads_feedback_field() {
  return written("reads", "Reads feedback", "",
                 "What encoders the drive reads, with commas between: hall, incremental, sincos, resolver, "
                 "serial. Blank: not judged.");
}

Expected<unsigned> read_feedbacks(std::string_view text) {
  unsigned all = 0;
  const auto known = feedbacks();
  for (std::size_t start = 0; start <= text.size();) {
    const auto end = std::min(text.find(',', start), text.size());
    const std::string word = trimmed(text.substr(start, end - start));
    start = end + 1;
    if (word.empty()) continue;
    const auto named =
        std::find_if(known.begin(), known.end(), [&](const Choice& c) { return c.id == word; });
    if (named == known.end())
      return Problem{"drive.reads", "no feedback is called \"" + word + "\".",
                     "Known are hall, incremental, sincos, resolver and serial, with commas between."};
    all |= 1U << static_cast<unsigned>(named - known.begin());
  }
  return all;
}

namespace book {
const Formula difference{"mounting.difference",
                         "Difference of two diameters",
                         "Δd",
                         "|{a} − {b}|",
                         Kind::length,
                         {{"a", "d_1", Kind::length, "of the one part", range::positive},
                          {"b", "d_2", Kind::length, "of the other", range::positive}},
                         "definition",
                         calling<&fulmox::difference>};
} // namespace book

std::span<const Formula* const> mounting_formulas() {
  static const std::array list{&book::difference};
  return list;
}

} // namespace fulmox
