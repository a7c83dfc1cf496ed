#include "core/plan/pace.hpp"

namespace fulmox {

const SectionSpec& pace_section() {
  static const SectionSpec spec{
      "pace",
      "Machine cycle",
      {optional("cycle", "Machine cycle", "T", Kind::time, range::positive,
                "Blank: as short as its blocks allow."),
       one_of("cycles", "Cycles",
              {{"one_by_one", "one after the other"},
               {"overlap", "overlap: the next begins before the last has ended"},
               {"free", "each axis repeats on its own"}},
              "Overlapping needs the machine cycle typed. Axes that run on their own have no common clock: "
              "the machine repeats after the least common multiple of their cycles."),
       usually("parts", "Parts a cycle", "", Kind::number, range::positive, "1", "What one cycle makes."),
       optional("rate", "Parts wanted an hour", "", Kind::number, range::positive,
                "Then the machine's rate is a limit."),
       usually(
           "jitter", "Starts vary by", "±", Kind::time, range::not_negative, "20 ms",
           "How far the start of a block may be off: what controller and sensors do from cycle to cycle."),
       optional("stop_time", "Controlled stop takes", "t", Kind::time, range::positive,
                "After a loss of the mains: until it is noticed, all axes stand and the brakes are closed. "
                "The bus must hold that long."),
       optional("stop_ramp", "of it, slowing down", "t", Kind::time, range::positive,
                "In which every axis comes to rest from whatever speed it has. Then the energy of such a "
                "stop is judged, from every moment; blank: the bus must hold while all go on as before.")}};
  return spec;
}

} // namespace fulmox
