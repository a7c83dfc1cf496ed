#include "app/sheet/drawing_painter.hpp"

#include "app/session/session.hpp"
#include "app/theme/theme.hpp"
#include "app/widgets/kept_text.hpp"
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

  [[nodiscard]] double scale() const { return scale_; }
  [[nodiscard]] double pixels(const Measure& measure) const {
    const QPointF line = at(measure.to) - at(measure.from);
    return std::hypot(line.x(), line.y());
  }

  /// The line of a measure with its ends, without the number.
  void mark(const Measure& measure, bool edited) {
    const QPointF a = at(measure.from), b = at(measure.to), normal = normal_of(measure);
    p_.setPen(QPen(edited ? theme().accent : theme().soft, edited ? 2.0 : 1.0));
    p_.drawLine(a, b);
    for (const QPointF end : {a, b}) p_.drawLine(end - 4.0 * normal, end + 4.0 * normal);
  }

  void measure(const Measure& measure, bool edited) {
    mark(measure, edited);
    const Theme& t = theme();
    const QPointF a = at(measure.from), b = at(measure.to);
    QPointF normal = normal_of(measure);
    // text on the side away from the middle of the picture
    if (QPointF::dotProduct(normal, 0.5 * (a + b) - origin_) < 0.0) normal = -normal;
    const QString text = qt(format(measure.value, measure.kind, units_).text());
    const QFont font = face(-1, edited);
    const double text_width = line_width(text, font), text_height = line_height(font);
    const double away = 5.0 + 0.5 * (text_width * std::abs(normal.x()) + text_height * std::abs(normal.y()));
    QPointF place = 0.5 * (a + b) + away * normal;
    const double half = 0.5 * text_width + 2;
    place.setX(std::clamp(place.x(), area_.left() - 8 + half, area_.right() + 8 - half));
    p_.setPen(edited ? t.accent : t.ink);
    draw_line(p_, QRectF(place.x() - 70, place.y() - 10, 140, 20).toRect(), Qt::AlignCenter, text, font);
  }

private:
  [[nodiscard]] QPointF normal_of(const Measure& measure) const {
    const QPointF line = at(measure.to) - at(measure.from);
    const double length = std::hypot(line.x(), line.y());
    return length > 0.0 ? QPointF(-line.y() / length, line.x() / length) : QPointF(0, 1);
  }

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

namespace {

constexpr double readable = 16.0; ///< px: shorter measures are told in words

/// A round window with the detail, its centre fixed in the drawing.
void paint_detail(QPainter& painter, const Drawing& drawing, double scale, QPointF centre, double radius,
                  UnitSet units, const std::vector<Measure>& edited) {
  const Theme& t = theme();
  QPainterPath circle;
  circle.addEllipse(centre, radius, radius);
  painter.save();
  painter.setClipPath(circle);
  painter.fillPath(circle, t.ground);
  const Point c = drawing.detail;
  const double r = drawing.detail_radius;
  const QRectF window(centre.x() - radius, centre.y() - radius, 2.0 * radius, 2.0 * radius);
  Artist lens(painter, {{c.x - r, c.y - r}, {c.x + r, c.y + r}}, window, units);
  for (const Shape& shape : drawing.shapes) lens.shape(shape);
  for (const Measure& measure : edited) lens.mark(measure, true);
  painter.restore();
  painter.setPen(QPen(t.faint, 1));
  painter.setBrush(Qt::NoBrush);
  painter.drawEllipse(centre, radius, radius);
  painter.setFont(face(-2));
  painter.setPen(t.soft);
  painter.drawText(QRectF(centre.x() + radius + 6, centre.y() - 10, 90, 20), Qt::AlignLeft | Qt::AlignVCenter,
                   QString("%1 ×").arg(lens.scale() / scale, 0, 'f', 1));
}

} // namespace

std::vector<Measure> paint_drawing(QPainter& painter, const Drawing& drawing, std::pair<Point, Point> extent,
                                   QRectF area, UnitSet units, const std::string& edited) {
  // room for the text beside outer measures
  QRectF inner = area.adjusted(28, 16, -28, -16);
  const double scale = Artist(painter, extent, inner, units).scale();
  constexpr double lens = 46.0;
  constexpr double factor_width = 40.0;
  const double width = (extent.second.x - extent.first.x) * scale;
  const double height = (extent.second.y - extent.first.y) * scale;
  const bool small_detail = drawing.detail_radius > 0.0 && drawing.detail_radius * scale < 0.6 * lens;
  const bool below = small_detail && height < inner.height() - 2.2 * lens;
  const bool beside = small_detail && !below && width < inner.width() - 2.2 * lens - factor_width;
  QPointF centre(area.center().x(), area.bottom() - lens - 4.0);
  if (below) inner.setBottom(inner.bottom() - 2.0 * lens - 8.0);
  if (beside) {
    centre = {area.left() + lens + 4.0, area.center().y()};
    inner.setLeft(inner.left() + 2.0 * lens + factor_width);
  }
  Artist artist(painter, extent, inner, units);
  for (const Shape& shape : drawing.shapes) artist.shape(shape);
  std::vector<Measure> small, small_edited;
  for (const Measure& measure : drawing.measures) {
    const bool lit = !measure.field.empty() && measure.field == edited;
    if (artist.pixels(measure) >= readable) {
      artist.measure(measure, lit);
      continue;
    }
    small.push_back(measure);
    if (!lit) continue;
    small_edited.push_back(measure);
    artist.mark(measure, true);
  }
  if (below || beside) paint_detail(painter, drawing, artist.scale(), centre, lens, units, small_edited);
  return small;
}

std::pair<Point, Point> travel_extent(const Mechanism& mechanism, const Pose& pose) {
  auto extent = mechanism.draw(pose).bounds();
  for (const double end : {pose.lowest, pose.highest}) {
    Pose there = pose;
    there.position = end;
    const auto other = mechanism.draw(there).bounds();
    extent.first = {std::min(extent.first.x, other.first.x), std::min(extent.first.y, other.first.y)};
    extent.second = {std::max(extent.second.x, other.second.x), std::max(extent.second.y, other.second.y)};
  }
  return extent;
}

} // namespace fulmox::app
