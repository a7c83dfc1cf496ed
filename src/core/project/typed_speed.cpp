#include "core/project/typed_speed.hpp"

#include "core/motor/typed_steps.hpp"

#include <array>
#include <charconv>
#include <cmath>

namespace fulmox {
namespace {

constexpr std::array<std::string_view, 2> at_the_motor{"motor", "drive"};

/// Micro-steps of a full step, as chosen on the drive; NaN where it has none.
double microsteps_of(const Section& drive) {
  if (!drive.has("microsteps")) return std::nan("");
  const std::string& text = drive.text("microsteps");
  double count = std::nan("");
  std::from_chars(text.data(), text.data() + text.size(), count);
  return count;
}

} // namespace

std::string with_turns(const Axis& axis, std::string_view slot, const FieldSpec& spec,
                       std::string_view text) {
  const Kind kind = spec.type == FieldType::curve ? spec.curve_kind : spec.kind;
  if (kind != Kind::angular_speed || (slot != at_the_motor[0] && slot != at_the_motor[1]))
    return std::string(text);
  const double full_steps = full_steps_of(axis["motor"]);
  const bool of_drive = slot == "drive"; // a motor's data sheet may count half steps as pulses
  return steps_as_turns(text, full_steps,
                        of_drive ? full_steps * microsteps_of(axis["drive"]) : std::nan(""));
}

void read_steps(Axis& axis) {
  for (const std::string_view slot : at_the_motor) {
    Section& section = axis[slot];
    for (std::size_t i = 0; i < section.size(); ++i) {
      const Entry& before = section.entry(i);
      if (!before.faulty()) continue;
      const std::string turns = with_turns(axis, slot, section.field(i), before.text);
      if (turns == before.text) continue;
      Entry entry = make_entry(section.field(i), turns);
      if (entry.faulty()) continue; // the fault is told of what was written
      entry.origin = before.origin;
      entry.note = before.note;
      section.put(i, std::move(entry));
    }
  }
}

} // namespace fulmox
