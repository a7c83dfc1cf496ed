#pragma once
#include "core/load/piece.hpp"

namespace fulmox {

const PieceSpec& cylinder_piece();
const PieceSpec& hollow_cylinder_piece();
const PieceSpec& cuboid_piece();
const PieceSpec& rod_piece();
const PieceSpec& sphere_piece();
const PieceSpec& cone_piece();
const PieceSpec& point_piece();
const PieceSpec& ring_piece();
const PieceSpec& given_piece();

} // namespace fulmox
