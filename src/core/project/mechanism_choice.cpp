#include "core/form/section_json.hpp"
#include "core/mechanism/mechanism.hpp"
#include "core/motion/segments.hpp"
#include "core/project/axis.hpp"

namespace fulmox {
namespace {

/// The same content in another form. Fields both know go over with their text; a text the new form cannot use
/// gives way to its preset, unless `keep_faults`.
Section refitted(const Section& old, const SectionSpec& spec, bool keep_faults) {
  if (&old.spec() == &spec) return old;
  Section out(spec);
  out.path = old.path;
  const Json content = section_json(old, false);
  for (const auto& [name, member] : content.items()) {
    const auto index = spec.index_of(name);
    if (member == Json("")) continue; // cleared: the new form's own preset
    // what was never touched takes the new form's own preset
    const auto before = old.spec().index_of(name);
    if (before && old.entry(*before) == preset_of(old.spec(), old.field(*before))) continue;
    if (!index) {
      out.unknown[name] = member.dump();
      continue;
    }
    Section trial(spec);
    read_section(trial, Json::object({{name, member}}), "");
    if (keep_faults || !trial.entry(*index).faulty())
      out.put(*index, trial.entry(*index));
    else
      out.unknown[name] = member.dump();
  }
  return out;
}

} // namespace

void choose_kind(Axis& axis, const SlotSpec& slot, const SectionSpec& form) {
  if (&slot == &mechanism_slot())
    choose_mechanism(axis, *find_mechanism(form.id)); // takes load and cycle along
  else
    axis[slot.id] = refitted(axis[slot.id], form, false);
}

void choose_mechanism(Axis& axis, const MechanismSpec& spec) {
  axis["mechanism"] = refitted(axis["mechanism"], spec.section, false);
  axis["load"] = refitted(axis["load"], spec.load(), false);
  for (Section& segment : axis.cycle)
    segment = refitted(segment, *find_segment_spec(segment.spec().id, spec.motion), true);
}

std::string_view main_load_input(const Axis& axis) {
  return axis["load"].has("moved_mass") ? "moved_mass" : "inertia";
}

} // namespace fulmox
