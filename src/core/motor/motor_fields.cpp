#include "core/motor/motor_fields.hpp"

#include "core/mounting/mounting.hpp"

#include <iterator>
#include <utility>

namespace fulmox {

FieldSpec rotor_inertia_field() {
  return optional("inertia", "Rotor inertia", "J_m", Kind::inertia, range::positive, "Without brake.");
}

FieldSpec continuous_curve_field() {
  return points("continuous_curve", "Continuous torque", "T_c(n)", Kind::angular_speed, Kind::torque,
                range::not_negative, "Catalogue curve, like 0 rpm: 1.3 N.m; 3000 rpm: 1.27 N.m");
}

FieldSpec peak_curve_field() {
  return points("peak_curve", "Peak torque", "T_pk(n)", Kind::angular_speed, Kind::torque,
                range::not_negative, "Catalogue curve for short times.");
}

FieldSpec resistance_field(std::string_view help) {
  return optional("resistance", "Resistance", "R", Kind::resistance, range::positive, help);
}

FieldSpec inductance_field(std::string_view help) {
  return optional("inductance", "Inductance", "L", Kind::inductance, range::positive, help);
}

FieldSpec encoder_field() {
  return optional("encoder", "Encoder", "N_e", Kind::number, range::positive, "Counts a turn after ×4.");
}

FieldSpec pole_pairs_field() {
  return optional("pole_pairs", "Pole pairs", "p", Kind::number, {1.0, 100.0}, "Half the number of poles.");
}

FieldSpec winding_as_field() {
  return maybe_one_of(
      "winding_as", "R and L refer to",
      {{"terminal", "two leads"}, {"phase wye", "one phase, wye"}, {"phase delta", "one phase, delta"}},
      "Between two leads, or one phase: then wye or delta must be known.");
}

FieldSpec rated_current_field(std::string_view help) {
  return optional("rated_current", "Rated current", "I_r", Kind::current, range::positive, help);
}

FieldSpec peak_current_field(std::string_view help) {
  return optional("peak_current", "Peak current", "I_pk", Kind::current, range::positive, help);
}

std::vector<FieldSpec> motor_fields(std::vector<FieldSpec> own, std::vector<FieldSpec> claims) {
  std::vector<FieldSpec> all{
      part_number_field(), maker_field(),
      optional("frame", "Frame size", "", Kind::length, range::positive, "Side of the flange."),
      rotor_inertia_field(),
      optional("max_speed", "Maximum speed", "n_max", Kind::angular_speed, range::positive,
               "Mechanical limit.")};
  all.insert(all.end(), std::make_move_iterator(own.begin()), std::make_move_iterator(own.end()));
  const std::vector<FieldSpec> rest{
      optional("hysteresis", "Friction and hysteresis", "k_h", Kind::torque, range::not_negative,
               "Drag that does not depend on speed."),
      optional("eddy", "Eddy-current drag", "k_e", Kind::iron_viscous, range::not_negative,
               "Drag that grows with speed, like 5 mN.m/krpm."),
      optional("r_winding_case", "Winding to case", "R_wc", Kind::thermal_resistance, range::positive, ""),
      optional("r_case_ambient", "Case to ambient", "R_ca", Kind::thermal_resistance, range::positive,
               "On the mounting plate of the catalogue."),
      optional("winding_limit", "Winding limit", "T_lim", Kind::temperature, {273.15, 573.15},
               "Insulation class, IEC 60085: B 130, F 155, H 180 °C."),
      optional("catalogue_ambient", "Catalogue ambient", "T_cat", Kind::temperature, {223.15, 373.15},
               "Usually 40 °C."),
      optional("winding_time", "Winding time constant", "τ_w", Kind::time, range::positive, ""),
      optional("case_time", "Case time constant", "τ_c", Kind::time, range::positive, ""),
      optional("shaft", "Shaft diameter", "d", Kind::length, range::positive, ""),
      optional("radial_load", "Load across the shaft", "F_r", Kind::force, range::positive,
               "At the middle of the shaft's end."),
      optional("axial_load", "Load along the shaft", "F_a", Kind::force, range::positive,
               "Along the motor's shaft."),
      optional("max_volts", "Bus it bears", "V_max", Kind::voltage, range::positive,
               "Highest DC bus that its insulation and connector are made for."),
      optional("brake_torque", "Brake option", "T_b", Kind::torque, range::positive,
               "Holding torque of the maker's own brake."),
      optional("brake_inertia", "Brake inertia", "J_b", Kind::inertia, range::not_negative,
               "Added by the maker's own brake."),
      optional("brake_price", "Brake price", "", Kind::number, range::not_negative,
               "What the maker's own brake adds to the price.")};
  all.insert(all.end(), rest.begin(), rest.end());
  for (auto fields : {motor_mounting_fields(), trade_fields()})
    all.insert(all.end(), std::make_move_iterator(fields.begin()), std::make_move_iterator(fields.end()));
  all.insert(all.end(), std::make_move_iterator(claims.begin()), std::make_move_iterator(claims.end()));
  return all;
}

} // namespace fulmox
