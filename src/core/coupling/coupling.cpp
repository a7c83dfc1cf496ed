#include "core/coupling/coupling.hpp"

namespace fulmox {

const SectionSpec& coupling_section() {
  static const SectionSpec spec{
      "coupling", "Coupling",
      with_trade_fields(
          {part_number_field(), maker_field(),
           optional("rated_torque", "Rated torque", "T_KN", Kind::torque, range::positive,
                    "Compared with the greatest torque times a service factor, never with the mean."),
           optional("max_speed", "Maximum speed", "n_max", Kind::angular_speed, range::positive, ""),
           optional("inertia", "Inertia", "J", Kind::inertia, range::not_negative,
                    "Blank: neglected, and said so."),
           optional("stiffness", "Torsional stiffness", "k", Kind::torsional_stiffness, range::positive, ""),
           optional("bore_min", "Smallest bore", "", Kind::length, range::positive, ""),
           optional("bore_max", "Largest bore", "", Kind::length, range::positive, "")})};
  return spec;
}

const SlotSpec& coupling_slot() {
  static const SlotSpec slot{"coupling", "Coupling", [] {
                               return std::vector<SlotKind>{{.form = &coupling_section(),
                                                             .summary = &part_summary,
                                                             .prominent = {"inertia", "rated_torque"},
                                                             .library = "couplings.csv",
                                                             .columns = {"rated_torque", "max_speed",
                                                                         "inertia", "bore_min", "bore_max"}}};
                             }};
  return slot;
}

Coupling Coupling::from(const Section& section) {
  Coupling coupling;
  coupling.fitted = !section.blank("part_number") || !section.blank("rated_torque");
  coupling.rated_torque = section.term("rated_torque");
  coupling.max_speed = section.term("max_speed");
  coupling.bore_min = section.term("bore_min");
  coupling.bore_max = section.term("bore_max");
  coupling.stiffness = section.term("stiffness");
  coupling.inertia = section.term_or("inertia", 0.0);
  return coupling;
}

} // namespace fulmox
