#pragma once
#include "core/drawing/drawing.hpp"
#include "core/mechanism/mechanism.hpp"
#include "core/quantity/kind.hpp"

#include <QPainter>

#include <string>

namespace fulmox::app {

/// What a mechanism covers from one end of its travel to the other: a scale that stays while it moves.
std::pair<Point, Point> travel_extent(const Mechanism& mechanism, const Pose& pose);

/// Paints a drawing to one scale into an area. `extent` fixes the scale, so that a moving picture does not
/// breathe; the measure of the input being edited is set off. A slender drawing gets its detail magnified
/// below. Gives the measures that are too small to be drawn at their place.
std::vector<Measure> paint_drawing(QPainter& painter, const Drawing& drawing, std::pair<Point, Point> extent,
                                   QRectF area, UnitSet units, const std::string& edited);

} // namespace fulmox::app
