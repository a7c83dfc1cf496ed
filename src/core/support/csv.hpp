#pragma once
#include "core/support/expected.hpp"

#include <string>
#include <string_view>
#include <vector>

namespace fulmox {

struct CsvCell {
  std::string text;
  int line = 0;
};
using CsvRow = std::vector<CsvCell>;

/// Splits a CSV text (RFC 4180: comma, double quotes, quotes doubled inside) into rows. Lines that start with
/// # and blank lines are skipped. Refuses an unclosed quote and text after a closing quote, naming the line.
Expected<std::vector<CsvRow>> read_csv(std::string_view text);

/// One cell, quoted where needed.
std::string csv_cell(std::string_view text);

} // namespace fulmox
