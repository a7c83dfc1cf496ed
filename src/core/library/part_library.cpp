#include "core/library/part_library.hpp"

#include "core/project/slots.hpp"
#include "core/support/csv.hpp"
#include "core/support/text_file.hpp"
#include "core/support/text_lines.hpp"

#include <algorithm>
#include <array>
#include <unordered_map>

namespace fulmox {
namespace {

struct Column {
  std::size_t field = 0;
  std::string unit;
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

Expected<Column> read_column(const CsvCell& cell, const SectionSpec& kind, std::string_view file) {
  const std::string text = trimmed(cell.text);
  const Place place{file, cell.line, text};
  const auto open = text.find('[');
  const std::string name = trimmed(text.substr(0, open));
  const auto index = kind.index_of(name);
  if (!index)
    return Problem{place.text(), "no such column is known.", "Columns are listed in docs/libraries.md."};
  Column column{*index, ""};
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

Expected<std::vector<Column>> read_header(const CsvRow& row, const SectionSpec& kind, std::string_view file) {
  std::vector<Column> columns;
  for (const CsvCell& cell : row) {
    auto column = read_column(cell, kind, file);
    if (!column) return column.problem();
    const bool twice = std::any_of(columns.begin(), columns.end(),
                                   [&](const Column& c) { return c.field == column->field; });
    if (twice)
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

Expected<Section> read_part(const CsvRow& row, const std::vector<Column>& columns, const SectionSpec& kind,
                            std::string_view file) {
  Section part(kind);
  for (std::size_t i = 0; i < part.size(); ++i) part.put(i, make_entry(kind.fields[i], ""));
  if (row.size() != columns.size())
    return Problem{Place{file, row.front().line, ""}.text(),
                   "this line has " + std::to_string(row.size()) + " cells, the header has " +
                       std::to_string(columns.size()) + ".",
                   "Check the commas; quote texts that hold one."};
  for (std::size_t i = 0; i < row.size(); ++i) {
    const FieldSpec& field = kind.fields[columns[i].field];
    if (row[i].text.empty() && !field.required) continue;
    Entry entry = make_entry(field, row[i].text, columns[i].unit);
    if (entry.faulty())
      return Problem{Place{file, row[i].line, std::string(field.id)}.text(), entry.fault.what,
                     entry.fault.remedy};
    entry.origin = Origin::data_sheet;
    part.put(columns[i].field, std::move(entry));
  }
  return part;
}

} // namespace

Expected<Parts> read_parts(std::string_view text, const SectionSpec& kind, std::string_view file) {
  const auto rows = read_csv(text);
  if (!rows)
    return Problem{std::string(file) + ", " + rows.problem().where, rows.problem().what,
                   rows.problem().remedy};
  if (rows->empty())
    return Problem{std::string(file), "the file is empty.", "The first line names the columns."};
  const auto columns = read_header(rows->front(), kind, file);
  if (!columns) return columns.problem();
  Parts parts;
  std::unordered_map<std::string, int> seen;
  for (std::size_t i = 1; i < rows->size(); ++i) {
    const CsvRow& row = (*rows)[i];
    auto part = read_part(row, *columns, kind, file);
    if (!part) return part.problem();
    const std::string& number = part->text("part_number");
    const Place place{file, row.front().line, "part_number"};
    if (number.empty()) return Problem{place.text(), "the part number is missing.", "Every part needs one."};
    const auto [first, fresh] = seen.emplace(number, row.front().line);
    if (!fresh)
      return Problem{place.text(),
                     "part number " + number + " already stands in line " + std::to_string(first->second) +
                         ".",
                     "Give each part its own."};
    parts.push_back(std::move(*part));
  }
  return parts;
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

std::vector<const SlotSpec*> part_slots() {
  std::vector<const SlotSpec*> all;
  for (const SlotSpec* slot : axis_slots())
    if (!slot->kinds().front().library.empty()) all.push_back(slot);
  return all;
}

const Parts& Library::of(std::string_view slot) const {
  static const Parts none;
  const auto found = parts_.find(slot);
  return found != parts_.end() ? found->second : none;
}

const Section* Library::find(std::string_view slot, std::string_view part_number) const {
  for (const Section& part : of(slot))
    if (part.text("part_number") == part_number) return &part;
  return nullptr;
}

void Library::add(std::string_view slot, Parts parts) {
  Parts& all = parts_[std::string(slot)];
  all.insert(all.end(), std::make_move_iterator(parts.begin()), std::make_move_iterator(parts.end()));
}

Expected<Library> load_library(const std::filesystem::path& folder) {
  constexpr std::uintmax_t limit = 64U * 1024U * 1024U;
  Library library;
  for (const SlotSpec* slot : part_slots())
    for (const SlotKind& kind : slot->kinds()) {
      if (kind.library.empty()) continue; // a kind without parts to choose from
      const auto text = read_text_file(folder / kind.library, limit);
      if (!text) return text.problem();
      auto parts = read_parts(*text, *kind.form, kind.library);
      if (!parts) return parts.problem();
      library.add(slot->id, std::move(*parts));
    }
  return library;
}

void choose_part(Axis& axis, std::string_view slot, const Section& part) {
  Section& place = axis[slot];
  const auto unknown = place.unknown;
  const Section before = place;
  place = part;
  place.path = slot;
  for (std::size_t i = 0; i < place.size(); ++i) {
    const FieldSpec& field = place.field(i);
    if (field.setting && before.has(field.id)) place.put(i, before.entry(field.id));
  }
  const SlotSpec* of = find_slot(slot);
  if (const SlotKind kind = of != nullptr ? kind_in(*of, place) : SlotKind{}; kind.settle != nullptr)
    kind.settle(place);
  place.unknown = unknown;
}

} // namespace fulmox
