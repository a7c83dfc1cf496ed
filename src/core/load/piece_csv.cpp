#include "core/load/piece_csv.hpp"

#include "core/load/shapes.hpp"
#include "core/quantity/format.hpp"
#include "core/quantity/number_text.hpp"
#include "core/quantity/parse.hpp"
#include "core/support/csv.hpp"
#include "core/support/text_lines.hpp"

#include <algorithm>
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

/// Mass, the centre's two coordinates square to the axis of rotation (right-handed), inertia about it.
struct Columns {
  Column mass, across, up, inertia;
  [[nodiscard]] std::array<Column, 4> all() const { return {mass, across, up, inertia}; }
};

Columns columns_for(RotationAxis about) {
  const auto of = [](std::string_view across, std::string_view up, std::string_view inertia) {
    return Columns{{"mass", Kind::mass, true},
                   {across, Kind::length, false},
                   {up, Kind::length, false},
                   {inertia, Kind::inertia, true}};
  };
  switch (about) {
  case RotationAxis::x:
    return of("y", "z", "ixx");
  case RotationAxis::y:
    return of("z", "x", "iyy");
  case RotationAxis::z:
    break;
  }
  return of("x", "y", "izz");
}

std::string lowered(std::string text) {
  for (char& c : text) c = static_cast<char>(std::tolower(static_cast<unsigned char>(c)));
  return text;
}

/// Where each known column stands and the unit it carries.
struct Header {
  std::map<std::string, std::pair<std::size_t, std::string>, std::less<>> places;
};

Expected<Header> read_header(const CsvRow& row, const Columns& columns) {
  Header header;
  for (std::size_t i = 0; i < row.size(); ++i) {
    const std::string& title = row[i].text;
    const auto open = title.find_first_of("[(");
    const std::string name = lowered(trimmed(title.substr(0, open)));
    const std::string unit =
        open == std::string::npos
            ? ""
            : trimmed(title.substr(open + 1, title.find_first_of("])", open) - open - 1));
    if (header.places.contains(name) && !name.empty())
      return Problem{"line " + std::to_string(row.front().line) + ", column " + std::to_string(i + 1),
                     "the column '" + name + "' stands there twice.", "Take one of them out."};
    header.places[name] = {i, unit};
  }
  const std::string place = "line " + std::to_string(row.front().line);
  for (const Column& column : columns.all()) {
    const auto found = header.places.find(column.name);
    if (found == header.places.end()) {
      if (!column.needed) continue;
      return Problem{
          place, "the column '" + std::string(column.name) + "' is missing.",
          "The header must name mass [kg] and the inertia about the axis of rotation, like Izz [kg.m2]; x, y "
          "and z tell where the centre is."};
    }
    if (const auto one = parse_quantity("1 " + found->second.second, column.kind); !one)
      return Problem{place + ", column " + std::to_string(found->second.first + 1),
                     "the unit of '" + std::string(column.name) + "' is missing or wrong.",
                     "Write it like mass [kg] or Izz [kg.mm2]."};
  }
  return header;
}

} // namespace

Expected<std::vector<Section>> pieces_from_csv(std::string_view text, RotationAxis about) {
  const Columns columns = columns_for(about);
  const auto rows = read_csv(text);
  if (!rows) return rows.problem();
  if (rows->empty()) return Problem{"line 1", "the file is empty.", "The first line names the columns."};
  const auto header = read_header(rows->front(), columns);
  if (!header) return header.problem();
  std::vector<Section> pieces;
  for (std::size_t r = 1; r < rows->size(); ++r) {
    const CsvRow& row = (*rows)[r];
    const std::string place = "line " + std::to_string(row.front().line);
    std::map<std::string_view, double> values;
    for (const Column& column : columns.all()) {
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
    if (!(values["mass"] > 0.0) || values[columns.inertia.name] < 0.0)
      return Problem{place, "mass must be greater than 0 and inertia not negative.", "Check this row."};
    Section piece(given_piece().section);
    if (const auto name = header->places.find("part");
        name != header->places.end() && name->second.first < row.size())
      piece.type("name", row[name->second.first].text);
    piece.type("mass", number_text(values["mass"]) + " kg", Origin::data_sheet);
    piece.type("inertia", number_text(values[columns.inertia.name]) + " kg.m2", Origin::data_sheet);
    const double offset = std::hypot(values[columns.across.name], values[columns.up.name]);
    if (offset > 0.0) {
      piece.type("offset", number_text(offset * 1e3) + " mm", Origin::data_sheet);
      piece.type(
          "offset_angle",
          number_text(std::atan2(values[columns.up.name], values[columns.across.name]) * 180.0 / M_PI) +
              " deg",
          Origin::data_sheet);
    }
    pieces.push_back(std::move(piece));
  }
  if (pieces.empty()) return Problem{"", "the file holds no pieces.", "Add a row for each."};
  return pieces;
}

std::vector<std::string> remarks_on_pieces(std::string_view text, RotationAxis about) {
  constexpr std::array<std::string_view, 8> known{"part", "mass", "x", "y", "z", "ixx", "iyy", "izz"};
  const Columns columns = columns_for(about);
  const auto rows = read_csv(text);
  if (!rows || rows->empty()) return {};
  const auto header = read_header(rows->front(), columns);
  if (!header) return {};
  std::vector<std::string> remarks;
  for (const Column& centre : {columns.across, columns.up})
    if (!header->places.contains(centre.name))
      remarks.push_back(
          "There is no column '" + std::string(centre.name) +
          "': every piece counts as if its centre lay on the axis there, which makes the inertia "
          "too small where it does not.");
  std::string unread;
  for (const auto& [name, place] : header->places)
    if (std::find(known.begin(), known.end(), name) == known.end() && !name.empty())
      unread += (unread.empty() ? "'" : ", '") + name + "'";
  if (!unread.empty()) remarks.push_back("Not read: " + unread + ".");
  return remarks;
}

} // namespace fulmox
