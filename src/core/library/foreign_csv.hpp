#pragma once
#include "core/library/part_reader.hpp"

#include <string>
#include <string_view>
#include <vector>

namespace fulmox {

/// A column of a foreign file and what it means.
struct MappedColumn {
  std::string title; ///< as it stands in the file
  std::string field; ///< "" = passed over
  std::string unit;  ///< of plain numbers; "" = none, or the cells carry theirs
  bool operator==(const MappedColumn&) const = default;
};

/// How the columns of a file of another layout become fields of parts. Remembered by the titles, so that the
/// next file of that layout needs no questions.
struct CsvMapping {
  std::string form; ///< id of the form of its parts
  char separator = ',';
  bool decimal_comma = false;
  std::vector<MappedColumn> columns; ///< in the order of the file
  std::string maker;                 ///< of all parts, where no column tells it
  bool operator==(const CsvMapping&) const = default;

  /// What tells files of one layout: their titles.
  [[nodiscard]] std::string key() const;
};

/// The titles of a foreign file and its first rows, as they stand.
struct ForeignTable {
  char separator = ',';
  std::vector<std::string> titles;
  std::vector<std::vector<std::string>> rows; ///< up to the number asked for
};
Expected<ForeignTable> look_into(std::string_view text, std::size_t rows);

/// A first guess: titles that are a field's id, label or symbol, or what the trade calls it; units from
/// brackets, parentheses or after a slash; a decimal comma where numbers are written with one.
CsvMapping guess_mapping(const ForeignTable& table, const SectionSpec& form);

/// What keeps a mapping from being used: no part number, a field meant twice, a unit that does not suit.
std::vector<Problem> mapping_faults(const CsvMapping& mapping, const SectionSpec& form);

/// Reads a foreign file by a mapping; what cannot be used is told as by read_parts. Each part says where it
/// comes from unless a column does.
PartsRead read_foreign(std::string_view text, const CsvMapping& mapping, const SectionSpec& form,
                       std::string_view file_name);

/// Mappings as the text of a file, and back; what cannot be read is left out.
std::string mappings_to_json(const std::vector<CsvMapping>& mappings);
std::vector<CsvMapping> mappings_from_json(std::string_view text);

} // namespace fulmox
