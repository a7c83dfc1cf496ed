#include "app/ribbon/ribbon_ground.hpp"

#include "app/theme/theme.hpp"
#include "app/widgets/kept_text.hpp"

#include <QPainter>

namespace fulmox::app {
namespace {

void paint_segment(QPainter& painter, const RibbonGround& ground, const RibbonGround::Segment& segment) {
  const Theme& t = theme();
  const QRectF box(segment.from + 1, ground.strip.top(), segment.to - segment.from - 2,
                   ground.strip.height());
  painter.fillRect(box, segment.rests ? t.ground : t.accent_wash);
  painter.setPen(t.rule);
  painter.drawLine(QPointF(segment.to, ground.area.top()), QPointF(segment.to, box.bottom()));
  painter.setPen(t.ink);
  draw_line(painter, box.adjusted(4, 0, -4, 0).toAlignedRect(), Qt::AlignCenter, segment.words, face(-1));
}

void paint_name(QPainter& painter, const RibbonGround::Name& name) {
  const Theme& t = theme();
  const double middle = name.box.center().y();
  painter.setPen(QPen(name.shown ? name.color : t.faint, name.shown ? 3 : 1));
  painter.drawLine(QPointF(name.box.left(), middle), QPointF(name.box.left() + 14, middle));
  painter.setPen(name.shown ? t.ink : t.soft);
  draw_line(painter, name.box.adjusted(22, 0, 0, 0).toAlignedRect(), Qt::AlignLeft | Qt::AlignVCenter,
            name.text, face());
}

} // namespace

void paint_trace(QPainter& painter, const RibbonTrace& trace) {
  // a line that fills its area up and down gains nothing by being smooth, and takes a second
  constexpr qsizetype dense = 1500;
  const bool smooth = trace.line.size() < dense;
  painter.setRenderHint(QPainter::Antialiasing, smooth);
  painter.setPen(QPen(trace.color, smooth ? 1.6 : 1.0));
  painter.drawPolyline(trace.line);
  painter.setRenderHint(QPainter::Antialiasing, false);
}

void RibbonGround::paint(QPainter& painter, const std::vector<RibbonTrace>& traces) const {
  const Theme& t = theme();
  painter.setClipRect(QRectF(area.left() - 1, 0, area.width() + 2, size.height()));
  for (const Segment& segment : segments) paint_segment(painter, *this, segment);
  painter.setPen(QPen(t.rule, 1));
  painter.drawLine(QPointF(area.left(), area.center().y()), QPointF(area.right(), area.center().y()));
  painter.setClipRect(area.adjusted(-2, -2, 2, 2));
  for (const RibbonTrace& trace : traces) paint_trace(painter, trace);
  painter.setClipping(false);
  for (const Name& name : names) paint_name(painter, name);
}

} // namespace fulmox::app
