#include "cli/csv_json.hpp"

#include "core/quantity/number_text.hpp"
#include "core/support/csv.hpp"

#include <nlohmann/json.hpp>

#include <iostream>

namespace fulmox::cli {
namespace {

using Json = nlohmann::ordered_json;

Json columns_of(const CsvRow& titles) {
  Json columns = Json::array();
  for (const CsvCell& cell : titles) {
    Json column{{"name", cell.text}, {"unit", ""}};
    if (const auto bracket = cell.text.rfind(" ["); bracket != std::string::npos && cell.text.ends_with(']'))
      column = {{"name", cell.text.substr(0, bracket)},
                {"unit", cell.text.substr(bracket + 2, cell.text.size() - bracket - 3)}};
    columns.push_back(column);
  }
  return columns;
}

Json row_of(const CsvRow& cells) {
  Json row = Json::array();
  for (const CsvCell& cell : cells) {
    const auto number = read_number(cell.text);
    row.push_back(number ? Json(*number) : cell.text == "nan" ? Json() : Json(cell.text));
  }
  return row;
}

/// Some lines of CSV, the first of all with the titles.
std::string in_json(std::string_view lines, bool& titled, bool& first_row) {
  std::string out;
  for (const CsvRow& row : read_csv_rows(lines).rows) {
    if (!titled) {
      out += "{\"columns\": " + columns_of(row).dump() + ",\n\"rows\": [";
      titled = true;
      continue;
    }
    out += (first_row ? "\n" : ",\n") + row_of(row).dump();
    first_row = false;
  }
  return out;
}

} // namespace

void print_table(const TextProducer& table, bool json) {
  bool titled = false, first_row = true;
  table([&](std::string_view lines) {
    return static_cast<bool>(json ? std::cout << in_json(lines, titled, first_row) : std::cout << lines);
  });
  if (json) std::cout << "]}\n";
}

} // namespace fulmox::cli
