#include "core/drawing/drawing.hpp"

#include <algorithm>
#include <cmath>
#include <limits>

namespace fulmox {

Point turned(Point p, double angle) {
  const double c = std::cos(angle), s = std::sin(angle);
  return {c * p.x - s * p.y, s * p.x + c * p.y};
}

void Drawing::box(Ink ink, Point centre, double width, double height, double angle) {
  std::vector<Point> corners;
  for (const auto& [sx, sy] : {std::pair{-0.5, -0.5}, {0.5, -0.5}, {0.5, 0.5}, {-0.5, 0.5}}) {
    const Point corner = turned({sx * width, sy * height}, angle);
    corners.push_back({centre.x + corner.x, centre.y + corner.y});
  }
  polygon(ink, std::move(corners));
}

void Drawing::wheel(Ink ink, Point centre, double radius, double angle) {
  circle(ink, centre, radius);
  line(ink, centre, {centre.x + radius * std::cos(angle), centre.y + radius * std::sin(angle)});
}

void Drawing::measure(Point from, Point to, double away, std::string_view field, double value, Kind kind) {
  const double length = std::hypot(to.x - from.x, to.y - from.y);
  if (length > 0.0) {
    const Point normal{-(to.y - from.y) / length * away, (to.x - from.x) / length * away};
    from = {from.x + normal.x, from.y + normal.y};
    to = {to.x + normal.x, to.y + normal.y};
  }
  measures.push_back({from, to, field, value, kind});
}

void Drawing::turn(double angle) {
  detail = turned(detail, angle);
  for (Shape& shape : shapes)
    for (Point& point : shape.points) point = turned(point, angle);
  for (Measure& measure : measures) {
    measure.from = turned(measure.from, angle);
    measure.to = turned(measure.to, angle);
  }
}

std::pair<Point, Point> Drawing::bounds() const {
  constexpr double far = std::numeric_limits<double>::infinity();
  Point low{far, far}, high{-far, -far};
  const auto take = [&](Point p, double r) {
    low = {std::min(low.x, p.x - r), std::min(low.y, p.y - r)};
    high = {std::max(high.x, p.x + r), std::max(high.y, p.y + r)};
  };
  for (const Shape& shape : shapes)
    for (const Point& point : shape.points) take(point, shape.radius);
  for (const Measure& measure : measures) {
    take(measure.from, 0.0);
    take(measure.to, 0.0);
  }
  return {low, high};
}

} // namespace fulmox
