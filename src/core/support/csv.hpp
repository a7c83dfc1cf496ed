#pragma once
#include "core/support/expected.hpp"

#include <optional>
#include <string>
#include <string_view>
#include <vector>

namespace fulmox {

struct CsvCell {
  std::string text;
  int line = 0;
};
using CsvRow = std::vector<CsvCell>;

/// What can be read of a CSV text: the rows up to the first fault, which names its line.
struct CsvRead {
  std::vector<CsvRow> rows;
  std::optional<Problem> problem;
};
/// Splits a CSV text (RFC 4180: double quotes, quotes doubled inside; comma or another separator) into rows.
/// Lines that start with # and blank lines are skipped. An unclosed quote and text after a closing quote end
/// it.
CsvRead read_csv_rows(std::string_view text, char separator = ',');
/// The same, refused as a whole where there is a fault.
Expected<std::vector<CsvRow>> read_csv(std::string_view text);
/// The separator that a foreign file uses: of comma, semicolon and tab the one most frequent in its first
/// line.
char guess_separator(std::string_view text);

/// One cell, quoted where needed.
std::string csv_cell(std::string_view text);

} // namespace fulmox
