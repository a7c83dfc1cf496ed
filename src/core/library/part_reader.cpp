#include "core/library/part_reader.hpp"

#include "core/form/nearest_field.hpp"
#include "core/support/csv.hpp"
#include "core/support/text_lines.hpp"

#include <algorithm>
#include <unordered_map>

namespace fulmox {
namespace {

struct Column {
  std::optional<std::size_t> field; ///< nothing: a column that no part has, passed over
  std::string unit;
  std::unordered_map<std::string, Entry> known; ///< what some cells mean: half of all stand there again

  [[nodiscard]] Entry read(const FieldSpec& spec, const std::string& text) {
    constexpr std::size_t most = 200; // where all cells differ, keeping them is for nothing
    if (const auto found = known.find(text); found != known.end()) return found->second;
    Entry entry = make_entry(spec, text, unit);
    if (known.size() < most) known.emplace(text, entry);
    return entry;
  }
};

struct Place {
  std::string_view file;
  int line;
  std::string column;
  [[nodiscard]] std::string text() const {
    return std::string(file) + ", line " + std::to_string(line) +
           (column.empty() ? "" : ", column \"" + column + "\"");
  }
};

Expected<Column> read_column(const CsvCell& cell, const SectionSpec& kind, std::string_view file,
                             std::vector<Problem>& problems) {
  const std::string text = trimmed(cell.text);
  const Place place{file, cell.line, text};
  const auto open = text.find('[');
  const std::string name = trimmed(text.substr(0, open));
  const auto index = kind.index_of(name);
  if (!index) {
    const std::string_view meant = nearest_field(kind, name);
    problems.push_back({place.text(), "no such column is known; it is passed over.",
                        meant.empty() ? "Columns are listed in docs/libraries.md."
                                      : "Is \"" + std::string(meant) + "\" meant?"});
    return Column{};
  }
  Column column{*index, "", {}};
  if (open == std::string::npos) return column;
  const auto close = text.find(']', open);
  if (close == std::string::npos)
    return Problem{place.text(), "the bracket around the unit is not closed.",
                   "Write it like inertia [kg.cm2]."};
  column.unit = trimmed(text.substr(open + 1, close - open - 1));
  const FieldSpec& field = kind.fields[*index];
  if (field.type == FieldType::quantity)
    if (const auto unit = parse_quantity("1", field.kind, column.unit); !unit)
      return Problem{place.text(), unit.problem().what, unit.problem().remedy};
  return column;
}

Expected<std::vector<Column>> read_header(const CsvRow& row, const SectionSpec& kind, std::string_view file,
                                          std::vector<Problem>& problems) {
  std::vector<Column> columns;
  for (const CsvCell& cell : row) {
    auto column = read_column(cell, kind, file, problems);
    if (!column) return column.problem();
    const bool twice = std::any_of(columns.begin(), columns.end(),
                                   [&](const Column& c) { return c.field == column->field; });
    if (column->field && twice)
      return Problem{Place{file, cell.line, cell.text}.text(), "this column appears twice.",
                     "Remove one of them."};
    columns.push_back(*column);
  }
  for (const std::string_view needed : {std::string_view("part_number"), std::string_view("maker")}) {
    const std::size_t index = *kind.index_of(needed);
    if (std::none_of(columns.begin(), columns.end(), [&](const Column& c) { return c.field == index; }))
      return Problem{Place{file, row.front().line, ""}.text(),
                     "the column \"" + std::string(needed) + "\" is missing.", "Add it to the header."};
  }
  return columns;
}

/// What no limit is judged by: a cell that cannot be read leaves it open. Any other one would let a part pass
/// as better than it is.
bool only_trade(const FieldSpec& field) {
  const auto trade = trade_fields();
  return field.id != "mass" &&
         std::any_of(trade.begin(), trade.end(), [&](const FieldSpec& f) { return f.id == field.id; });
}

Expected<Section> read_part(const CsvRow& row, std::vector<Column>& columns, const SectionSpec& kind,
                            std::string_view file, std::vector<Problem>& problems) {
  std::vector<std::pair<std::size_t, Entry>> entries;
  if (row.size() != columns.size())
    return Problem{Place{file, row.front().line, ""}.text(),
                   "this line has " + std::to_string(row.size()) + " cells, the header has " +
                       std::to_string(columns.size()) + ".",
                   "Check the commas; quote texts that hold one."};
  for (std::size_t i = 0; i < row.size(); ++i) {
    if (!columns[i].field) continue;
    const FieldSpec& field = kind.fields[*columns[i].field];
    if (row[i].text.empty() && !field.required) continue;
    Entry entry = columns[i].read(field, row[i].text);
    if (entry.faulty()) {
      Problem wrong{Place{file, row[i].line, std::string(field.id)}.text(), entry.fault.what,
                    entry.fault.remedy};
      if (!only_trade(field)) return wrong;
      problems.push_back(std::move(wrong));
      continue;
    }
    entry.origin = Origin::data_sheet;
    entries.emplace_back(*columns[i].field, std::move(entry));
  }
  Section part = Section::blank_of(kind);
  part.put(std::move(entries));
  return part;
}

/// Without a number, or with one that another part of the file has, a part cannot be found again.
std::optional<Problem> named_once(const Section& part, int line, std::unordered_map<std::string, int>& seen,
                                  std::string_view file) {
  const std::string& number = part.text("part_number");
  const Place place{file, line, "part_number"};
  if (number.empty()) return Problem{place.text(), "the part number is missing.", "Every part needs one."};
  const auto [first, fresh] = seen.emplace(number, line);
  if (fresh) return std::nullopt;
  return Problem{place.text(),
                 "part number " + number + " already stands in line " + std::to_string(first->second) +
                     ", which counts.",
                 "Give each part its own."};
}

} // namespace

PartsRead read_parts(std::string_view text, const SectionSpec& kind, std::string_view file) {
  PartsRead read;
  const auto in_file = [&](const Problem& problem) {
    return Problem{std::string(file) + ", " + problem.where, problem.what, problem.remedy};
  };
  const CsvRead csv = read_csv_rows(text);
  if (csv.rows.empty()) {
    read.problems.push_back(
        csv.problem ? in_file(*csv.problem)
                    : Problem{std::string(file), "the file is empty.", "The first line names the columns."});
    return read;
  }
  auto columns = read_header(csv.rows.front(), kind, file, read.problems);
  if (!columns) {
    read.problems.push_back(columns.problem());
    return read;
  }
  std::unordered_map<std::string, int> seen;
  for (std::size_t i = 1; i < csv.rows.size(); ++i) {
    const int line = csv.rows[i].front().line;
    auto part = read_part(csv.rows[i], *columns, kind, file, read.problems);
    const auto fresh = part ? named_once(*part, line, seen, file) : std::optional(part.problem());
    if (fresh) {
      read.problems.push_back(*fresh);
      continue;
    }
    read.parts.push_back(std::move(*part));
    read.lines.push_back(line);
  }
  if (csv.problem) read.problems.push_back(in_file(*csv.problem));
  return read;
}

std::string write_parts(const Parts& parts, const std::vector<std::string>& columns,
                        std::string_view comment) {
  std::string out;
  for (std::size_t start = 0; start < comment.size();) {
    const auto end = std::min(comment.find('\n', start), comment.size());
    out += "# " + std::string(comment.substr(start, end - start)) + "\n";
    start = end + 1;
  }
  for (std::size_t i = 0; i < columns.size(); ++i) out += (i > 0 ? "," : "") + csv_cell(columns[i]);
  out += "\n";
  for (const Section& part : parts) {
    for (std::size_t i = 0; i < columns.size(); ++i) {
      const auto open = columns[i].find('[');
      const std::string unit =
          open == std::string::npos ? "" : columns[i].substr(open + 1, columns[i].size() - open - 2);
      std::string text = part.text(trimmed(columns[i].substr(0, open)));
      if (!unit.empty() && text.ends_with(" " + unit)) text.resize(text.size() - unit.size() - 1);
      out += (i > 0 ? "," : "") + csv_cell(text);
    }
    out += "\n";
  }
  return out;
}

std::vector<std::string> columns_for(const Parts& parts) {
  std::vector<std::string> columns;
  if (parts.empty()) return {"part_number", "maker"};
  const SectionSpec& spec = parts.front().spec();
  for (std::size_t i = 0; i < spec.fields.size(); ++i) {
    const FieldSpec& field = spec.fields[i];
    const bool needed = field.id == "part_number" || field.id == "maker";
    const auto told = [&](const Section& part) { return !part.entry(i).blank(); };
    const auto first = std::find_if(parts.begin(), parts.end(), told);
    if (first == parts.end() && !needed) continue;
    std::string column(field.id);
    if (first != parts.end() && field.type == FieldType::quantity) {
      const auto unit_of = [&](const Section& part) {
        const auto quantity = parse_quantity(part.entry(i).text, field.kind);
        return quantity ? quantity->unit : std::string();
      };
      const std::string unit = unit_of(*first);
      const bool shared = std::all_of(first, parts.end(), [&](const Section& part) {
        return !told(part) || (unit_of(part) == unit && part.entry(i).text.ends_with(" " + unit));
      });
      if (!unit.empty() && shared) column += " [" + unit + "]";
    }
    columns.push_back(std::move(column));
  }
  return columns;
}

} // namespace fulmox
