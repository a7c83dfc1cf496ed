#include "core/motor/winding.hpp"

#include "core/motor/constants.hpp"

#include <cmath>
#include <limits>

namespace fulmox {

LineWinding read_line_winding(const Section& motor, Recorder& recorder) {
  constexpr double unknown = std::numeric_limits<double>::quiet_NaN();
  const std::string& as = motor.text("winding_as");
  const bool wye = as == "phase wye", delta = as == "phase delta";
  LineWinding out{{unknown, ""}, {unknown, ""}};
  if (!motor.blank("resistance"))
    out.resistance = recorder.apply(wye     ? book::resistance_from_wye
                                    : delta ? book::resistance_from_delta
                                            : book::resistance_as_line,
                                    "motor.resistance_line", {motor.term("resistance")});
  out.inductance = read_line_inductance(motor, "inductance", "motor.inductance_line", recorder);
  return out;
}

Term read_line_inductance(const Section& motor, std::string_view field, StepName step, Recorder& recorder) {
  if (motor.blank(field)) return {std::numeric_limits<double>::quiet_NaN(), ""};
  const std::string& as = motor.text("winding_as");
  return recorder.apply(as == "phase wye"     ? book::inductance_from_wye
                        : as == "phase delta" ? book::inductance_from_delta
                                              : book::inductance_as_line,
                        step, {motor.term(field)});
}

Term at_winding_limit(const Term& resistance, const Term& winding_limit, Recorder& recorder) {
  if (std::isnan(winding_limit) || std::isnan(resistance)) return resistance;
  return recorder.apply(book::warm_resistance, "motor.resistance_warm", {resistance, winding_limit});
}

Term read_line_emf(const Section& motor, Recorder& recorder) {
  const Term given = motor.term("ke");
  if (motor.blank("ke")) return given;
  const std::string& as = motor.text("ke_as");
  const Formula& formula = as == "line peak"    ? book::ke_from_line_peak
                           : as == "phase rms"  ? book::ke_from_phase_rms
                           : as == "phase peak" ? book::ke_from_phase_peak
                                                : book::ke_from_line_rms;
  return recorder.apply(formula, "motor.ke_line", {given});
}

} // namespace fulmox
