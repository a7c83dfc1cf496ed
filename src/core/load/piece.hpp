#pragma once
#include "core/drawing/drawing.hpp"
#include "core/form/section.hpp"

#include <optional>
#include <span>
#include <vector>

namespace fulmox {

/// A body of the load: its mass and its inertia about its own centre, parallel to the axis of rotation.
struct Body {
  Term mass, inertia;
};

/// One shape of body: its form, how it is worked out and how it is drawn seen along the axis of rotation.
/// Registered in piece.cpp.
struct PieceSpec {
  SectionSpec section;
  Body (*body)(const Section& piece, Recorder& recorder);
  void (*draw)(const Section& piece, Ink ink, Point centre, double angle, Drawing& drawing);
};

std::span<const PieceSpec* const> piece_specs();
const PieceSpec* find_piece_spec(std::string_view id);

/// The fields every piece has around those of its size: name, material, mass, hole, place.
std::vector<FieldSpec> piece_fields(std::vector<FieldSpec> size, bool by_volume = true);
/// Mass as typed, else density times the volume that `by_density` works out.
Term piece_mass(const Section& piece, const Formula& by_density, std::initializer_list<Term> size,
                Recorder& recorder);

/// A piece in its place: holes count negative.
struct PlacedPiece {
  std::string name;
  Term mass;               ///< kg, negative for a hole
  Term inertia;            ///< kg·m² about the axis of rotation, negative for a hole
  double x = 0.0, y = 0.0; ///< m, its centre seen along the axis
};

/// All pieces together.
struct LoadBody {
  std::vector<PlacedPiece> pieces;
  Term mass{0.0, ""}, inertia{0.0, ""};
  double moment_x = 0.0, moment_y = 0.0; ///< kg·m, Σ m·x and Σ m·y: what a horizontal axis feels
};

LoadBody put_together(std::span<const Section> pieces, Recorder& recorder);
/// A mistake no single field shows: neither mass nor material, a hole bigger than the body.
std::optional<Problem> misfit(std::span<const Section> pieces);
Drawing draw_pieces(std::span<const Section> pieces, double angle);

namespace book {
extern const Formula mass_cylinder, mass_hollow_cylinder, mass_cuboid, mass_sphere, mass_cone, mass_ring;
extern const Formula inertia_cylinder, inertia_hollow_cylinder, inertia_cylinder_across,
    inertia_hollow_cylinder_across, inertia_cuboid, inertia_rod, inertia_sphere, inertia_cone, inertia_ring;
extern const Formula steiner, signed_mass;
} // namespace book
std::span<const Formula* const> piece_formulas();

} // namespace fulmox
