#include "app/machine/time_step.hpp"
#include "app/machine/timeline.hpp"

#include "app/session/session.hpp"
#include "app/sheet/drawing_painter.hpp"
#include "app/theme/theme.hpp"
#include "app/widgets/kept_text.hpp"

#include <QPaintEvent>
#include <QPainter>

#include <algorithm>
#include <cmath>

namespace fulmox::app {

void Timeline::paint_sketch(QPainter& painter, std::size_t axis, QRectF area) const {
  if (axis >= results_.size() || results_[axis] == nullptr || results_[axis]->evaluation == nullptr) return;
  const Evaluation& e = *results_[axis]->evaluation;
  const Cycle& cycle = e.model->load->cycle;
  const auto own = own_time(run_->power, axis, cursor_);
  Pose pose;
  pose.lowest = cycle.lowest;
  pose.highest = cycle.highest;
  const Mechanism& mechanism = *e.model->load->mechanism;
  const auto extent = travel_extent(mechanism, pose);
  pose.position = own ? e.at(*own).load.position : cycle.net_travel;
  Drawing drawing = mechanism.draw(pose);
  drawing.measures.clear();
  drawing.detail_radius = 0.0;
  painter.save();
  painter.setClipRect(area);
  painter.setRenderHint(QPainter::Antialiasing);
  if (!own) painter.setOpacity(0.55);
  // the room that a large drawing keeps for its measures is not wanted here
  paint_drawing(painter, drawing, extent, area.adjusted(-16, -10, 16, 10), session_.document().units, {});
  painter.restore();
}

void Timeline::paint_row(QPainter& painter, std::size_t axis) const {
  const Theme& t = theme();
  const double h = row_height(), top = static_cast<double>(axis) * h;
  const AxisPower& power = run_->power.axes[axis];
  painter.setPen(t.faint);
  painter.drawLine(QPointF(left(), top + h), QPointF(right(), top + h));
  painter.setPen(power.problem.what.empty() ? t.ink : t.soft);
  const QFont font = face(-1, axis == session_.axis_index());
  const QString name = QFontMetrics(font).elidedText(qt(power.name), Qt::ElideRight, name_width - 12);
  draw_line(painter, QRect(8, static_cast<int>(top), name_width - 8, static_cast<int>(h)),
            Qt::AlignLeft | Qt::AlignVCenter, name, font);
  if (h >= 22.0) paint_sketch(painter, axis, QRectF(name_width, top + 2, sketch_width, h - 4));
  if (!power.problem.what.empty()) {
    painter.setPen(t.soft);
    draw_line(painter, QRect(left() + 4, static_cast<int>(top), right() - left(), static_cast<int>(h)),
              Qt::AlignLeft | Qt::AlignVCenter, "idle: " + qt(power.problem.what), face(-1));
  }
}

void Timeline::paint_block(QPainter& painter, std::size_t b) const {
  const Theme& t = theme();
  const Block& block = run_->power.blocks[b];
  const PlacedBlock& placed = run_->power.schedule.blocks[b];
  const double cycle = run_->power.schedule.cycle;
  const QRectF bar = bar_of(b);
  const bool chosen = chosen_ == b;
  const auto part = [&](double from, double to) { // of the block, s of the cycle; may wrap
    for (const double shift : {0.0, -cycle}) {
      const double a = std::max(0.0, from + shift), z = std::min(cycle, to + shift);
      if (z <= a) continue;
      painter.drawRect(QRectF(x_of(a), bar.top(), x_of(z) - x_of(a), bar.height()));
    }
  };
  painter.setPen(QPen(chosen ? t.accent : t.soft, chosen ? 1.6 : 1.0));
  painter.setBrush(t.accent_wash);
  part(placed.start, placed.end);
  // segments as lines, as long as they can be told apart
  QColor line = t.soft;
  line.setAlpha(110);
  painter.setPen(line);
  const double px = (right() - left()) / cycle;
  if (block.length() * px > 6.0)
    for (std::size_t r = 0; r < block.repeats; ++r)
      for (std::size_t s = 0; s < block.ends.size(); ++s) {
        const double at =
            std::fmod(placed.start + static_cast<double>(r) * block.length() + block.ends[s], cycle);
        const bool whole = s + 1 == block.ends.size();
        if (!whole && block.length() * px / static_cast<double>(block.ends.size()) < 5.0) continue;
        painter.setPen(QPen(whole ? t.soft : line, 1.0));
        painter.drawLine(QPointF(x_of(at), bar.top() + (whole ? 0.0 : 3.0)),
                         QPointF(x_of(at), bar.bottom() - (whole ? 0.0 : 3.0)));
      }
  // how much later it may start
  const double slack_end = std::min(cycle, placed.end + placed.slack);
  if (placed.end < cycle && slack_end > placed.end) {
    painter.setPen(QPen(t.soft, 1.0, Qt::DotLine));
    painter.drawLine(QPointF(x_of(placed.end), bar.center().y()), QPointF(x_of(slack_end), bar.center().y()));
  }
  if (bar.width() > 40.0) {
    painter.setPen(t.ink);
    const QFont font = face(-2);
    QString name = qt(block.name);
    if (block.repeats > 1) name += " × " + QString::number(block.repeats);
    if (line_width(name, font) < bar.width() - 6.0) {
      QColor under = t.accent_wash;
      const QRectF word(bar.left() + 4.0, bar.center().y() - 7.0, line_width(name, font) + 4.0, 14.0);
      painter.fillRect(word, under);
      draw_line(painter, word.toRect(), Qt::AlignLeft | Qt::AlignVCenter, name, font);
    }
  }
}

/// What waits for what: from the end of a segment to the start of the block that waits for it.
void Timeline::paint_waits(QPainter& painter) const {
  QColor ink = theme().soft;
  ink.setAlpha(160);
  painter.setPen(QPen(ink, 1.0));
  painter.setBrush(ink);
  const double cycle = run_->power.schedule.cycle;
  for (std::size_t b = 0; b < run_->power.blocks.size(); ++b)
    for (const Block::After& after : run_->power.blocks[b].after) {
      const Block& other = run_->power.blocks[after.block];
      const double from = run_->power.schedule.blocks[after.block].start +
                          static_cast<double>(other.repeats - 1) * other.length() + other.ends[after.segment];
      const QRectF a = bar_of(after.block), z = bar_of(b);
      const double x = x_of(std::fmod(from, cycle)), to = z.left();
      const bool down = z.top() > a.top();
      const double y0 = down ? a.bottom() : a.top(), y1 = down ? z.top() : z.bottom();
      painter.drawPolyline(
          QPolygonF({{x, y0}, {x, y1 + (down ? -3.0 : 3.0)}, {to, y1 + (down ? -3.0 : 3.0)}, {to, y1}}));
      painter.drawPolygon(
          QPolygonF({{to, y1}, {to - 3.0, y1 + (down ? -5.0 : 5.0)}, {to + 3.0, y1 + (down ? -5.0 : 5.0)}}));
    }
}

void Timeline::paint_axis(QPainter& painter) const {
  const double cycle = run_->power.schedule.cycle;
  const double y = static_cast<double>(run_->power.axes.size()) * row_height();
  const double step = time_step(cycle, right() - left());
  painter.setPen(theme().soft);
  for (int i = 0; i * step <= cycle * (1.0 + 1e-9); ++i) {
    const double t = i * step;
    const double x = x_of(t);
    painter.drawLine(QPointF(x, y), QPointF(x, y + 3.0));
    const bool last = t + step > cycle * (1.0 + 1e-9);
    const QString text = QString::number(t, 'g', 4) + (t == 0.0 ? " s" : "");
    if (last && x > right() - 10) continue;
    draw_line(painter, QRect(static_cast<int>(x) - 30, static_cast<int>(y) + 2, 60, axis_height - 2),
              Qt::AlignCenter, text, face(-2));
  }
}

void Timeline::paintEvent(QPaintEvent* event) {
  QPainter painter(this);
  const Theme& t = theme();
  painter.fillRect(rect(), t.panel);
  if (!ready()) {
    painter.setPen(t.soft);
    const QString why = run_ == nullptr ? "Worked out…" : qt(run_->power.problem.text());
    painter.drawText(rect().adjusted(12, 8, -12, -8), Qt::AlignLeft | Qt::AlignTop | Qt::TextWordWrap, why);
    return;
  }
  for (std::size_t i = 0; i < run_->power.axes.size(); ++i)
    if (event->region().intersects(row_area(i))) paint_row(painter, i);
  for (std::size_t b = 0; b < run_->power.blocks.size(); ++b) paint_block(painter, b);
  paint_waits(painter);
  paint_axis(painter);
  painter.setPen(QPen(t.accent, 1.4));
  painter.drawLine(QPointF(x_of(cursor_), 0.0),
                   QPointF(x_of(cursor_), static_cast<double>(run_->power.axes.size()) * row_height() + 3.0));
  if (hasFocus()) {
    painter.setPen(QPen(t.accent, 1.0));
    painter.setBrush(Qt::NoBrush);
    painter.drawRect(rect().adjusted(0, 0, -1, -1));
  }
}

} // namespace fulmox::app
