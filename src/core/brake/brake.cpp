#include "core/brake/brake.hpp"

namespace fulmox {

const SectionSpec& brake_section() {
  static const SectionSpec spec{
      "brake",
      "Brake",
      {one_of("fitted", "Holding brake", {{"no", "none"}, {"yes", "fitted"}},
              "A holding brake keeps a load from falling when power goes. It is not personnel protection."),
       optional("torque", "Holding torque", "T_b", Kind::torque, range::positive,
                "At the motor shaft. Blank: the motor maker's own option."),
       optional("inertia", "Inertia", "J_b", Kind::inertia, range::not_negative,
                "Blank: the motor maker's own option.")}};
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
  out.torque = brake.blank("torque") ? motor.term_if("brake_torque") : brake.term("torque");
  out.inertia = !brake.blank("inertia")      ? brake.term("inertia")
                : motor.has("brake_inertia") ? motor.term_or("brake_inertia", 0.0)
                                             : Term{0.0, ""};
  return out;
}

} // namespace fulmox
