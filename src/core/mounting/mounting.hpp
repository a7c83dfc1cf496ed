#pragma once
#include "core/form/section.hpp"
#include "core/working/formula.hpp"

#include <span>
#include <string>
#include <string_view>
#include <vector>

namespace fulmox {

/// A flange whose dimensions a standard gives.
struct StandardFlange {
  std::string_view id, label;
  double pilot = 0.0;       ///< m, diameter of the ring that centres it
  double bolt_circle = 0.0; ///< m, diameter of the circle on which the screws stand
};

/// Inch sizes by NEMA ICS 16 and metric ones by IEC 60072-1 (FF with through holes, FT with threads); the
/// dimensions from memory.
std::span<const StandardFlange> standard_flanges();

/// How a motor is fastened, or what a gearhead takes. NaN where not told.
struct Flange {
  Term pilot, bolt_circle; ///< m, diameters

  /// Reads flange, pilot and bolt circle, their names headed by `prefix`; what is typed counts before what
  /// the standard gives.
  static Flange from(const Section& section, std::string_view prefix = "");
};

/// The fields of a motor that say what it fits on: flange, pilot, bolt circle, length of the shaft's end.
std::vector<FieldSpec> motor_mounting_fields();
/// What a gearhead takes: the same with "input_" before them, and the bores of its hub.
std::vector<FieldSpec> gearhead_mounting_fields();

/// How encoders speak.
std::vector<Choice> feedbacks();
/// Of a motor: the one it brings along.
FieldSpec feedback_field();
/// Of a drive: those it reads, with commas between them.
FieldSpec reads_feedback_field();
/// A bit for each of feedbacks() that such a list names, 0 where it is blank; an unknown word is the problem.
Expected<unsigned> read_feedbacks(std::string_view text);

namespace book {
/// |a − b|: by how much two diameters that should be the same differ.
extern const Formula difference;
} // namespace book
std::span<const Formula* const> mounting_formulas();

} // namespace fulmox
