#include "core/motor/magnets.hpp"

#include "core/motor/constants.hpp"
#include "core/quantity/constants.hpp"

#include <cmath>

namespace fulmox {

FieldSpec magnet_field() {
  return maybe_one_of("magnet", "Magnets", {{"NdFeB", "NdFeB"}, {"SmCo", "SmCo"}, {"ferrite", "ferrite"}},
                      "Hot they give less torque per ampere, cold more back-EMF: Kt and Ke are then taken as "
                      "at 20 °C, torque with hot magnets, volts with cold ones. Blank: both as they stand.");
}

FieldSpec magnet_temperature_field() {
  return optional("magnet_temperature", "Magnets at most", "T_m", Kind::temperature, {253.15, 523.15},
                  "What they reach in duty. Blank: 60 % of the winding's rise above the ambient of the "
                  "catalogue.");
}

Term read_magnets(const Section& sheet, const Term& winding_limit, const Term& catalogue_ambient,
                  Recorder& recorder) {
  const std::string& kind = sheet.text("magnet");
  if (kind.empty()) return {1.0, ""};
  const double per_kelvin = kind == "ferrite" ? -0.0020 : kind == "SmCo" ? -0.0003 : -0.0012;
  Term hot = sheet.term("magnet_temperature");
  if (sheet.blank("magnet_temperature")) {
    constexpr double unknown_limit = 155.0 + constants::zero_celsius; // class F, the usual one
    hot = {usual_magnet_temperature(std::isnan(winding_limit) ? unknown_limit : winding_limit.value,
                                    catalogue_ambient),
           winding_limit.ref};
  }
  return recorder.apply(book::magnet_factor, "motor.magnet_factor", {{per_kelvin, "motor.magnet"}, hot});
}

} // namespace fulmox
