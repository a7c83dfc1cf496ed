#include "core/project/chosen_parts.hpp"

namespace fulmox {

const SectionSpec& chosen_parts_section() {
  static const SectionSpec spec{
      "chosen_parts",
      "Choice of parts",
      {written("axis", "Axis", "", "For which the parts were chosen."),
       written("date", "Date", "", "Day of the choice, like 2026-11-26."),
       written("chosen", "Chosen", "", "Motor, gearhead and drive with what the axis does with them."),
       written("rivals", "Rivals", "", "The next ones in the list, with what the axis would do with them."),
       written("weights", "Weights", "", "What counted how much, and what was filtered."),
       written("reason", "Reason", "", "Why; in your own words where you have some.")}};
  return spec;
}

const MachineListSpec& chosen_parts_list() {
  static const MachineListSpec list{"choices", "choice of parts",
                                    [] { return std::vector{&chosen_parts_section()}; }};
  return list;
}

} // namespace fulmox
