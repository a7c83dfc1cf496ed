#include "core/load/piece.hpp"

#include "core/load/materials.hpp"
#include "core/load/shapes.hpp"
#include "core/rotation/rotation.hpp"
#include "core/support/intern.hpp"

#include <array>
#include <cmath>

namespace fulmox {

std::span<const PieceSpec* const> piece_specs() {
  static const std::array specs{
      &cylinder_piece(), &hollow_cylinder_piece(), &cuboid_piece(), &rod_piece(),  &sphere_piece(),
      &cone_piece(),     &point_piece(),           &ring_piece(),   &given_piece()};
  return specs;
}

const PieceSpec* find_piece_spec(std::string_view id) {
  for (const PieceSpec* spec : piece_specs())
    if (spec->section.id == id) return spec;
  return nullptr;
}

std::vector<FieldSpec> piece_fields(std::vector<FieldSpec> size, bool by_volume) {
  std::vector<FieldSpec> fields{written("name", "Name", "", "What this piece is.")};
  for (FieldSpec& field : size) fields.push_back(std::move(field));
  if (by_volume) {
    fields.push_back(material_field());
    fields.push_back(
        optional("density", "Density", "ρ", Kind::density, range::positive, "Instead of the material's."));
    fields.push_back(
        optional("mass", "Mass", "m", Kind::mass, range::positive, "Instead of density times volume."));
  }
  fields.push_back(one_of("counts", "Counts", {{"body", "as a body"}, {"hole", "as a hole"}},
                          "A hole takes its mass and inertia away."));
  fields.push_back(optional("offset", "Distance from axis", "d", Kind::length, range::not_negative,
                            "From the axis of rotation to the piece's own centre. Blank: on the axis."));
  fields.push_back(optional("offset_angle", "Direction", "γ", Kind::angle, range::any,
                            "Where around the axis it sits when the axis is at zero."));
  return fields;
}

Term piece_mass(const Section& piece, const Formula& by_density, std::initializer_list<Term> size,
                Recorder& recorder) {
  if (!piece.blank("mass")) return piece.term("mass");
  std::vector<Term> terms{piece.blank("density")
                              ? Term{density_of(piece.text("material")), piece.term("material").ref}
                              : piece.term("density")};
  terms.insert(terms.end(), size);
  return recorder.apply(by_density, "mass", std::span<const Term>(terms));
}

LoadBody put_together(std::span<const Section> pieces, Recorder& recorder) {
  LoadBody out;
  if (pieces.empty()) return out;
  std::vector<Term> masses, inertias;
  for (std::size_t i = 0; i < pieces.size(); ++i) {
    const Section& piece = pieces[i];
    const PieceSpec* spec = find_piece_spec(piece.spec().id);
    const Recorder::Scope scope(recorder, "piece." + std::to_string(i + 1) + ".");
    const Body body = spec->body(piece, recorder);
    const Term sign{piece.text("counts") == "hole" ? -1.0 : 1.0, ""};
    const Term offset = piece.term_or("offset", 0.0);
    PlacedPiece placed;
    placed.name = piece.blank("name") ? std::string(spec->section.title) : piece.text("name");
    placed.mass =
        sign > 0.0 ? body.mass : recorder.apply(book::signed_mass, "mass_removed", {sign, body.mass});
    placed.inertia = recorder.apply(book::steiner, "inertia", {sign, body.inertia, body.mass, offset});
    const double angle = piece.term_or("offset_angle", 0.0);
    placed.x = offset * std::cos(angle);
    placed.y = offset * std::sin(angle);
    out.moment_x += placed.mass * placed.x;
    out.moment_y += placed.mass * placed.y;
    masses.push_back(placed.mass);
    inertias.push_back(placed.inertia);
    out.pieces.push_back(std::move(placed));
  }
  out.mass = recorder.apply(book::mass_sum, "pieces.mass", std::span<const Term>(masses));
  out.inertia = recorder.apply(book::inertia_sum, "pieces.inertia", std::span<const Term>(inertias));
  return out;
}

std::optional<Problem> misfit(std::span<const Section> pieces) {
  Recorder silent(false);
  const LoadBody body = put_together(pieces, silent);
  for (std::size_t i = 0; i < pieces.size(); ++i)
    if (std::isnan(body.pieces[i].mass) || std::isnan(body.pieces[i].inertia))
      return Problem{pieces[i].path, "this piece is not complete.",
                     "Give its size and its material or mass."};
    else if (pieces[i].is("hollow_cylinder") && pieces[i].term("inner") >= pieces[i].term("outer"))
      return Problem{pieces[i].path + ".inner", "the bore is as wide as the outside.",
                     "Type a smaller bore."};
  if (!pieces.empty() && (body.mass <= 0.0 || body.inertia < 0.0))
    return Problem{pieces.front().path, "the holes take away more than the bodies bring.",
                   "Check which pieces count as holes, and their sizes."};
  return std::nullopt;
}

Drawing draw_pieces(std::span<const Section> pieces, double angle) {
  Drawing drawing;
  for (const Section& piece : pieces) {
    const double offset = piece.term_or("offset", 0.0);
    const double direction = piece.term_or("offset_angle", 0.0) + angle;
    find_piece_spec(piece.spec().id)
        ->draw(piece, piece.text("counts") == "hole" ? Ink::hole : Ink::load,
               {offset * std::cos(direction), offset * std::sin(direction)}, direction, drawing);
  }
  return drawing;
}

} // namespace fulmox
