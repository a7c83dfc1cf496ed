#pragma once
#include "core/form/section.hpp"
#include "core/support/expected.hpp"

#include <string>
#include <string_view>
#include <vector>

namespace fulmox {

/// Parts of one kind: filled-in forms, every number already checked.
using Parts = std::vector<Section>;

/// What a file of parts gave: what can be used, and what was left out.
struct PartsRead {
  Parts parts;
  std::vector<int> lines;        ///< of each part, in its file
  std::vector<Problem> problems; ///< each with file, line and column; in the order of the file
};

/// Reads a library of parts. The first row names a field per column, with the unit of plain numbers in
/// brackets: "inertia [kg.cm2]". Cells may also carry their own unit. A column that is not known is passed
/// over; a part with a missing or second number, or with a value that cannot be read, is left out, since
/// without it it could pass as better than it is; only price, length, lead time, stock and source are left
/// open instead. A column that stands twice, one with a unit that does not suit, a missing number or maker in
/// the header: then no part of the file counts.
PartsRead read_parts(std::string_view text, const SectionSpec& kind, std::string_view file_name);

/// The text of a library file with the given columns, the reverse of read_parts.
/// `columns` are header cells such as "inertia [kg.cm2]"; cells hold what was typed, without that unit.
std::string write_parts(const Parts& parts, const std::vector<std::string>& columns,
                        std::string_view comment);

/// Header cells for parts of one kind, so that nothing of them is lost: a column for every field that any of
/// them tells, with its unit where all are typed in the same one.
std::vector<std::string> columns_for(const Parts& parts);

} // namespace fulmox
