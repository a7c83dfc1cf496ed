#pragma once
#include "core/project/axis.hpp"
#include "core/project/machine_lists.hpp"
#include "core/quantity/kind.hpp"

#include <filesystem>
#include <functional>
#include <map>
#include <string>
#include <vector>

namespace fulmox {

/// A machine: its axes, the house rules in force, the unit set it is shown in. A value: copy it, compare it.
struct Document {
  std::string name = "New machine";
  UnitSet units = UnitSet::si;
  Section house_rules;
  Section duty; ///< how much it works and where it stands
  Section pace; ///< its own cycle
  std::vector<Axis> axes;
  /// Lists of the whole machine by their id; every registered one is there.
  std::map<std::string, std::vector<Section>, std::less<>> lists;
  std::map<std::string, std::string> unknown; ///< members of the file this version does not know

  Document();
  bool operator==(const Document&) const = default;
};

inline constexpr std::string_view document_format = "fulmox-machine";
/// 2: every slot may name its kind. Older ones are read through migrate().
inline constexpr int document_version = 2;
/// Larger files are refused before they are read: no machine comes near this.
inline constexpr std::uintmax_t document_size_limit = 16U * 1024U * 1024U;

/// Gives the sections of the machine's lists and of all axes their paths again after some were added, removed
/// or moved.
void number_sections(Document& document);

/// The faults in what belongs to the whole machine: house rules and its lists.
std::vector<Problem> machine_faults(const Document& document);

/// The section a path names in one axis or in the document ("house_rules", "supplies[0]"); nullptr when there
/// is none.
Section* find_section(Document& document, std::size_t axis, std::string_view path);
const Section* find_section(const Document& document, std::size_t axis, std::string_view path);

/// What a path means to the user, house rules included; "" when it names no input.
std::string describe_path(const Document& document, std::size_t axis, std::string_view path);

/// The document as the text of a file.
std::string to_json(const Document& document);

/// Reads the text of a file. Refuses, with JSON path and line: broken JSON, another format, a newer version,
/// wrong types, unknown kinds. A value that cannot be used (a negative mass) is kept as typed, with its
/// fault.
Expected<Document> from_json(std::string_view text);

/// Reads a file; refuses missing, unreadable and oversized ones.
Expected<Document> load_document(const std::filesystem::path& path);

/// Writes beside the file first, then renames over it: a crash leaves the old or the new file, never half of
/// one. Nothing is written that could not be read back. Gives the problem, if any.
std::optional<Problem> save_document(const Document& document, const std::filesystem::path& path);

/// The same for a document already made into text, where readers take up to `limit` bytes.
std::optional<Problem> write_readable(const std::string& text, const std::filesystem::path& path,
                                      std::uintmax_t limit);

/// The published JSON Schema of the file, made from the same tables as the forms.
std::string document_schema();

/// Reads a set of house rules from the text of its own file.
Expected<Section> house_rules_from_json(std::string_view text);

} // namespace fulmox
