// How the ribbon looks; what it does under the hand is in ribbon.cpp.

#include "app/ribbon/ribbon.hpp"

#include "app/givens/list_form.hpp"
#include "app/session/session.hpp"
#include "app/theme/theme.hpp"
#include "app/widgets/kept_text.hpp"
#include "core/quantity/format.hpp"

#include <QPainter>

#include <algorithm>
#include <array>
#include <cmath>

namespace fulmox::app {
namespace {

struct TraceInfo {
  const char* label;
  Kind (*kind)(const MotionKinds&);
  double (*value)(const Instant&);
};

constexpr std::array<TraceInfo, static_cast<std::size_t>(Ribbon::TraceKind::count_)> traces{{
    {"Position", [](const MotionKinds& k) { return k.distance; },
     [](const Instant& i) { return i.load.position; }},
    {"Speed", [](const MotionKinds& k) { return k.speed; },
     [](const Instant& i) -> double { return i.load.speed; }},
    {"Acceleration", [](const MotionKinds& k) { return k.acceleration; },
     [](const Instant& i) -> double { return i.load.acceleration; }},
    {"Jerk", [](const MotionKinds& k) { return k.jerk; }, [](const Instant& i) { return i.jerk; }},
    {"Torque", [](const MotionKinds&) { return Kind::torque; },
     [](const Instant& i) -> double { return i.torque; }},
    {"Bus power", [](const MotionKinds&) { return Kind::power; },
     [](const Instant& i) { return i.bus_power; }},
}};

double peak_of(const TraceInfo& trace, const std::vector<Instant>& samples) {
  double peak = 0.0;
  for (const Instant& now : samples) peak = std::max(peak, std::abs(trace.value(now)));
  return peak;
}

QColor trace_color(std::size_t kind) {
  const Theme& t = theme();
  const std::array<QColor, 6> colors{t.parts[4], t.accent, t.parts[6], t.parts[2], t.ink, t.parts[8]};
  return colors[kind];
}

} // namespace

void Ribbon::resizeEvent(QResizeEvent* event) {
  still_ = QPixmap();
  QWidget::resizeEvent(event);
}

void Ribbon::paintEvent(QPaintEvent*) {
  if (session_.evaluation() != nullptr && view_from_ > duration() - view_span() + 1e-12)
    show_span(0.0, view_span());
  QPainter painter(this);
  const double scale = devicePixelRatioF();
  if (still_.isNull() || still_.devicePixelRatio() != scale) {
    still_ = QPixmap(size() * scale);
    still_.setDevicePixelRatio(scale);
    QPainter still(&still_);
    paint_still(still);
  }
  painter.drawPixmap(0, 0, still_);
  if (session_.evaluation() == nullptr) return;
  paint_cursor(painter);
  paint_readings(painter);
  if (hasFocus()) {
    painter.setPen(QPen(theme().accent, 1));
    painter.setBrush(Qt::NoBrush);
    painter.drawRect(rect().adjusted(0, 1, -1, -1));
  }
}

void Ribbon::paint_still(QPainter& painter) {
  painter.fillRect(rect(), theme().panel);
  painter.setPen(theme().rule);
  painter.drawLine(0, 0, width(), 0);
  if (session_.evaluation() == nullptr) {
    painter.setFont(face());
    painter.setPen(theme().soft);
    painter.drawText(rect(), Qt::AlignCenter,
                     session_.has_axis() ? "The cycle appears here once load, mechanism and a move are given."
                                         : "No axis yet.");
    return;
  }
  for (std::size_t k = 0; k < traces.size(); ++k)
    peaks_[k] = peak_of(traces[k], session_.plots().trace.samples);
  paint_segments(painter);
  paint_selection(painter);
  paint_traces(painter);
  paint_handles(painter);
  paint_names(painter);
}

/// The line through all samples as far as pixels can show it: of those that fall on one pixel's column the
/// first, the highest, the lowest and the last. A long cycle has a hundred samples for each.
template <class Place> static QPolygonF thinned(const std::vector<Instant>& samples, const Place& place) {
  QPolygonF line;
  QPolygonF column;
  const auto flush = [&] {
    constexpr qsizetype few = 4;
    if (column.size() > few) {
      const auto [high, low] =
          std::minmax_element(column.begin() + 1, column.end() - 1,
                              [](const QPointF& a, const QPointF& b) { return a.y() < b.y(); });
      QPolygonF kept{column.front(), *std::min(high, low), *std::max(high, low), column.back()};
      column = kept;
    }
    line += column;
    column.clear();
  };
  for (const Instant& now : samples) {
    const QPointF point = place(now);
    if (!column.isEmpty() && std::floor(point.x()) != std::floor(column.front().x())) flush();
    column << point;
  }
  flush();
  return line;
}

void Ribbon::paint_segments(QPainter& painter) {
  const Theme& t = theme();
  const Cycle& cycle = session_.evaluation()->model->load->cycle;
  const QRectF area = plot();
  painter.setClipRect(QRectF(area.left() - 1, 0, area.width() + 2, height()));
  for (const Passage& passage : cycle.passages) {
    if (passage.segment >= session_.axis().cycle.size()) continue;
    const double x0 = x_of(passage.start);
    const double x1 = x_of(passage.start + passage.duration);
    if (x1 < area.left() || x0 > area.right()) continue;
    const QRectF box(x0 + 1, area.bottom() + 4, x1 - x0 - 2, strip_height);
    const Section& segment = session_.axis().cycle[passage.segment];
    const bool rests = segment.is("dwell");
    painter.fillRect(box, rests ? t.ground : t.accent_wash);
    painter.setPen(t.rule);
    painter.drawLine(QPointF(x1, area.top()), QPointF(x1, box.bottom()));
    painter.setPen(t.ink);
    if (constexpr double readable = 20.0; box.width() < readable) continue;
    draw_line(painter, box.adjusted(4, 0, -4, 0).toAlignedRect(), Qt::AlignCenter, summarize(segment),
              face(-1));
  }
  painter.setClipping(false);
}

void Ribbon::paint_selection(QPainter& painter) {
  if (!selection_) return;
  const Theme& t = theme();
  const QRectF area = plot();
  const MotionKinds& kinds = session_.evaluation()->model->load->cycle.kinds;
  const UnitSet units = session_.document().units;
  QColor wash = t.accent;
  wash.setAlpha(36);
  const double x0 = std::max(x_of(selection_->from), area.left());
  const double x1 = std::min(x_of(selection_->to), area.right());
  if (x1 > x0) painter.fillRect(QRectF(x0, area.top(), x1 - x0, area.height()), wash);
  const auto show = [&](double value, Kind kind) { return qt(format(value, kind, units).text()); };
  const QString text =
      QString("selected %1:  travel %2   v %3   a %4   T peak %5   T rms %6   work %7")
          .arg(show(selection_->to - selection_->from, Kind::time), show(selection_->travel, kinds.distance),
               show(selection_->peak_speed, kinds.speed),
               show(selection_->peak_acceleration, kinds.acceleration),
               show(selection_->peak_torque, Kind::torque), show(selection_->rms_torque, Kind::torque),
               show(selection_->shaft_energy, Kind::energy));
  painter.setFont(face(-2));
  painter.setPen(t.ink);
  painter.drawText(QRectF(area.left(), 0, area.width(), top_margin + 6), Qt::AlignRight | Qt::AlignTop, text);
}

void Ribbon::paint_traces(QPainter& painter) {
  const Theme& t = theme();
  const QRectF area = plot();
  const auto& samples = session_.plots().trace.samples;
  painter.setPen(QPen(t.rule, 1));
  painter.drawLine(QPointF(area.left(), area.center().y()), QPointF(area.right(), area.center().y()));
  painter.setRenderHint(QPainter::Antialiasing);
  painter.setClipRect(area.adjusted(-2, -2, 2, 2));
  for (std::size_t k = 0; k < traces.size(); ++k) {
    if (!shown_[k]) continue;
    const double peak = peaks_[k];
    if (peak == 0.0) continue;
    const QPolygonF line = thinned(samples, [&](const Instant& now) {
      return QPointF(x_of(now.time),
                     area.center().y() - traces[k].value(now) / peak * (area.height() / 2 - 4));
    });
    // a line that fills its area up and down gains nothing by being smooth, and takes a second
    constexpr qsizetype dense = 1500;
    painter.setRenderHint(QPainter::Antialiasing, line.size() < dense);
    painter.setPen(QPen(session_.stale() ? t.faint : trace_color(k), line.size() < dense ? 1.6 : 1.0));
    painter.drawPolyline(line);
  }
  painter.setClipping(false);
  painter.setRenderHint(QPainter::Antialiasing, false);
}

void Ribbon::paint_cursor(QPainter& painter) {
  const Theme& t = theme();
  const QRectF area = plot();
  const double x = std::round(x_of(session_.cursor())) + 0.5;
  painter.setPen(QPen(t.ink, 1));
  painter.drawLine(QPointF(x, area.top() - 4), QPointF(x, height() - 4.0));
  painter.setBrush(t.ink);
  painter.drawPolygon(QPolygonF{{x - 5, area.top() - 8}, {x + 5, area.top() - 8}, {x, area.top() - 1}});
}

void Ribbon::paint_handles(QPainter& painter) {
  const Theme& t = theme();
  painter.setRenderHint(QPainter::Antialiasing);
  for (const Handle& handle : handles()) {
    const bool hot = (hovered_.grip == handle.grip && hovered_.segment == handle.segment) ||
                     (held_.grip == handle.grip && held_.segment == handle.segment);
    painter.setPen(QPen(hot ? t.accent : t.faint, 1.4));
    painter.setBrush(hot ? t.accent : t.panel);
    const QPointF p = handle.place;
    if (handle.grip == Grip::duration) {
      painter.drawLine(p + QPointF(-1.5, -6), p + QPointF(-1.5, 6));
      painter.drawLine(p + QPointF(1.5, -6), p + QPointF(1.5, 6));
    } else if (handle.grip == Grip::distance) {
      painter.drawPolygon(
          QPolygonF{p + QPointF(0, -5), p + QPointF(4, 0), p + QPointF(0, 5), p + QPointF(-4, 0)});
    } else {
      painter.drawEllipse(p, 3.2, 3.2);
    }
  }
  painter.setRenderHint(QPainter::Antialiasing, false);
}

void Ribbon::paint_names(QPainter& painter) {
  const Theme& t = theme();
  for (std::size_t k = 0; k < traces.size(); ++k) {
    const QRectF box = toggle_box(static_cast<int>(k));
    const bool on = shown_[k];
    painter.setPen(QPen(on ? trace_color(k) : t.faint, on ? 3 : 1));
    painter.drawLine(QPointF(box.left(), box.center().y()), QPointF(box.left() + 14, box.center().y()));
    painter.setPen(on ? t.ink : t.soft);
    draw_line(painter, box.adjusted(22, 0, 0, 0).toAlignedRect(), Qt::AlignLeft | Qt::AlignVCenter,
              traces[k].label, face());
  }
}

void Ribbon::paint_readings(QPainter& painter) {
  const Theme& t = theme();
  const Instant now = session_.at_cursor();
  const MotionKinds& kinds = session_.evaluation()->model->load->cycle.kinds;
  const UnitSet units = session_.document().units;
  for (std::size_t k = 0; k < traces.size(); ++k) {
    painter.setPen(shown_[k] ? t.ink : t.soft);
    // what is nothing beside its own peak is rounding, not a reading
    constexpr double noise = 1e-12;
    const double value = traces[k].value(now);
    const bool zero = std::abs(value) < noise * peaks_[k];
    draw_line(painter, toggle_box(static_cast<int>(k)).toAlignedRect(), Qt::AlignRight | Qt::AlignVCenter,
              qt(format(zero ? 0.0 : value, traces[k].kind(kinds), units).text()), face());
  }
  painter.setPen(t.soft);
  const QRect place(10, height() - 27, static_cast<int>(left_column) - 20, 22);
  draw_line(painter, place, Qt::AlignLeft | Qt::AlignVCenter, "at", face());
  draw_line(painter, place, Qt::AlignRight | Qt::AlignVCenter,
            qt(format(session_.cursor(), Kind::time).text()) + " of " +
                qt(format(duration(), Kind::time).text()),
            face());
}

} // namespace fulmox::app
