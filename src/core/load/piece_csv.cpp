#include "core/load/piece_csv.hpp"

#include "core/library/csv.hpp"
#include "core/load/shapes.hpp"
#include "core/quantity/format.hpp"
#include "core/quantity/parse.hpp"
#include "core/support/text_lines.hpp"

#include <array>
#include <cmath>
#include <map>

namespace fulmox {
namespace {

struct Column {
  std::string_view name;
  Kind kind;
  bool needed;
};

constexpr std::array known{Column{"mass", Kind::mass, true}, Column{"x", Kind::length, false},
                           Column{"y", Kind::length, false}, Column{"izz", Kind::inertia, true}};

std::string lowered(std::string text) {
  for (char& c : text) c = static_cast<char>(std::tolower(static_cast<unsigned char>(c)));
  return text;
}

/// Where each known column stands and the unit it carries.
struct Header {
  std::map<std::string, std::pair<std::size_t, std::string>, std::less<>> places;
};

Expected<Header> read_header(const CsvRow& row) {
  Header header;
  for (std::size_t i = 0; i < row.size(); ++i) {
    const std::string& title = row[i].text;
    const auto open = title.find_first_of("[(");
    const std::string name = lowered(trimmed(title.substr(0, open)));
    const std::string unit =
        open == std::string::npos
            ? ""
            : trimmed(title.substr(open + 1, title.find_first_of("])", open) - open - 1));
    header.places[name] = {i, unit};
  }
  const std::string place = "line " + std::to_string(row.front().line);
  for (const Column& column : known) {
    const auto found = header.places.find(column.name);
    if (found == header.places.end()) {
      if (!column.needed) continue;
      return Problem{
          place, "the column '" + std::string(column.name) + "' is missing.",
          "The header must name part, mass [kg] and Izz [kg.m2]; x and y tell where the centre is."};
    }
    if (const auto one = parse_quantity("1 " + found->second.second, column.kind); !one)
      return Problem{place + ", column " + std::to_string(found->second.first + 1),
                     "the unit of '" + std::string(column.name) + "' is missing or wrong.",
                     "Write it like mass [kg] or Izz [kg.mm2]."};
  }
  return header;
}

std::string number(double value) {
  char text[32];
  std::snprintf(text, sizeof text, "%.9g", value);
  return text;
}

} // namespace

Expected<std::vector<Section>> pieces_from_csv(std::string_view text) {
  const auto rows = read_csv(text);
  if (!rows) return rows.problem();
  if (rows->empty()) return Problem{"line 1", "the file is empty.", "The first line names the columns."};
  const auto header = read_header(rows->front());
  if (!header) return header.problem();
  std::vector<Section> pieces;
  for (std::size_t r = 1; r < rows->size(); ++r) {
    const CsvRow& row = (*rows)[r];
    const std::string place = "line " + std::to_string(row.front().line);
    std::map<std::string_view, double> values;
    for (const Column& column : known) {
      const auto found = header->places.find(column.name);
      if (found == header->places.end()) continue;
      const auto& [index, unit] = found->second;
      if (index >= row.size()) return Problem{place, "the row is too short.", "Every row needs all columns."};
      const auto quantity = parse_quantity(row[index].text, column.kind, unit);
      if (!quantity)
        return Problem{place + ", column " + std::to_string(index + 1), quantity.problem().what,
                       quantity.problem().remedy};
      values[column.name] = quantity->value;
    }
    if (!(values["mass"] > 0.0) || values["izz"] < 0.0)
      return Problem{place, "mass must be greater than 0 and inertia not negative.", "Check this row."};
    Section piece(given_piece().section);
    if (const auto name = header->places.find("part"); name != header->places.end())
      piece.type("name", row[name->second.first].text);
    piece.type("mass", number(values["mass"]) + " kg", Origin::data_sheet);
    piece.type("inertia", number(values["izz"]) + " kg.m2", Origin::data_sheet);
    const double offset = std::hypot(values["x"], values["y"]);
    if (offset > 0.0) {
      piece.type("offset", number(offset * 1e3) + " mm", Origin::data_sheet);
      piece.type("offset_angle", number(std::atan2(values["y"], values["x"]) * 180.0 / M_PI) + " deg",
                 Origin::data_sheet);
    }
    pieces.push_back(std::move(piece));
  }
  if (pieces.empty()) return Problem{"", "the file holds no pieces.", "Add a row for each."};
  return pieces;
}

} // namespace fulmox
