#include "core/plan/blocks.hpp"

namespace fulmox {

const SectionSpec& block_section() {
  const auto segment = [](std::string_view id, std::string_view help) {
    return optional(id, "its segment", "", Kind::number, range::whole(1.0, 10000.0), help);
  };
  static const SectionSpec spec{
      "block",
      "Block",
      {written("axis", "Axis", "", "Whose cycle it is."), written("name", "Name", "", "Blank: the axis's."),
       usually("offset", "Start", "", Kind::time, range::not_negative, "0 s",
               "After the start of the machine's cycle, or after what it waits for."),
       usually("repeats", "Repeats", "", Kind::number, range::whole(1.0, 100000.0), "1", "Cycles in a row."),
       written("after", "After block", "",
               "It waits until a segment of that block has ended, in its last "
               "repeat. Blank: it waits for nothing."),
       segment("after_segment", "Its number in that cycle. Blank: the last."),
       optional("delay", "and then", "", Kind::time, range::not_negative, "Blank: at once."),
       written("also_after", "Also after block", "", "Both must have come."),
       segment("also_segment", "Its number in that cycle. Blank: the last."),
       optional("also_delay", "and then", "", Kind::time, range::not_negative, "Blank: at once.")}};
  return spec;
}

const SectionSpec& steady_load_section() {
  static const SectionSpec spec{
      "steady_load",
      "Other load",
      {written("name", "Name", "Other load", "Valves, fans, sensors, controller."),
       written("bus", "On bus", "", "The bus it hangs on."),
       needed("power", "Power", "P", Kind::power, range::not_negative, "10 W",
              "From switch-on, all the time or as below."),
       optional("on_at", "On from", "", Kind::time, range::not_negative,
                "In the machine's cycle. Blank: always on."),
       optional("on_for", "for", "", Kind::time, range::positive, "Blank: to the end of the cycle."),
       optional("starts_at", "Starts at", "V_on", Kind::voltage, range::positive,
                "The bus voltage from which it draws. Blank: a quarter of the bus's.")}};
  return spec;
}

} // namespace fulmox
