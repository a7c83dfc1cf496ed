#include "app/ribbon/ribbon.hpp"

#include "app/ribbon/ribbon_drag.hpp"
#include "app/session/session.hpp"
#include "app/theme/theme.hpp"
#include "core/quantity/format.hpp"

#include <QHelpEvent>
#include <QKeyEvent>
#include <QMouseEvent>
#include <QPainter>
#include <QPainterPath>
#include <QToolTip>

#include <algorithm>
#include <array>
#include <cmath>

namespace fulmox::app {
namespace {

constexpr double left_column = 196.0;
constexpr double right_margin = 14.0;
constexpr double strip_height = 24.0;
constexpr double top_margin = 10.0;

struct TraceInfo {
  const char* label;
  Kind kind;
  double (*value)(const Instant&);
};

constexpr std::array<TraceInfo, static_cast<std::size_t>(Ribbon::TraceKind::count_)> traces{{
    {"Position", Kind::length, [](const Instant& i) { return i.load.position; }},
    {"Speed", Kind::speed, [](const Instant& i) -> double { return i.load.speed; }},
    {"Acceleration", Kind::acceleration, [](const Instant& i) -> double { return i.load.acceleration; }},
    {"Torque", Kind::torque, [](const Instant& i) -> double { return i.torque; }},
    {"Bus power", Kind::power, [](const Instant& i) { return i.bus_power; }},
}};

QColor trace_color(std::size_t kind) {
  const Theme& t = theme();
  const std::array<QColor, 5> colors{t.parts[4], t.accent, t.parts[6], t.ink, t.parts[8]};
  return colors[kind];
}

} // namespace

Ribbon::Ribbon(Session& session, QWidget* parent) : QWidget(parent), session_(session) {
  setObjectName("ribbon");
  setAccessibleName("Cycle ribbon");
  setMouseTracking(true);
  setFocusPolicy(Qt::StrongFocus);
  setFixedHeight(158);
  connect(&session, &Session::changed, this, [this] { update(); });
  connect(&session, &Session::cursor_moved, this, [this] { update(); });
}

QRectF Ribbon::plot() const {
  return {left_column, top_margin, width() - left_column - right_margin,
          height() - top_margin - strip_height - 8.0};
}

double Ribbon::duration() const { return session_.evaluation()->model->cycle.duration; }

double Ribbon::x_of(double time) const {
  const double scale = held_scale_ > 0.0 ? held_scale_ : duration() / plot().width();
  return plot().left() + time / scale;
}

double Ribbon::time_at(double x) const {
  const double scale = held_scale_ > 0.0 ? held_scale_ : duration() / plot().width();
  return (x - plot().left()) * scale;
}

std::vector<Ribbon::Handle> Ribbon::handles() const {
  std::vector<Handle> all;
  const Evaluation* e = session_.evaluation();
  if (e == nullptr || session_.stale()) return all;
  const Cycle& cycle = e->model->cycle;
  const QRectF area = plot();
  double fastest = 0.0;
  for (const Piece& piece : cycle.pieces) fastest = std::max(fastest, std::abs(piece.v0));
  for (std::size_t s = 0; s < cycle.segment_start.size(); ++s) {
    const double end = s + 1 < cycle.segment_start.size() ? cycle.segment_start[s + 1] : cycle.duration;
    all.push_back({Grip::duration, s, {x_of(end), area.bottom() + strip_height / 2 + 4}});
    if (session_.axis().cycle[s].spec().id != "move") continue;
    double up_end = 0.0, down_start = 0.0, middle = 0.0, speed = 0.0;
    bool first = true;
    for (const Piece& piece : cycle.pieces) {
      if (piece.segment != s) continue;
      if (first) up_end = piece.start + piece.duration;
      first = false;
      down_start = piece.start;
      speed = piece.v0;
    }
    middle = 0.5 * (up_end + down_start);
    // they sit on the corners of the speed trace
    const double y = area.center().y() - speed / fastest * (area.height() / 2 - 4);
    if (speed == 0.0) continue;
    all.push_back({Grip::ramp_up, s, {x_of(up_end), y}});
    all.push_back({Grip::ramp_down, s, {x_of(down_start), y}});
    all.push_back({Grip::distance, s, {x_of(middle), y}});
  }
  return all;
}

Ribbon::Handle Ribbon::handle_at(QPointF point) const {
  constexpr double reach = 7.0;
  Handle best;
  double nearest = reach;
  for (const Handle& handle : handles()) {
    const double distance =
        handle.grip == Grip::duration && std::abs(point.y() - handle.place.y()) < strip_height / 2
            ? std::abs(point.x() - handle.place.x())
            : std::hypot(point.x() - handle.place.x(), point.y() - handle.place.y());
    if (distance > nearest) continue;
    nearest = distance;
    best = handle;
  }
  return best;
}

QRectF Ribbon::toggle_box(int kind) const {
  return {10.0, top_margin + 24.0 * kind, left_column - 20.0, 22.0};
}

void Ribbon::paintEvent(QPaintEvent*) {
  QPainter painter(this);
  painter.fillRect(rect(), theme().panel);
  painter.setPen(theme().rule);
  painter.drawLine(0, 0, width(), 0);
  if (session_.evaluation() == nullptr) {
    painter.setPen(theme().soft);
    painter.drawText(rect(), Qt::AlignCenter,
                     session_.has_axis() ? "The cycle appears here once load, mechanism and a move are given."
                                         : "No axis yet.");
    return;
  }
  paint_segments(painter);
  paint_traces(painter);
  paint_handles(painter);
  paint_readings(painter);
  if (hasFocus()) {
    painter.setPen(QPen(theme().accent, 1));
    painter.setBrush(Qt::NoBrush);
    painter.drawRect(rect().adjusted(0, 1, -1, -1));
  }
}

void Ribbon::paint_segments(QPainter& painter) {
  const Theme& t = theme();
  const Cycle& cycle = session_.evaluation()->model->cycle;
  const QRectF area = plot();
  painter.setFont(face(-1));
  for (std::size_t s = 0; s < cycle.segment_start.size() && s < session_.axis().cycle.size(); ++s) {
    const double end = s + 1 < cycle.segment_start.size() ? cycle.segment_start[s + 1] : cycle.duration;
    const double x0 = x_of(cycle.segment_start[s]);
    const double x1 = x_of(end);
    const QRectF box(x0 + 1, area.bottom() + 4, x1 - x0 - 2, strip_height);
    const Section& segment = session_.axis().cycle[s];
    const bool move = segment.spec().id == "move";
    painter.fillRect(box, move ? t.accent_wash : t.ground);
    painter.setPen(t.rule);
    painter.drawLine(QPointF(x1, area.top()), QPointF(x1, box.bottom()));
    QString text = QString::fromStdString(segment.text("time"));
    if (move) text = QString::fromStdString(segment.text("distance")) + " in " + text;
    painter.setPen(t.ink);
    painter.drawText(
        box.adjusted(4, 0, -4, 0), Qt::AlignCenter,
        painter.fontMetrics().elidedText(text, Qt::ElideRight, static_cast<int>(box.width()) - 6));
  }
}

void Ribbon::paint_traces(QPainter& painter) {
  const Theme& t = theme();
  const QRectF area = plot();
  const auto& samples = session_.evaluation()->trace.samples;
  painter.setPen(QPen(t.rule, 1));
  painter.drawLine(QPointF(area.left(), area.center().y()), QPointF(area.right(), area.center().y()));
  painter.setRenderHint(QPainter::Antialiasing);
  painter.setClipRect(area.adjusted(-2, -2, 2, 2));
  for (std::size_t k = 0; k < traces.size(); ++k) {
    if (!shown_[k]) continue;
    double peak = 0.0;
    for (const Instant& now : samples) peak = std::max(peak, std::abs(traces[k].value(now)));
    if (peak == 0.0) continue;
    QPolygonF line;
    line.reserve(static_cast<qsizetype>(samples.size()));
    for (const Instant& now : samples)
      line << QPointF(x_of(now.time),
                      area.center().y() - traces[k].value(now) / peak * (area.height() / 2 - 4));
    painter.setPen(QPen(session_.stale() ? t.faint : trace_color(k), 1.6));
    painter.drawPolyline(line);
  }
  painter.setClipping(false);
  painter.setRenderHint(QPainter::Antialiasing, false);
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

void Ribbon::paint_readings(QPainter& painter) {
  const Theme& t = theme();
  const Instant now = session_.at_cursor();
  const UnitSet units = session_.document().units;
  painter.setFont(face());
  for (std::size_t k = 0; k < traces.size(); ++k) {
    const QRectF box = toggle_box(static_cast<int>(k));
    const bool on = shown_[k];
    painter.setPen(QPen(on ? trace_color(k) : t.faint, on ? 3 : 1));
    painter.drawLine(QPointF(box.left(), box.center().y()), QPointF(box.left() + 14, box.center().y()));
    painter.setPen(on ? t.ink : t.soft);
    painter.drawText(box.adjusted(22, 0, 0, 0), Qt::AlignLeft | Qt::AlignVCenter, traces[k].label);
    painter.drawText(box, Qt::AlignRight | Qt::AlignVCenter,
                     qt(format(traces[k].value(now), traces[k].kind, units).text()));
  }
  painter.setPen(t.soft);
  painter.drawText(QRectF(10, height() - 30.0, left_column - 20, 22), Qt::AlignLeft | Qt::AlignVCenter, "at");
  painter.drawText(QRectF(10, height() - 30.0, left_column - 20, 22), Qt::AlignRight | Qt::AlignVCenter,
                   qt(format(session_.cursor(), Kind::time).text()) + " of " +
                       qt(format(duration(), Kind::time).text()));
}

void Ribbon::set_shown(TraceKind kind, bool on) {
  shown_[static_cast<std::size_t>(kind)] = on;
  update();
}

void Ribbon::mousePressEvent(QMouseEvent* event) {
  if (session_.evaluation() == nullptr || event->button() != Qt::LeftButton) return;
  const QPointF point = event->position();
  for (int k = 0; k < static_cast<int>(TraceKind::count_); ++k)
    if (toggle_box(k).contains(point)) {
      set_shown(static_cast<TraceKind>(k), !shown_[k]);
      return;
    }
  held_ = handle_at(point);
  pressed_ = point;
  if (held_.grip == Grip::none) {
    if (point.x() < plot().left() - 8) return;
    held_.grip = Grip::cursor;
    session_.set_cursor(time_at(point.x()));
    return;
  }
  held_scale_ = duration() / plot().width();
  const Section& segment = session_.axis().cycle[held_.segment];
  held_duration_ = segment.term("time");
  held_value_ = drag_start(segment, held_.grip);
  session_.seal();
}

void Ribbon::mouseMoveEvent(QMouseEvent* event) {
  if (session_.evaluation() == nullptr) return;
  if (held_.grip == Grip::cursor) {
    session_.set_cursor(time_at(event->position().x()));
    return;
  }
  if (held_.grip != Grip::none) {
    drag_to(event->position());
    return;
  }
  hovered_ = handle_at(event->position());
  const bool sideways = hovered_.grip != Grip::none && hovered_.grip != Grip::distance;
  setCursor(hovered_.grip == Grip::distance ? Qt::SizeVerCursor
            : sideways                      ? Qt::SizeHorCursor
                                            : Qt::ArrowCursor);
  update();
}

void Ribbon::drag_to(QPointF point) {
  const double seconds = (point.x() - pressed_.x()) * held_scale_;
  const double up = pressed_.y() - point.y();
  if (held_.segment >= session_.axis().cycle.size()) return;
  const Section& segment = session_.axis().cycle[held_.segment];
  const auto edit = drag(segment, held_.grip, held_value_, held_duration_, seconds, up);
  if (edit) session_.type(segment.path, edit->field, QString::fromStdString(edit->text));
}

void Ribbon::mouseReleaseEvent(QMouseEvent*) {
  if (held_.grip != Grip::none && held_.grip != Grip::cursor) session_.seal();
  held_ = {};
  held_scale_ = 0.0;
  update();
}

void Ribbon::keyPressEvent(QKeyEvent* event) {
  if (session_.evaluation() == nullptr) return QWidget::keyPressEvent(event);
  const double step = duration() / (event->modifiers() & Qt::ShiftModifier ? 20.0 : 200.0);
  switch (event->key()) {
  case Qt::Key_Left:
    session_.set_cursor(session_.cursor() - step);
    break;
  case Qt::Key_Right:
    session_.set_cursor(session_.cursor() + step);
    break;
  case Qt::Key_Home:
    session_.set_cursor(0.0);
    break;
  case Qt::Key_End:
    session_.set_cursor(duration());
    break;
  default:
    QWidget::keyPressEvent(event);
  }
}

bool Ribbon::event(QEvent* event) {
  if (event->type() != QEvent::ToolTip) return QWidget::event(event);
  const auto* help = static_cast<QHelpEvent*>(event);
  constexpr std::array<const char*, 6> tips{
      "Click or drag to move the cursor through the cycle. Arrow keys step it.",
      "",
      "Drag sideways: duration of this segment",
      "Drag sideways: acceleration share",
      "Drag sideways: deceleration share",
      "Drag up or down: distance of this move"};
  QToolTip::showText(help->globalPos(), tips[static_cast<std::size_t>(handle_at(help->pos()).grip)], this);
  return true;
}

} // namespace fulmox::app
