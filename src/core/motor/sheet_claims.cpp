#include "core/motor/sheet_claims.hpp"

namespace fulmox {
namespace {
constexpr std::string_view compared = "Only compared with the rest of the sheet.";
}

std::vector<FieldSpec> sheet_claims() {
  return {optional("motor_constant", "Sheet's Km", "K_m", Kind::motor_constant, range::positive,
                   "Torque per root of copper loss, like 0.09 N·m/√W. Only compared with the rest."),
          optional("electrical_time", "Sheet's L/R", "τ_e", Kind::time, range::positive, compared),
          optional("mechanical_time", "Sheet's mechanical time", "τ_m", Kind::time, range::positive,
                   "Rotor inertia over the square of Km. Only compared with the rest of the sheet."),
          optional("rated_power", "Rated power", "P_r", Kind::power, range::positive, compared),
          optional("rated_speed", "Rated speed", "n_r", Kind::angular_speed, range::positive,
                   "Where rated power is quoted. Only compared with the rest of the sheet.")};
}

std::vector<FieldSpec> direct_current_claims() {
  std::vector<FieldSpec> all = sheet_claims();
  all.push_back(
      optional("nominal_voltage", "Nominal voltage", "V_n", Kind::voltage, range::positive,
               "Of the data without load and at a stall. Only compared with the rest of the sheet."));
  all.push_back(
      optional("no_load_speed", "Speed without load", "n_0", Kind::angular_speed, range::positive, compared));
  all.push_back(optional("no_load_current", "Current without load", "I_0", Kind::current, range::not_negative,
                         compared));
  return all;
}

std::vector<FieldSpec> brushed_claims() {
  std::vector<FieldSpec> all = direct_current_claims();
  all.push_back(optional("stall_torque", "Stall torque", "T_s", Kind::torque, range::positive,
                         "At nominal voltage, cold. Only compared with the rest of the sheet."));
  return all;
}

std::vector<FieldSpec> stepper_claims() {
  return {optional("rated_voltage", "Rated voltage", "V_r", Kind::voltage, range::positive,
                   "R·I of one phase, no supply. Only compared with the rest of the sheet.")};
}

} // namespace fulmox
