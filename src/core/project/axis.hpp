#pragma once
#include "core/motion/motion_kinds.hpp"
#include "core/project/slots.hpp"

#include <map>
#include <span>
#include <string>
#include <vector>

namespace fulmox {

/// One axis as the user describes it. A value.
struct Axis {
  std::string name;
  std::vector<Section> givens; ///< one per slot, in their order
  std::vector<Section> cycle;
  std::vector<Section> stages; ///< between the coupling and the mechanism, the motor's side first
  std::vector<Section> pieces; ///< what the load is built of
  std::map<std::string, std::string> unknown;

  /// The section in a slot; std::out_of_range when there is no such slot.
  [[nodiscard]] const Section& operator[](std::string_view slot) const { return givens[slot_index(slot)]; }
  [[nodiscard]] Section& operator[](std::string_view slot) { return givens[slot_index(slot)]; }
  bool operator==(const Axis&) const = default;
};

/// An axis with every preset typed, no moved mass, an empty cycle.
Axis new_axis(std::string name);

struct MechanismSpec;
/// The kind of mechanism of an axis.
const MechanismSpec& mechanism_of(const Axis& axis);
MotionKinds motion_of(const Axis& axis);

/// Gives a slot another of its forms. What both know goes over; what the new one does not know is kept aside
/// and comes back with the old kind.
void choose_kind(Axis& axis, const SlotSpec& slot, const SectionSpec& form);

/// Gives the axis another kind of mechanism. Load and cycle are refitted to its terms; what the new forms do
/// not know is kept aside in the sections and comes back with the old kind.
void choose_mechanism(Axis& axis, const MechanismSpec& spec);

/// The input of the load that says most: what is moved, or, where it turns, its inertia.
std::string_view main_load_input(const Axis& axis);

/// A list of sections in an axis: segments, stages, pieces of the load.
struct ListInfo {
  std::string_view id;
  std::string_view what; ///< one of its members, in words
  std::string_view title;
  std::string_view after;                ///< the slot it follows in the order of the work
  std::vector<std::string_view> offered; ///< kinds that are added most; the others wait behind them
  std::vector<Section> Axis::*member;
  std::vector<const SectionSpec*> (*kinds)(const Axis& axis);
};
std::span<const ListInfo> section_lists();
const ListInfo* find_list(std::string_view id);
const SectionSpec* find_kind(const Axis& axis, const ListInfo& list, std::string_view id);

/// Gives the sections of all lists their paths again after they were added, removed or moved.
void number_sections(Axis& axis);

/// The section a path such as "motor" or "cycle[1]" names, or nullptr.
Section* find_section(Axis& axis, std::string_view path);
const Section* find_section(const Axis& axis, std::string_view path);

/// What a field of a section means to the user: "Mechanism, lead". "" when there is no such field. A place
/// inside the typed text may follow the field: "lead (column 3)".
std::string describe_path(const Section& section, std::string_view field);
/// The same for a path such as "mechanism.lead".
std::string describe_path(const Axis& axis, std::string_view path);

/// The faults in one section's typed values.
std::vector<Problem> faults(const Section& section);

/// Every fault in the typed values, with paths such as "load.moved_mass".
std::vector<Problem> faults(const Axis& axis);

} // namespace fulmox
