#include "core/project/import_csv.hpp"

#include "core/motion/profile.hpp"

namespace fulmox {
namespace {

std::optional<Problem> import_points(Axis& axis, std::size_t segment, std::string_view field,
                                     const CsvPair& columns, std::string_view text) {
  if (segment >= axis.cycle.size())
    return Problem{"cycle", "there is no segment " + std::to_string(segment + 1) + ".",
                   "The cycle has " + std::to_string(axis.cycle.size()) + "."};
  Section& section = axis.cycle[segment];
  if (!section.spec().index_of(field))
    return Problem{section.path, "a " + std::string(section.spec().id) + " takes no such points.",
                   field == "points" ? "Choose a profile segment." : "Choose a move, run, dwell or profile."};
  const auto points = points_from_csv(text, columns);
  if (!points) return points.problem();
  section.type(field, *points, Origin::measured);
  return std::nullopt;
}

} // namespace

std::optional<Problem> import_profile(Axis& axis, std::size_t segment, std::string_view text) {
  return import_points(axis, segment, "points", profile_columns(motion_of(axis)), text);
}

std::optional<Problem> import_process(Axis& axis, std::size_t segment, std::string_view text) {
  return import_points(axis, segment, "process_curve", process_columns(motion_of(axis)), text);
}

std::optional<Problem> import_pieces(Axis& axis, std::string_view text, RotationAxis about) {
  auto pieces = pieces_from_csv(text, about);
  if (!pieces) return pieces.problem();
  axis.pieces.insert(axis.pieces.end(), pieces->begin(), pieces->end());
  number_sections(axis);
  return std::nullopt;
}

std::vector<std::string> import_remarks(const Axis& axis, std::string_view text, RotationAxis about) {
  return motion_of(axis).rotary() ? remarks_on_pieces(text, about) : std::vector<std::string>();
}

} // namespace fulmox
