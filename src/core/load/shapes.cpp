#include "core/load/shapes.hpp"

#include <cmath>

namespace fulmox {
namespace {

FieldSpec length(std::string_view id, std::string_view label, std::string_view symbol,
                 std::string_view help = "") {
  return needed(id, label, symbol, Kind::length, range::positive, "", help);
}

FieldSpec lies() {
  return one_of("lies", "Its own axis", {{"along", "along the axis"}, {"across", "across the axis"}},
                "Whether its own axis runs along the axis of rotation or square to it.");
}

bool across(const Section& piece) { return piece.text("lies") == "across"; }

/// A round body: a circle seen end on, a rectangle seen from the side.
void draw_round(const Section& piece, Ink ink, Point centre, double angle, Drawing& drawing,
                double diameter) {
  if (across(piece))
    drawing.box(ink, centre, piece.term("length"), diameter, angle);
  else
    drawing.circle(ink, centre, 0.5 * diameter);
}

} // namespace

const PieceSpec& cylinder_piece() {
  static const PieceSpec spec{
      {"cylinder", "Cylinder",
       piece_fields({length("diameter", "Diameter", "D"), length("length", "Length", "L"), lies()})},
      [](const Section& piece, Recorder& recorder) {
        const Term d = piece.term("diameter"), l = piece.term("length");
        const Term m = piece_mass(piece, book::mass_cylinder, {d, l}, recorder);
        return Body{m, across(piece) ? recorder.apply(book::inertia_cylinder_across, "own_inertia", {m, d, l})
                                     : recorder.apply(book::inertia_cylinder, "own_inertia", {m, d})};
      },
      [](const Section& piece, Ink ink, Point centre, double angle, Drawing& drawing) {
        draw_round(piece, ink, centre, angle, drawing, piece.term("diameter"));
      }};
  return spec;
}

const PieceSpec& hollow_cylinder_piece() {
  static const PieceSpec spec{
      {"hollow_cylinder", "Hollow cylinder",
       piece_fields({length("outer", "Outside diameter", "D"), length("inner", "Bore", "d"),
                     length("length", "Length", "L"), lies()})},
      [](const Section& piece, Recorder& recorder) {
        const Term outer = piece.term("outer"), inner = piece.term("inner"), l = piece.term("length");
        const Term m = piece_mass(piece, book::mass_hollow_cylinder, {outer, inner, l}, recorder);
        return Body{
            m, across(piece)
                   ? recorder.apply(book::inertia_hollow_cylinder_across, "own_inertia", {m, outer, inner, l})
                   : recorder.apply(book::inertia_hollow_cylinder, "own_inertia", {m, outer, inner})};
      },
      [](const Section& piece, Ink ink, Point centre, double angle, Drawing& drawing) {
        draw_round(piece, ink, centre, angle, drawing, piece.term("outer"));
        draw_round(piece, Ink::hole, centre, angle, drawing, piece.term("inner"));
      }};
  return spec;
}

const PieceSpec& cuboid_piece() {
  static const PieceSpec spec{
      {"cuboid", "Cuboid",
       piece_fields({length("a", "Width", "a", "Square to the axis of rotation, away from it."),
                     length("b", "Depth", "b", "Square to the axis of rotation, around it."),
                     length("c", "Height", "c", "Along the axis of rotation.")})},
      [](const Section& piece, Recorder& recorder) {
        const Term a = piece.term("a"), b = piece.term("b");
        const Term m = piece_mass(piece, book::mass_cuboid, {a, b, piece.term("c")}, recorder);
        return Body{m, recorder.apply(book::inertia_cuboid, "own_inertia", {m, a, b})};
      },
      [](const Section& piece, Ink ink, Point centre, double angle, Drawing& drawing) {
        drawing.box(ink, centre, piece.term("a"), piece.term("b"), angle);
      }};
  return spec;
}

const PieceSpec& rod_piece() {
  static const PieceSpec spec{
      {"rod", "Thin rod",
       piece_fields({length("length", "Length", "L", "Square to the axis of rotation, away from it."),
                     length("diameter", "Diameter", "D", "For its mass; thin against its length.")})},
      [](const Section& piece, Recorder& recorder) {
        const Term l = piece.term("length");
        const Term m = piece_mass(piece, book::mass_cylinder, {piece.term("diameter"), l}, recorder);
        return Body{m, recorder.apply(book::inertia_rod, "own_inertia", {m, l})};
      },
      [](const Section& piece, Ink ink, Point centre, double angle, Drawing& drawing) {
        drawing.box(ink, centre, piece.term("length"), piece.term("diameter"), angle);
      }};
  return spec;
}

const PieceSpec& sphere_piece() {
  static const PieceSpec spec{{"sphere", "Sphere", piece_fields({length("diameter", "Diameter", "D")})},
                              [](const Section& piece, Recorder& recorder) {
                                const Term d = piece.term("diameter");
                                const Term m = piece_mass(piece, book::mass_sphere, {d}, recorder);
                                return Body{m, recorder.apply(book::inertia_sphere, "own_inertia", {m, d})};
                              },
                              [](const Section& piece, Ink ink, Point centre, double, Drawing& drawing) {
                                drawing.circle(ink, centre, 0.5 * piece.term("diameter"));
                              }};
  return spec;
}

const PieceSpec& cone_piece() {
  static const PieceSpec spec{
      {"cone", "Cone",
       piece_fields({length("diameter", "Diameter of its base", "D"),
                     length("height", "Height", "h", "Along the axis of rotation.")})},
      [](const Section& piece, Recorder& recorder) {
        const Term d = piece.term("diameter");
        const Term m = piece_mass(piece, book::mass_cone, {d, piece.term("height")}, recorder);
        return Body{m, recorder.apply(book::inertia_cone, "own_inertia", {m, d})};
      },
      [](const Section& piece, Ink ink, Point centre, double, Drawing& drawing) {
        drawing.circle(ink, centre, 0.5 * piece.term("diameter"));
      }};
  return spec;
}

const PieceSpec& point_piece() {
  static const PieceSpec spec{
      {"point", "Point mass",
       piece_fields({needed("mass", "Mass", "m", Kind::mass, range::positive, "", "All of it at one place.")},
                    false)},
      [](const Section& piece, Recorder&) {
        return Body{piece.term("mass"), {0.0, ""}};
      },
      [](const Section& piece, Ink ink, Point centre, double, Drawing& drawing) {
        // a ball of steel of that mass shows its weight
        drawing.circle(ink, centre, std::cbrt(piece.term("mass") / 7850.0 * 0.75 / M_PI));
      }};
  return spec;
}

const PieceSpec& ring_piece() {
  static const PieceSpec spec{
      {"ring", "Ring of equal pieces",
       piece_fields(
           {needed("count", "How many", "n", Kind::number, range::whole(1.0, 1000.0), "6",
                   "Evenly around their centre."),
            needed("mass", "Mass of one", "m_1", Kind::mass, range::positive, "", "Of a single piece."),
            length("radius", "Radius", "R", "From the centre of the ring to that of each piece."),
            optional("inertia", "Inertia of one", "J_1", Kind::inertia, range::not_negative,
                     "About its own centre. Blank: neglected.")},
           false)},
      [](const Section& piece, Recorder& recorder) {
        const Term n = piece.term("count"), m = piece.term("mass");
        return Body{recorder.apply(book::mass_ring, "mass", {n, m}),
                    recorder.apply(book::inertia_ring, "own_inertia",
                                   {n, piece.term_or("inertia", 0.0), m, piece.term("radius")})};
      },
      [](const Section& piece, Ink ink, Point centre, double angle, Drawing& drawing) {
        const int n = static_cast<int>(std::lround(piece.term("count")));
        const double one = std::cbrt(piece.term("mass") / 7850.0 * 0.75 / M_PI);
        for (int k = 0; k < n; ++k) {
          const double at = angle + 2.0 * M_PI * k / n;
          drawing.circle(ink,
                         {centre.x + piece.term("radius") * std::cos(at),
                          centre.y + piece.term("radius") * std::sin(at)},
                         one);
        }
      }};
  return spec;
}

const PieceSpec& given_piece() {
  static const PieceSpec spec{
      {"given", "Known mass and inertia",
       piece_fields(
           {needed("mass", "Mass", "m", Kind::mass, range::positive, "", "From a drawing or a scale."),
            needed("inertia", "Inertia", "J_c", Kind::inertia, range::not_negative, "",
                   "About its own centre, parallel to the axis of rotation.")},
           false)},
      [](const Section& piece, Recorder&) {
        return Body{piece.term("mass"), piece.term("inertia")};
      },
      [](const Section& piece, Ink ink, Point centre, double, Drawing& drawing) {
        // a disc with this radius of gyration
        drawing.circle(ink, centre, std::sqrt(2.0 * piece.term("inertia") / piece.term("mass")));
      }};
  return spec;
}

} // namespace fulmox
