#pragma once
#include "core/form/section.hpp"

#include <string>
#include <string_view>
#include <vector>

namespace fulmox {

/// A form that a slot may hold, how it is shown and where its parts come from.
struct SlotKind {
  const SectionSpec* form = nullptr;
  std::string (*summary)(const Section&) = nullptr; ///< what its folded header says
  std::string_view help{};
  /// Fields seen at once; of a part only these, of other forms also what is required or filled in.
  std::vector<std::string_view> prominent = {};
  /// File of the library its parts are chosen from ("motors.csv"); "" where there is none.
  std::string_view library{};
  std::vector<std::string_view> columns = {}; ///< fields listed for comparison when a part is chosen
  std::string_view name{};                    ///< in a list of kinds; blank: the form's title

  /// What is wrong between its fields, each of which is right alone.
  std::vector<Problem> (*check)(const Section&) = nullptr;

  /// Changes settings that the part itself rules out, once it is chosen with the settings of the one before.
  void (*settle)(Section&) = nullptr;

  [[nodiscard]] std::string_view called() const { return name.empty() ? form->title : name; }
};

/// What decides which of its forms a slot holds.
enum class ChosenBy : std::uint8_t {
  part,     ///< the part chosen from a library; the usual kind goes without saying in files
  list,     ///< the user, from a list; files always name the kind
  mechanism ///< the mechanism's motion
};

/// A place of an axis that holds one form: load, mechanism, motor… The window, the file, the schema and the
/// library are made from these.
struct SlotSpec {
  std::string_view id; ///< its member in files and the path of its section
  std::string_view title;
  /// The forms it may hold, the usual one first; never empty.
  std::vector<SlotKind> (*kinds)();
  ChosenBy chosen_by = ChosenBy::part;
  std::string_view part = {}; ///< what a part of it is called, where that is not its title
  [[nodiscard]] std::string_view part_title() const { return part.empty() ? title : part; }
};

/// The kind whose form a section is; the usual one when it is none of them.
SlotKind kind_in(const SlotSpec& slot, const Section& section);

/// Whether a file names the kind of this section.
bool names_kind(const SlotSpec& slot, const Section& section);

/// "12 kg · 90 deg": what is given of some fields; fields the form does not have are passed over.
std::string summary_of_fields(const Section& section, const std::vector<std::string_view>& fields);
/// The part number; what stands there without one.
std::string part_summary(const Section& section);

} // namespace fulmox
