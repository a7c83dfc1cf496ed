#pragma once
#include "core/drawing/drawing.hpp"
#include "core/quantity/kind.hpp"

#include <QPainter>

#include <string>

namespace fulmox::app {

/// Paints a drawing to one scale into an area. `extent` fixes the scale, so that a moving picture does not
/// breathe; the measure of the input being edited is set off. A slender drawing gets its detail magnified
/// below. Gives the measures that are too small to be drawn at their place.
std::vector<Measure> paint_drawing(QPainter& painter, const Drawing& drawing, std::pair<Point, Point> extent,
                                   QRectF area, UnitSet units, const std::string& edited);

} // namespace fulmox::app
