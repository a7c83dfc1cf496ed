#include "core/coupling/coupling.hpp"

namespace fulmox {

const SectionSpec& coupling_section() {
  using enum FieldType;
  static const SectionSpec spec{
      "coupling",
      "Coupling",
      {part_number_field(),
       maker_field(),
       {"rated_torque",
        "Rated torque",
        "T_KN",
        quantity,
        Kind::torque,
        range::positive,
        false,
        "",
        "Compared with the greatest torque times a service factor, never with the mean.",
        {}},
       {"max_speed",
        "Maximum speed",
        "n_max",
        quantity,
        Kind::angular_speed,
        range::positive,
        false,
        "",
        "",
        {}},
       {"inertia",
        "Inertia",
        "J",
        quantity,
        Kind::inertia,
        range::not_negative,
        false,
        "",
        "Blank: neglected, and said so.",
        {}},
       {"stiffness",
        "Torsional stiffness",
        "k",
        quantity,
        Kind::torsional_stiffness,
        range::positive,
        false,
        "",
        "",
        {}},
       {"bore_min", "Smallest bore", "", quantity, Kind::length, range::positive, false, "", "", {}},
       {"bore_max", "Largest bore", "", quantity, Kind::length, range::positive, false, "", "", {}},
       mass_field()}};
  return spec;
}

const SlotSpec& coupling_slot() {
  static const SlotSpec slot{"coupling", "Coupling", [] {
                               return std::vector<SlotKind>{{.form = &coupling_section(),
                                                             .summary = &told_part,
                                                             .prominent = {"inertia", "rated_torque"},
                                                             .library = "couplings.csv",
                                                             .columns = {"rated_torque", "max_speed",
                                                                         "inertia", "bore_min", "bore_max"}}};
                             }};
  return slot;
}

} // namespace fulmox
