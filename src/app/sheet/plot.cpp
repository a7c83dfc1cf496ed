#include "app/sheet/plot.hpp"

#include "app/theme/theme.hpp"
#include "app/widgets/kept_text.hpp"

#include <utility>

namespace fulmox::app {
namespace {
constexpr int name_rows_pitch = 14, names_a_row = 3;
} // namespace

Plot::Plot(const QString& title) : title_(title) {
  // the plot's own legend, never shown, would measure the names of all curves anew at every replot
  setAutoAddPlottableToLegend(false);
}

void Plot::set_title(const QString& title) {
  if (title == title_) return;
  title_ = title;
  update();
}

void Plot::set_units(const QString& unit, const QString& over) {
  unit_ = unit;
  over_ = over;
}

QString Plot::units() const {
  constexpr int room_for_both = 240;
  return width() < room_for_both || over_.isEmpty() ? unit_ : unit_ + " over " + over_;
}

void Plot::set_names(std::vector<Name> names) {
  if (names == names_) return;
  const auto rows = [](std::size_t count) {
    return (static_cast<int>(count) + names_a_row - 1) / names_a_row;
  };
  const int wanted = rows(names.size());
  if (wanted != rows(names_.size())) plotLayout()->setMargins(QMargins(0, 0, 0, wanted * name_rows_pitch));
  names_ = std::move(names);
}

static constexpr double ring_radius = 5.0;

static QRect box_around(QPointF place, Plot::Cursor kind, const QRect& area) {
  constexpr double pen = 2.0;
  const double half = kind == Plot::Cursor::ring ? ring_radius + pen : pen;
  const QRectF box(place.x() - half, place.y() - half, 2.0 * half, 2.0 * half);
  return kind == Plot::Cursor::line
             ? QRectF(box.left(), area.top(), box.width(), area.height()).toAlignedRect()
             : box.toAlignedRect();
}

void Plot::set_cursor(Cursor kind, QPointF at) {
  if (kind == cursor_ && at == cursor_at_) return;
  cursor_ = kind;
  cursor_at_ = at;
  update(cursor_drawn_);
  if (kind == Cursor::none) return;
  update(box_around({xAxis->coordToPixel(at.x()), yAxis->coordToPixel(at.y())}, kind, axisRect()->rect()));
}

void Plot::paint_cursor(QPainter& painter) {
  cursor_drawn_ = {};
  if (cursor_ == Cursor::none) return;
  const Theme& t = theme();
  const QRect area = axisRect()->rect();
  const QPointF place(xAxis->coordToPixel(cursor_at_.x()), yAxis->coordToPixel(cursor_at_.y()));
  cursor_drawn_ = box_around(place, cursor_, area);
  painter.save();
  painter.setClipRect(area);
  if (cursor_ == Cursor::line) {
    painter.setPen(QPen(t.ink, 1));
    painter.drawLine(QPointF(place.x(), area.top()), QPointF(place.x(), area.bottom()));
  } else {
    painter.setRenderHint(QPainter::Antialiasing);
    painter.setPen(QPen(t.ink, 2));
    painter.setBrush(t.ground);
    painter.drawEllipse(place, ring_radius, ring_radius);
  }
  painter.restore();
}

void Plot::paintEvent(QPaintEvent* event) {
  QCustomPlot::paintEvent(event);
  QPainter painter(this);
  paint_cursor(painter);
  const Theme& t = theme();
  const QRect line(8, 6, width() - 20, 18);
  painter.setPen(t.soft);
  const int taken = draw_line(painter, line, Qt::AlignRight | Qt::AlignVCenter, units(), face(-1));
  painter.setPen(t.ink);
  draw_line(painter, line.adjusted(0, 0, -taken - 6, 0), Qt::AlignLeft | Qt::AlignVCenter, title_,
            face(0, true));
  const int rows = (static_cast<int>(names_.size()) + names_a_row - 1) / names_a_row;
  const int pitch = (width() - 16) / names_a_row;
  for (int i = 0; i < static_cast<int>(names_.size()); ++i) {
    const Name& name = names_[static_cast<std::size_t>(i)];
    const QRect box(8 + i % names_a_row * pitch, height() - 2 - (rows - i / names_a_row) * name_rows_pitch,
                    pitch - 6, name_rows_pitch);
    painter.fillRect(box.left(), box.center().y() - 1, 10, 3, name.color);
    painter.setPen(t.soft);
    draw_line(painter, box.adjusted(15, 0, 0, 0), Qt::AlignLeft | Qt::AlignVCenter, name.text, face(-2));
  }
}

} // namespace fulmox::app
