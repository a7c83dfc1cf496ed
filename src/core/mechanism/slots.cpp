#include "core/mechanism/linear_load.hpp"
#include "core/mechanism/mechanism.hpp"
#include "core/mechanism/rotary_load.hpp"

namespace fulmox {

const SlotSpec& mechanism_slot() {
  static const SlotSpec slot{"mechanism", "Mechanism",
                             [] {
                               std::vector<SlotKind> all;
                               for (const MechanismSpec* spec : mechanism_specs())
                                 all.push_back({.form = &spec->section,
                                                .summary =
                                                    [](const Section& section) {
                                                      // its name and its first size say most
                                                      std::string told(section.spec().title);
                                                      const std::string& first = section.entry(0).text;
                                                      return first.empty() ? told : told + " · " + first;
                                                    },
                                                .help = spec->help});
                               return all;
                             },
                             ChosenBy::list};
  return slot;
}

const SlotSpec& load_slot() {
  static const SlotSpec slot{
      "load", "Load",
      [] {
        const auto in_a_line = [](const Section& load) {
          return summary_of_fields(load, load.text("angle") == "0 °"
                                             ? std::vector<std::string_view>{"moved_mass"}
                                             : std::vector<std::string_view>{"moved_mass", "angle"});
        };
        return std::vector<SlotKind>{
            {.form = &linear_load_section(), .summary = in_a_line, .prominent = {"moved_mass"}},
            {.form = &hanging_load_section(), .summary = in_a_line, .prominent = {"moved_mass"}},
            {.form = &rotary_load_section(),
             .summary =
                 [](const Section& load) {
                   return summary_of_fields(load, {"inertia", "friction_torque"});
                 },
             .prominent = {"inertia"}}};
      },
      ChosenBy::mechanism};
  return slot;
}

} // namespace fulmox
