#pragma once
#include "core/project/axis.hpp"
#include "core/support/expected.hpp"

#include <filesystem>
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

/// The kinds of part that are chosen from a library.
enum class PartKind : std::uint8_t { gearhead, motor, coupling, drive };
inline constexpr PartKind part_kinds[] = {PartKind::gearhead, PartKind::motor, PartKind::coupling,
                                          PartKind::drive};
Given given_of(PartKind kind);
std::string_view file_of(PartKind kind); ///< "motors.csv"

struct Library {
  Parts gearheads, motors, couplings, drives;
  [[nodiscard]] const Parts& of(PartKind kind) const;
  [[nodiscard]] Parts& of(PartKind kind);
  [[nodiscard]] const Section* find(PartKind kind, std::string_view part_number) const;
};

/// Reads the four files of a folder.
Expected<Library> load_library(const std::filesystem::path& folder);

/// Puts a part into an axis: every field of the section becomes the part's, its origin "data sheet".
void choose_part(Axis& axis, PartKind kind, const Section& part);

} // namespace fulmox
