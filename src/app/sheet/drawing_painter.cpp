#include "app/sheet/drawing_painter.hpp"

#include "app/session/session.hpp"
#include "app/theme/theme.hpp"
#include "core/quantity/format.hpp"

#include <QPainterPath>

#include <algorithm>
#include <cmath>

namespace fulmox::app {
namespace {

struct Look {
  QPen pen;
  QBrush brush;
};

Look look_of(Ink ink) {
  const Theme& t = theme();
  switch (ink) {
  case Ink::frame:
    return {QPen(t.ink, 1.3), t.field};
  case Ink::part:
    return {QPen(t.ink, 1.3), t.rule};
  case Ink::load: {
    QColor fill = t.accent;
    fill.setAlpha(60);
    return {QPen(t.accent, 1.6), fill};
  }
  case Ink::motor:
    return {QPen(t.ink, 1.3), t.panel};
  case Ink::reach:
    return {QPen(t.faint, 1, Qt::DashLine), Qt::NoBrush};
  case Ink::hole:
    return {QPen(t.accent, 1), t.ground};
  case Ink::hint:
    return {QPen(t.soft, 1), Qt::NoBrush};
  }
  return {};
}

class Artist {
public:
  Artist(QPainter& painter, std::pair<Point, Point> extent, QRectF area, UnitSet units)
      : p_(painter), units_(units) {
    const double width = std::max(extent.second.x - extent.first.x, 1e-6);
    const double height = std::max(extent.second.y - extent.first.y, 1e-6);
    scale_ = std::min(area.width() / width, area.height() / height);
    centre_ = {0.5 * (extent.first.x + extent.second.x), 0.5 * (extent.first.y + extent.second.y)};
    origin_ = area.center();
    area_ = area;
  }

  void shape(const Shape& shape) {
    const Look look = look_of(shape.ink);
    p_.setPen(look.pen);
    p_.setBrush(shape.closed ? look.brush : Qt::NoBrush);
    if (shape.radius > 0.0) {
      const double r = std::max(shape.radius * scale_, 1.5);
      p_.drawEllipse(at(shape.points.front()), r, r);
      return;
    }
    QPolygonF polygon;
    for (const Point& point : shape.points) polygon << at(point);
    if (shape.closed)
      p_.drawPolygon(polygon);
    else
      p_.drawPolyline(polygon);
  }

  void measure(const Measure& measure, bool edited) {
    const Theme& t = theme();
    const QPointF a = at(measure.from), b = at(measure.to);
    const QColor color = edited ? t.accent : t.soft;
    p_.setPen(QPen(color, edited ? 2.0 : 1.0));
    p_.drawLine(a, b);
    const double length = std::hypot(b.x() - a.x(), b.y() - a.y());
    QPointF normal =
        length > 0.0 ? QPointF(-(b.y() - a.y()) / length, (b.x() - a.x()) / length) : QPointF(0, 1);
    for (const QPointF end : {a, b}) p_.drawLine(end - 4.0 * normal, end + 4.0 * normal);
    // text on the side away from the middle of the picture
    if (QPointF::dotProduct(normal, 0.5 * (a + b) - origin_) < 0.0) normal = -normal;
    const QString text = qt(format(measure.value, measure.kind, units_).text());
    p_.setFont(face(-1, edited));
    const QFontMetrics metrics = p_.fontMetrics();
    const double away = 5.0 + 0.5 * (metrics.horizontalAdvance(text) * std::abs(normal.x()) +
                                     metrics.height() * std::abs(normal.y()));
    QPointF place = 0.5 * (a + b) + away * normal;
    const double half = 0.5 * metrics.horizontalAdvance(text) + 2;
    place.setX(std::clamp(place.x(), area_.left() - 8 + half, area_.right() + 8 - half));
    p_.setPen(edited ? t.accent : t.ink);
    p_.drawText(QRectF(place.x() - 70, place.y() - 10, 140, 20), Qt::AlignCenter, text);
  }

private:
  QPointF at(Point point) const {
    return origin_ + QPointF((point.x - centre_.x) * scale_, -(point.y - centre_.y) * scale_);
  }

  QPainter& p_;
  UnitSet units_;
  double scale_ = 1.0;
  Point centre_;
  QPointF origin_;
  QRectF area_;
};

} // namespace

void paint_drawing(QPainter& painter, const Drawing& drawing, std::pair<Point, Point> extent, QRectF area,
                   UnitSet units, const std::string& edited) {
  // room for the text beside outer measures
  Artist artist(painter, extent, area.adjusted(28, 14, -28, -14), units);
  for (const Shape& shape : drawing.shapes) artist.shape(shape);
  for (const Measure& measure : drawing.measures)
    artist.measure(measure, !measure.field.empty() && measure.field == edited);
}

} // namespace fulmox::app
