#include "core/mechanism/screw_drive.hpp"

#include "core/mechanism/screw_formulas.hpp"
#include "core/mechanism/spring_formulas.hpp"
#include "core/quantity/constants.hpp"

#include <algorithm>
#include <cmath>

namespace fulmox {

std::vector<FieldSpec> screw_fields(std::string_view lead, std::string_view diameter) {
  return {
      needed("lead", "Lead", "p", Kind::lead, range::positive, lead, "Travel per turn of the screw."),
      needed("diameter", "Nominal diameter", "d", Kind::length, range::positive, diameter,
             "Outside diameter of the thread."),
      needed("length", "Length", "L", Kind::length, range::positive, "500 mm",
             "Overall length of the screw."),
      one_of("held", "Held along its axis", {{"one", "at one end"}, {"both", "at both ends"}},
             "By its bearings: both ends hold it four times as stiff in the middle."),
      optional("nut_stiffness", "Stiffness of nut and bearings", "k_n", Kind::stiffness, range::positive,
               "Along the axis, both together in a row. Blank: rigid, and said so."),
      needed("density", "Density", "ρ", Kind::density, range::positive, "7850 kg/m3", "Steel 7850 kg/m³.")};
}

LinearDrive::Parts screw_parts(const LinearLoad& load, const Section& screw, Recorder& recorder) {
  LinearDrive::Parts parts;
  parts.arm = &screw_arm();
  parts.load = load;
  parts.lever = screw.term("lead");
  parts.per_radian = parts.lever / constants::tau;
  const Term own = recorder.apply(book::screw_inertia, "inertia.screw",
                                  {screw.term("density"), screw.term("length"), screw.term("diameter")});
  parts.turning = {{"screw", "Screw", own, own}};
  return parts;
}

ScrewDrive::ScrewDrive(Parts parts, const Section& screw, Recorder& recorder)
    : LinearDrive(std::move(parts), recorder), lead_(screw.term("lead")), diameter_(screw.term("diameter")),
      length_(screw.term("length")), nut_(screw.term("nut_stiffness")),
      both_ends_(screw.text("held") == "both") {}

Term ScrewDrive::own_stiffness(const TravelExtremes& reach, Recorder& recorder) const {
  const double travel = reach.highest - reach.lowest;
  // the stroke in the middle of the screw, as it is drawn: the far end of the travel is the softest place
  const Term free{std::min(length_.value, 0.5 * (length_ + travel)), length_.ref};
  const Term axial =
      both_ends_ ? recorder.apply(book::screw_axial_both, "springs.screw_axial", {{diameter_, ""}, length_})
                 : recorder.apply(book::screw_axial, "springs.screw_axial", {{diameter_, ""}, free});
  const Term along =
      std::isnan(nut_) ? axial : recorder.apply(book::axial_in_a_row, "springs.axial", {axial, nut_});
  const Term turned = recorder.apply(book::axial_at_shaft, "springs.axial_at_shaft", {along, {lead_, ""}});
  const Term torsion = recorder.apply(book::screw_torsion, "springs.screw_torsion", {{diameter_, ""}, free});
  return recorder.apply(book::torsion_in_a_row, "springs.screw", {turned, torsion});
}

Drawing ScrewDrive::draw(const Pose& pose) const {
  Drawing d;
  const double coupling = std::max(0.6 * pose.motor_side, 1.5 * diameter_);
  draw_motor(d, pose, {-coupling, 0.0}, 0.0);
  d.box(Ink::part, {-0.5 * coupling, 0.0}, 0.7 * coupling, 1.3 * diameter_);
  d.box(Ink::frame, {0.5 * length_, 0.0}, length_, diameter_);
  // thread at its lead, thinned out where the lines would merge
  double pitch = lead_;
  while (pitch < length_ / 90.0) pitch *= 2.0;
  const double slant = 0.5 * std::min(pitch, diameter_);
  for (int turn = 1; turn * pitch < length_; ++turn)
    d.line(Ink::hint, {turn * pitch, -0.5 * diameter_}, {turn * pitch - slant, 0.5 * diameter_});
  const double side = carriage_side(parts().load.mass);
  d.line(Ink::frame, {0.0, -0.56 * side}, {length_, -0.56 * side});
  const double travel = pose.highest - pose.lowest;
  draw_carriage(d, pose, parts().load, 0.5 * (length_ - travel) - pose.lowest, -0.5 * side);
  d.measure({length_, 0.0}, {0.0, 0.0}, 0.72 * side, "mechanism.length", length_);
  d.measure({length_ + 0.02 * length_, -0.5 * diameter_}, {length_ + 0.02 * length_, 0.5 * diameter_}, 0.0,
            "mechanism.diameter", diameter_);
  const double turn = std::max(length_ - 2.0 * lead_, 0.0);
  d.measure({turn, 0.5 * diameter_}, {turn + lead_, 0.5 * diameter_}, 0.1 * side, "mechanism.lead", lead_,
            Kind::lead);
  d.turn(lean());
  return d;
}

} // namespace fulmox
