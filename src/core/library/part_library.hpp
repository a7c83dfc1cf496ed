#pragma once
#include "core/project/axis.hpp"
#include "core/support/expected.hpp"

#include <filesystem>
#include <functional>
#include <map>
#include <string>
#include <string_view>
#include <vector>

namespace fulmox {

/// Parts of one kind: filled-in forms, every number already checked.
using Parts = std::vector<Section>;

/// Reads a library of parts. The first row names a field per column, with the unit of plain numbers in
/// brackets: "inertia [kg.cm2]". Cells may also carry their own unit. Unknown columns are refused, as are
/// missing part numbers, duplicates and bad values; the problem names file, line and column.
Expected<Parts> read_parts(std::string_view text, const SectionSpec& kind, std::string_view file_name);

/// The text of a library file with the given columns, the reverse of read_parts.
/// `columns` are header cells such as "inertia [kg.cm2]"; cells hold what was typed, without that unit.
std::string write_parts(const Parts& parts, const std::vector<std::string>& columns,
                        std::string_view comment);

/// The slots whose parts are chosen from a library.
std::vector<const SlotSpec*> part_slots();

/// The parts of every slot that is chosen from a library.
class Library {
public:
  /// Of all kinds of a slot ("motor"); none when no library has any.
  [[nodiscard]] const Parts& of(std::string_view slot) const;
  /// nullptr when there is no such part.
  [[nodiscard]] const Section* find(std::string_view slot, std::string_view part_number) const;
  void add(std::string_view slot, Parts parts);

private:
  std::map<std::string, Parts, std::less<>> parts_;
};

/// Reads the files of a folder, one for each kind of part.
Expected<Library> load_library(const std::filesystem::path& folder);

/// Puts a part into an axis: every field of the section becomes the part's, its origin "data sheet".
void choose_part(Axis& axis, std::string_view slot, const Section& part);

} // namespace fulmox
