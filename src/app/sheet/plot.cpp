#include "app/sheet/plot.hpp"

#include "app/theme/theme.hpp"
#include "app/widgets/kept_text.hpp"

#include <algorithm>
#include <utility>

namespace fulmox::app {
namespace {
constexpr int name_rows_pitch = 14, name_inset = 15;
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
  names_ = std::move(names);
  fit_names();
}

/// Fewer in a row where one of them would be cut off: half a number misleads.
void Plot::fit_names() {
  constexpr int most = 3, least = 2;
  int widest = 0;
  for (const Name& name : names_) widest = std::max(widest, line_width(name.text, face(-2)));
  const auto cut = [&](int a_row) { return widest > (width() - 16) / a_row - 6 - name_inset; };
  names_a_row_ = cut(most) ? least : most;
  const int rows = (static_cast<int>(names_.size()) + names_a_row_ - 1) / names_a_row_;
  if (rows == name_rows_) return;
  name_rows_ = rows;
  plotLayout()->setMargins(QMargins(0, 0, 0, rows * name_rows_pitch));
}

void Plot::resizeEvent(QResizeEvent* event) {
  fit_names();
  QCustomPlot::resizeEvent(event);
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
  const int pitch = (width() - 16) / names_a_row_;
  for (int i = 0; i < static_cast<int>(names_.size()); ++i) {
    const Name& name = names_[static_cast<std::size_t>(i)];
    const QRect box(8 + i % names_a_row_ * pitch,
                    height() - 2 - (name_rows_ - i / names_a_row_) * name_rows_pitch, pitch - 6,
                    name_rows_pitch);
    painter.fillRect(box.left(), box.center().y() - 1, 10, 3, name.color);
    painter.setPen(t.soft);
    draw_line(painter, box.adjusted(name_inset, 0, 0, 0), Qt::AlignLeft | Qt::AlignVCenter, name.text,
              face(-2));
  }
}

} // namespace fulmox::app
