#include "core/motion/profile.hpp"
#include "core/quantity/number_text.hpp"
#include "core/quantity/parse.hpp"
#include "core/support/text_lines.hpp"

#include <algorithm>
#include <array>

namespace fulmox {
namespace {

/// "position [mm]", "x (mm)", "x/mm" → "mm"; "" when the title names none.
std::string unit_in(std::string_view title) {
  for (const auto& [open, close] : {std::pair{'[', ']'}, {'(', ')'}}) {
    const auto from = title.find(open);
    const auto to = title.find(close, from);
    if (from != title.npos && to != title.npos) return trimmed(title.substr(from + 1, to - from - 1));
  }
  const auto slash = title.rfind('/');
  return slash == title.npos ? "" : trimmed(title.substr(slash + 1));
}

/// A semicolon or a tab separates for certain; then commas are decimal marks.
char separator_of(std::string_view line) {
  for (const char candidate : {';', '\t', ','})
    if (line.find(candidate) != line.npos) return candidate;
  return ' ';
}

std::vector<std::string> cells_of(std::string_view line, char separator) {
  std::vector<std::string> cells;
  std::size_t from = 0;
  while (from <= line.size()) {
    const auto to = std::min(line.find(separator, from), line.size());
    std::string cell = trimmed(line.substr(from, to - from));
    from = to + 1;
    if (separator == ' ' && cell.empty()) continue;
    // "time [s] position [mm]": the blank before a unit separates nothing
    if (separator == ' ' && !cells.empty() && (cell.starts_with('[') || cell.starts_with('(')))
      cells.back() += cell;
    else
      cells.push_back(std::move(cell));
  }
  return cells;
}

} // namespace

CsvPair profile_columns(const MotionKinds& kinds) {
  return {Kind::time, kinds.distance, "s", kinds.rotary() ? "deg" : "mm", 4};
}

CsvPair process_columns(const MotionKinds& kinds) {
  return {kinds.distance, kinds.effort, kinds.rotary() ? "deg" : "mm",
          kinds.effort == Kind::torque ? "N.m" : "N", 2};
}

Expected<std::string> points_from_csv(std::string_view text, const CsvPair& columns) {
  std::array<std::string, 2> units{columns.first_unit, columns.second_unit};
  const std::array<Kind, 2> kinds{columns.first, columns.second};
  std::string out;
  double before = 0.0;
  std::size_t count = 0;
  bool header_allowed = true;
  for (const TextLine& line : text_lines(text)) {
    if (trimmed(line.text).empty() || line.text.starts_with('#')) continue;
    const std::string place = "line " + std::to_string(line.number);
    const char separator = separator_of(line.text);
    std::vector<std::string> cells = cells_of(line.text, separator);
    if (cells.size() < 2)
      return Problem{place, "two columns are needed.", "The first must rise, the second goes with it."};
    if (separator != ',')
      for (std::string& cell : cells) std::replace(cell.begin(), cell.end(), ',', '.');
    if (header_allowed && !read_number(cells[0])) {
      header_allowed = false;
      for (std::size_t k = 0; k < 2; ++k) {
        const std::string unit = unit_in(cells[k]);
        if (unit.empty()) continue;
        if (const auto one = parse_quantity("1 " + unit, kinds[k]); !one)
          return Problem{place + ", column " + std::to_string(k + 1), one.problem().what,
                         one.problem().remedy};
        units[k] = unit;
      }
      continue;
    }
    header_allowed = false;
    for (std::size_t k = 0; k < 2; ++k)
      if (!read_number(cells[k]))
        return Problem{place + ", column " + std::to_string(k + 1), "'" + cells[k] + "' is not a number.",
                       "Units belong into the header, like time [ms]."};
    const double first = *read_number(cells[0]);
    if (count > 0 && !(first > before))
      return Problem{place + ", column 1", "the first column does not rise here.",
                     "Sort the rows by it, each value once."};
    before = first;
    if (++count > columns.most_rows)
      return Problem{place, "these are more than " + std::to_string(columns.most_rows) + " rows.",
                     "Keep every second or tenth of them."};
    out += (out.empty() ? "" : "; ") + cells[0] + " " + units[0] + ": " + cells[1] + " " + units[1];
  }
  if (count < columns.least_rows)
    return Problem{"", "at least " + std::to_string(columns.least_rows) + " rows are needed.",
                   "This file holds " + std::to_string(count) + "."};
  return out;
}

} // namespace fulmox
