#include "core/brake/brake.hpp"

namespace fulmox {

const SectionSpec& brake_section() {
  using enum FieldType;
  static const SectionSpec spec{
      "brake",
      "Brake",
      {{"fitted",
        "Holding brake",
        "",
        choice,
        Kind::number,
        range::any,
        true,
        "no",
        "A holding brake keeps a load from falling when power goes. It is not personnel protection.",
        {{"no", "none"}, {"yes", "fitted"}}},
       {"torque",
        "Holding torque",
        "T_b",
        quantity,
        Kind::torque,
        range::positive,
        false,
        "",
        "At the motor shaft. Blank: the motor maker's own option.",
        {}},
       {"inertia",
        "Inertia",
        "J_b",
        quantity,
        Kind::inertia,
        range::not_negative,
        false,
        "",
        "Blank: the motor maker's own option.",
        {}}}};
  return spec;
}

const SlotSpec& brake_slot() {
  static const SlotSpec slot{"brake", "Brake", [] {
                               return std::vector<SlotKind>{
                                   {.form = &brake_section(), .summary = [](const Section& brake) {
                                      return std::string(brake.text("fitted") == "yes" ? "fitted" : "none");
                                    }}};
                             }};
  return slot;
}

Brake Brake::from(const Section& brake, const Section& motor) {
  Brake out;
  out.fitted = brake.text("fitted") == "yes";
  if (!out.fitted) return out;
  out.torque = brake.blank("torque") ? motor.term("brake_torque") : brake.term("torque");
  out.inertia = brake.blank("inertia") ? motor.term_or("brake_inertia", 0.0) : brake.term("inertia");
  return out;
}

} // namespace fulmox
