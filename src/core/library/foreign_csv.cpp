#include "core/library/foreign_csv.hpp"

#include "core/support/csv.hpp"
#include "core/support/text_lines.hpp"

#include <nlohmann/json.hpp>

#include <algorithm>
#include <array>
#include <cctype>
#include <unordered_map>

namespace fulmox {
namespace {

/// Letters and figures alone, small: "Rated Torque (N·m)" and "rated_torque" compare by these.
std::string plain(std::string_view text) {
  std::string out;
  for (const char c : text)
    if (std::isalnum(static_cast<unsigned char>(c)) != 0)
      out += static_cast<char>(std::tolower(static_cast<unsigned char>(c)));
  return out;
}

/// "Inertia (kg·cm²)", "inertia [kg.cm2]", "Speed / rpm" → name and unit.
std::pair<std::string, std::string> split_unit(std::string_view title) {
  const std::string text = trimmed(title);
  for (const auto& [open, close] : {std::pair{'[', ']'}, {'(', ')'}}) {
    const auto from = text.rfind(open), to = text.rfind(close);
    if (from != std::string::npos && to != std::string::npos && from < to && from > 0)
      return {trimmed(text.substr(0, from)), trimmed(text.substr(from + 1, to - from - 1))};
  }
  if (const auto slash = text.rfind(" / "); slash != std::string::npos)
    return {trimmed(text.substr(0, slash)), trimmed(text.substr(slash + 3))};
  return {text, ""};
}

/// What the trade calls fields in other words; beginnings of titles count too.
struct Called {
  std::string_view word, field;
};
constexpr std::array called{Called{"ordernumber", "part_number"},
                            Called{"orderno", "part_number"},
                            Called{"articlenumber", "part_number"},
                            Called{"article", "part_number"},
                            Called{"model", "part_number"},
                            Called{"type", "part_number"},
                            Called{"partno", "part_number"},
                            Called{"sku", "part_number"},
                            Called{"manufacturer", "maker"},
                            Called{"brand", "maker"},
                            Called{"supplier", "maker"},
                            Called{"vendor", "maker"},
                            Called{"flangesize", "frame"},
                            Called{"framesize", "frame"},
                            Called{"rotorinertia", "inertia"},
                            Called{"momentofinertia", "inertia"},
                            Called{"maxspeed", "max_speed"},
                            Called{"maximumspeed", "max_speed"},
                            Called{"nmax", "max_speed"},
                            Called{"torqueconstant", "kt"},
                            Called{"voltageconstant", "ke"},
                            Called{"backemf", "ke"},
                            Called{"emfconstant", "ke"},
                            Called{"windingresistance", "resistance"},
                            Called{"phaseresistance", "resistance"},
                            Called{"windinginductance", "inductance"},
                            Called{"phaseinductance", "inductance"},
                            Called{"polepairs", "pole_pairs"},
                            Called{"ratedcurrent", "rated_current"},
                            Called{"nominalcurrent", "rated_current"},
                            Called{"continuouscurrent", "continuous_current"},
                            Called{"peakcurrent", "peak_current"},
                            Called{"maxcurrent", "peak_current"},
                            Called{"holdingtorque", "holding_torque"},
                            Called{"detenttorque", "detent"},
                            Called{"weight", "mass"},
                            Called{"listprice", "price"},
                            Called{"unitprice", "price"},
                            Called{"cost", "price"},
                            Called{"delivery", "lead_time"},
                            Called{"leadtime", "lead_time"},
                            Called{"quantity", "stock"},
                            Called{"onhand", "stock"},
                            Called{"gearratio", "ratio"},
                            Called{"reduction", "ratio"},
                            Called{"ratedtorque", "nominal_torque"},
                            Called{"nominaltorque", "nominal_torque"},
                            Called{"acceleratingtorque", "peak_torque"},
                            Called{"maxtorque", "peak_torque"},
                            Called{"shaftdiameter", "shaft"},
                            Called{"bodylength", "length"}};

std::string field_for(const std::string& name, const SectionSpec& form) {
  const std::string word = plain(name);
  if (word.empty()) return "";
  for (const FieldSpec& field : form.fields)
    if (word == plain(field.id) || word == plain(field.label)) return std::string(field.id);
  for (const FieldSpec& field : form.fields)
    if (!field.symbol.empty() && trimmed(name) == field.symbol) return std::string(field.id);
  for (const Called& one : called)
    if (word == one.word && form.index_of(one.field)) return std::string(one.field);
  return "";
}

/// "1,25" is a number with a decimal comma where the separator is none; "1,250" may be a thousand.
bool has_decimal_comma(const ForeignTable& table) {
  if (table.separator == ',') return false;
  for (const auto& row : table.rows)
    for (const std::string& cell : row) {
      const auto comma = cell.find(',');
      if (comma == std::string::npos || comma == 0 || cell.find('.') != std::string::npos) continue;
      std::size_t figures = 0;
      while (comma + 1 + figures < cell.size() &&
             std::isdigit(static_cast<unsigned char>(cell[comma + 1 + figures])) != 0)
        ++figures;
      const bool before = std::isdigit(static_cast<unsigned char>(cell[comma - 1])) != 0;
      if (before && figures > 0 && figures != 3 && cell.find(',', comma + 1) == std::string::npos)
        return true;
    }
  return false;
}

/// A unit of a title, where the program reads it for that field.
std::string readable_unit(const FieldSpec& field, const std::string& unit) {
  if (field.type != FieldType::quantity || unit.empty()) return "";
  return parse_quantity("1", field.kind, unit) ? unit : "";
}

/// Where figures stand on both sides, a comma becomes a point; those that set off points of a curve stay.
std::string with_points(std::string text) {
  for (std::size_t i = 1; i + 1 < text.size(); ++i)
    if (text[i] == ',' && std::isdigit(static_cast<unsigned char>(text[i - 1])) != 0 &&
        std::isdigit(static_cast<unsigned char>(text[i + 1])) != 0)
      text[i] = '.';
  return text;
}

} // namespace

std::string CsvMapping::key() const {
  std::string all = form + "\n";
  for (const MappedColumn& column : columns) all += column.title + "\n";
  return all;
}

Expected<ForeignTable> look_into(std::string_view text, std::size_t rows) {
  ForeignTable table;
  table.separator = guess_separator(text);
  const CsvRead read = read_csv_rows(text, table.separator);
  if (read.rows.empty())
    return read.problem.value_or(Problem{"", "the file is empty.", "Its first line must name the columns."});
  for (const CsvCell& cell : read.rows.front()) table.titles.push_back(trimmed(cell.text));
  for (std::size_t i = 1; i < std::min(read.rows.size(), rows + 1); ++i) {
    auto& row = table.rows.emplace_back();
    for (const CsvCell& cell : read.rows[i]) row.push_back(trimmed(cell.text));
  }
  return table;
}

CsvMapping guess_mapping(const ForeignTable& table, const SectionSpec& form) {
  CsvMapping mapping;
  mapping.form = form.id;
  mapping.separator = table.separator;
  mapping.decimal_comma = has_decimal_comma(table);
  std::vector<std::string> taken;
  for (const std::string& title : table.titles) {
    const auto [name, unit] = split_unit(title);
    MappedColumn column{title, field_for(name, form), ""};
    if (std::find(taken.begin(), taken.end(), column.field) != taken.end()) column.field.clear();
    if (!column.field.empty()) {
      taken.push_back(column.field);
      column.unit = readable_unit(form.fields[*form.index_of(column.field)], unit);
    }
    mapping.columns.push_back(std::move(column));
  }
  return mapping;
}

std::vector<Problem> mapping_faults(const CsvMapping& mapping, const SectionSpec& form) {
  std::vector<Problem> all;
  std::unordered_map<std::string, std::string> by_field;
  for (const MappedColumn& column : mapping.columns) {
    if (column.field.empty()) continue;
    const std::string where = "column \"" + column.title + "\"";
    const auto index = form.index_of(column.field);
    if (!index) {
      all.push_back(
          {where, "parts of this kind have no field \"" + column.field + "\".", "Choose another one."});
      continue;
    }
    const auto [first, fresh] = by_field.emplace(column.field, column.title);
    if (!fresh)
      all.push_back(
          {where, "it means the same as column \"" + first->second + "\".", "Pass one of them over."});
    const FieldSpec& field = form.fields[*index];
    if (field.type != FieldType::quantity || column.unit.empty()) continue;
    if (const auto unit = parse_quantity("1", field.kind, column.unit); !unit)
      all.push_back({where, unit.problem().what, unit.problem().remedy});
  }
  if (!by_field.contains("part_number"))
    all.push_back({"part number", "no column is the part number.", "Say which one is."});
  return all;
}

PartsRead read_foreign(std::string_view text, const CsvMapping& mapping, const SectionSpec& form,
                       std::string_view file_name) {
  const CsvRead read = read_csv_rows(text, mapping.separator);
  PartsRead out;
  if (const auto wrong = mapping_faults(mapping, form); !wrong.empty()) {
    out.problems = wrong;
    return out;
  }
  const bool maker_column = std::any_of(mapping.columns.begin(), mapping.columns.end(),
                                        [](const MappedColumn& c) { return c.field == "maker"; });
  const bool source_column = std::any_of(mapping.columns.begin(), mapping.columns.end(),
                                         [](const MappedColumn& c) { return c.field == "source"; });
  std::unordered_map<std::string, int> seen;
  for (std::size_t i = 1; i < read.rows.size(); ++i) {
    const CsvRow& row = read.rows[i];
    const int line = row.front().line;
    const std::string at = std::string(file_name) + ", line " + std::to_string(line);
    Section part = Section::blank_of(form);
    std::optional<Problem> wrong;
    for (std::size_t c = 0; c < std::min(row.size(), mapping.columns.size()) && !wrong; ++c) {
      const MappedColumn& column = mapping.columns[c];
      std::string cell = trimmed(row[c].text);
      if (column.field.empty() || cell.empty()) continue;
      const FieldSpec& field = form.fields[*form.index_of(column.field)];
      if (mapping.decimal_comma && field.type != FieldType::text) cell = with_points(std::move(cell));
      Entry entry = make_entry(field, cell, column.unit);
      if (entry.faulty())
        wrong = Problem{at + ", column \"" + column.title + "\"", entry.fault.what, entry.fault.remedy};
      entry.origin = Origin::data_sheet;
      part.put(*form.index_of(column.field), std::move(entry));
    }
    if (!maker_column) part.type("maker", mapping.maker, Origin::data_sheet);
    if (!source_column && part.has("source"))
      part.type("source", std::string(file_name) + ", line " + std::to_string(line), Origin::data_sheet);
    if (!wrong && part.blank("part_number"))
      wrong = Problem{at, "the part number is missing.", "Every part needs one."};
    if (!wrong)
      if (const auto [first, fresh] = seen.emplace(part.text("part_number"), line); !fresh)
        wrong = Problem{at,
                        "part number " + part.text("part_number") + " already stands in line " +
                            std::to_string(first->second) + ", which counts.",
                        "Give each part its own."};
    if (wrong) {
      out.problems.push_back(std::move(*wrong));
      continue;
    }
    out.parts.push_back(std::move(part));
    out.lines.push_back(line);
  }
  if (read.problem)
    out.problems.push_back(
        {std::string(file_name) + ", " + read.problem->where, read.problem->what, read.problem->remedy});
  return out;
}

std::string mappings_to_json(const std::vector<CsvMapping>& mappings) {
  auto all = nlohmann::ordered_json::array();
  for (const CsvMapping& mapping : mappings) {
    auto columns = nlohmann::ordered_json::array();
    for (const MappedColumn& column : mapping.columns)
      columns.push_back({{"title", column.title}, {"field", column.field}, {"unit", column.unit}});
    all.push_back({{"form", mapping.form},
                   {"separator", std::string(1, mapping.separator)},
                   {"decimal_comma", mapping.decimal_comma},
                   {"maker", mapping.maker},
                   {"columns", columns}});
  }
  return all.dump(2, ' ', false, nlohmann::ordered_json::error_handler_t::replace) + "\n";
}

std::vector<CsvMapping> mappings_from_json(std::string_view text) {
  std::vector<CsvMapping> all;
  const auto json = nlohmann::ordered_json::parse(text, nullptr, false);
  if (!json.is_array()) return all;
  for (const auto& one : json) try {
      CsvMapping mapping;
      mapping.form = one.at("form").get<std::string>();
      mapping.separator = one.at("separator").get<std::string>().at(0);
      mapping.decimal_comma = one.at("decimal_comma").get<bool>();
      mapping.maker = one.at("maker").get<std::string>();
      for (const auto& column : one.at("columns"))
        mapping.columns.push_back({column.at("title").get<std::string>(),
                                   column.at("field").get<std::string>(),
                                   column.at("unit").get<std::string>()});
      all.push_back(std::move(mapping));
    } catch (const std::exception&) {
      continue; // kept by another version, or damaged: asked for again
    }
  return all;
}

} // namespace fulmox
