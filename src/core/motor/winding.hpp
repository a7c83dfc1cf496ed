#pragma once
#include "core/form/section.hpp"
#include "core/working/recorder.hpp"

namespace fulmox {

/// Resistance at 20 °C and inductance between two leads of a three-phase motor; NaN where not told.
struct LineWinding {
  Term resistance, inductance;
};
/// From a form with "resistance", "inductance" and "winding_as"; two leads are assumed where that is blank.
LineWinding read_line_winding(const Section& motor, Recorder& recorder);

/// One inductance of the form by the same reading; NaN when blank.
Term read_line_inductance(const Section& motor, std::string_view field, StepName step, Recorder& recorder);

/// The resistance at the winding's limit; as it is where no limit is known.
Term at_winding_limit(const Term& resistance, const Term& winding_limit, Recorder& recorder);

/// Ke as line-line peak volts per rad/s from a form with "ke" and "ke_as"; NaN when blank.
Term read_line_emf(const Section& motor, Recorder& recorder);

} // namespace fulmox
