#include "core/requirements/requirements.hpp"

namespace fulmox {

const SectionSpec& requirements_section() {
  static const SectionSpec spec{
      "requirements",
      "Accuracy and stops",
      {optional("tolerance", "Tolerance", "±x", Kind::length, range::positive,
                "Where the load goes along a line: how far it may lie off, to either side."),
       optional("tolerance_angle", "Tolerance, turning", "±φ", Kind::angle, range::positive,
                "Where the load turns."),
       optional("lead_error", "Error of the drive", "e_p", Kind::length, range::not_negative,
                "Of screw, rack or belt over the travel, ± what its maker states."),
       optional("lead_error_angle", "Error of the drive, turning", "e_φ", Kind::angle, range::not_negative,
                "Of a table's gear over a turn, ±."),
       optional("warming", "Warming of the drive", "ΔT", Kind::temperature_rise, range::not_negative,
                "How much warmer screw or rack gets than when it was measured. Not for belts."),
       optional("encoder_error", "Error of the encoder", "e_e", Kind::angle, range::not_negative,
                "Accuracy over a turn, ±; not its resolution. Blank: 5 arcmin, from memory."),
       optional("bandwidth", "Bandwidth wanted", "f_v", Kind::frequency, range::positive,
                "Of the speed loop. Blank: none asked."),
       optional("settling", "Time to settle", "t_s", Kind::time, range::positive,
                "After a move, until the load stands within 2 % of its last error. Blank: none asked."),
       one_of(
           "feedback", "Position measured", {{"motor", "on the motor"}, {"load", "on the load"}},
           "A scale at the load sees play, wind-up and the error of the drive, and the loop takes them out."),
       optional("scale", "Count of the scale", "Δx", Kind::length, range::positive,
                "Of a scale at the load, where it goes along a line."),
       optional("scale_angle", "Count of the scale, turning", "Δφ", Kind::angle, range::positive,
                "Where the load turns."),
       optional("stops", "Emergency stops", "n_s", Kind::number, {1.0, 1e9},
                "Expected in the life of the machine: gearhead and brake bear only so many."),
       optional("room", "Room to stop", "x_s", Kind::length, range::positive,
                "From the end of the moves to what must not be met."),
       optional("room_angle", "Room to stop, turning", "φ_s", Kind::angle, range::positive,
                "Where the load turns."),
       optional("end_speed", "Speed against the end", "v_e", Kind::speed, range::positive,
                "At which it may run against its end stop, homing for instance. Blank: never."),
       optional("end_speed_angle", "Speed against the end, turning", "ω_e", Kind::angular_speed,
                range::positive, "Where the load turns."),
       optional("stop_stiffness", "Stiffness of the end stop", "k_s", Kind::stiffness, range::positive,
                "Where the load goes along a line. Blank: rigid, which is the safe side.")}};
  return spec;
}

const SlotSpec& requirements_slot() {
  static const SlotSpec slot{
      "requirements", "Accuracy and stops", [] {
        return std::vector<SlotKind>{
            {.form = &requirements_section(),
             .summary =
                 [](const Section& section) {
                   return summary_of_fields(section, {"tolerance", "tolerance_angle", "room"});
                 },
             .prominent = {"tolerance", "room", "bandwidth"}}};
      }};
  return slot;
}

Requirements Requirements::from(const Section& section, bool turning) {
  return {section.term(turning ? "tolerance_angle" : "tolerance"),
          section.term("bandwidth"),
          section.term("settling"),
          section.term("stops"),
          section.term(turning ? "room_angle" : "room"),
          section.term(turning ? "end_speed_angle" : "end_speed"),
          section.term("stop_stiffness")};
}

} // namespace fulmox
