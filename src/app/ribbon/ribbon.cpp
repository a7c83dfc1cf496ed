#include "app/ribbon/ribbon.hpp"

#include "app/givens/list_form.hpp"
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

constexpr double left_column = 214.0;
constexpr double right_margin = 14.0;
constexpr double strip_height = 24.0;
constexpr double top_margin = 10.0;

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

QColor trace_color(std::size_t kind) {
  const Theme& t = theme();
  const std::array<QColor, 6> colors{t.parts[4], t.accent, t.parts[6], t.parts[2], t.ink, t.parts[8]};
  return colors[kind];
}

} // namespace

Ribbon::Ribbon(Session& session, QWidget* parent) : QWidget(parent), session_(session) {
  setObjectName("ribbon");
  setAccessibleName("Cycle ribbon");
  setMouseTracking(true);
  setFocusPolicy(Qt::StrongFocus);
  setFixedHeight(158);
  connect(&session, &Session::changed, this, [this] {
    selection_.reset();
    update();
  });
  connect(&session, &Session::cursor_moved, this, [this] { update(); });
}

QRectF Ribbon::plot() const {
  return {left_column, top_margin, width() - left_column - right_margin,
          height() - top_margin - strip_height - 8.0};
}

double Ribbon::duration() const { return session_.evaluation()->model->cycle.duration; }

double Ribbon::view_span() const { return duration() / zoom_; }

double Ribbon::x_of(double time) const {
  const double scale = held_scale_ > 0.0 ? held_scale_ : view_span() / plot().width();
  return plot().left() + (time - view_from_) / scale;
}

double Ribbon::time_at(double x) const {
  const double scale = held_scale_ > 0.0 ? held_scale_ : view_span() / plot().width();
  return view_from_ + (x - plot().left()) * scale;
}

void Ribbon::show_span(double from, double span) {
  zoom_ = std::clamp(duration() / span, 1.0, 1000.0);
  view_from_ = std::clamp(from, 0.0, duration() - view_span());
  update();
}

std::vector<Ribbon::Handle> Ribbon::handles() const {
  std::vector<Handle> all;
  const Evaluation* e = session_.evaluation();
  if (e == nullptr || session_.stale()) return all;
  const Cycle& cycle = e->model->cycle;
  const QRectF area = plot();
  double fastest = 0.0;
  for (const Instant& now : e->trace.samples) fastest = std::max(fastest, std::abs(now.load.speed));
  std::vector<bool> seen(cycle.facts.size(), false);
  for (const Passage& passage : cycle.passages) {
    // a repeated segment is taken hold of where it first runs
    if (seen[passage.segment] || passage.segment >= session_.axis().cycle.size()) continue;
    seen[passage.segment] = true;
    const double end = passage.start + passage.duration;
    const SegmentFacts& facts = cycle.facts[passage.segment];
    const std::string_view kind = session_.axis().cycle[passage.segment].spec().id;
    if (kind != "profile")
      all.push_back({Grip::duration, passage.segment, {x_of(end), area.bottom() + strip_height / 2 + 4}});
    if (kind != "move" || facts.peak_speed == 0.0 || fastest == 0.0) continue;
    // they sit on the corners of the speed trace
    const double y = area.center().y() - facts.peak_speed / fastest * (area.height() / 2 - 4);
    const bool ramps = facts.accel_share > 0.0 && facts.decel_share > 0.0;
    const double up_end = passage.start + (ramps ? facts.accel_share : 0.5) * passage.duration;
    const double down_start = end - (ramps ? facts.decel_share : 0.5) * passage.duration;
    if (ramps) {
      all.push_back({Grip::ramp_up, passage.segment, {x_of(up_end), y}});
      all.push_back({Grip::ramp_down, passage.segment, {x_of(down_start), y}});
    }
    all.push_back({Grip::distance, passage.segment, {x_of(0.5 * (up_end + down_start)), y}});
  }
  std::erase_if(
      all, [&](const Handle& h) { return h.place.x() < area.left() - 8 || h.place.x() > area.right() + 8; });
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
  return {10.0, top_margin - 4.0 + 20.0 * kind, left_column - 20.0, 20.0};
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
  if (view_from_ > duration() - view_span() + 1e-12) show_span(0.0, view_span());
  paint_segments(painter);
  paint_selection(painter);
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
  painter.setClipRect(QRectF(area.left() - 1, 0, area.width() + 2, height()));
  for (const Passage& passage : cycle.passages) {
    if (passage.segment >= session_.axis().cycle.size()) continue;
    const double x0 = x_of(passage.start);
    const double x1 = x_of(passage.start + passage.duration);
    const QRectF box(x0 + 1, area.bottom() + 4, x1 - x0 - 2, strip_height);
    const Section& segment = session_.axis().cycle[passage.segment];
    const bool rests = segment.spec().id == "dwell";
    painter.fillRect(box, rests ? t.ground : t.accent_wash);
    painter.setPen(t.rule);
    painter.drawLine(QPointF(x1, area.top()), QPointF(x1, box.bottom()));
    painter.setPen(t.ink);
    painter.drawText(box.adjusted(4, 0, -4, 0), Qt::AlignCenter,
                     painter.fontMetrics().elidedText(summarize(segment), Qt::ElideRight,
                                                      static_cast<int>(box.width()) - 6));
  }
  painter.setClipping(false);
}

void Ribbon::paint_selection(QPainter& painter) {
  if (!selection_) return;
  const Theme& t = theme();
  const QRectF area = plot();
  const MotionKinds& kinds = session_.evaluation()->model->cycle.kinds;
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
  const MotionKinds& kinds = session_.evaluation()->model->cycle.kinds;
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
                     qt(format(traces[k].value(now), traces[k].kind(kinds), units).text()));
  }
  painter.setPen(t.soft);
  painter.drawText(QRectF(10, height() - 27.0, left_column - 20, 22), Qt::AlignLeft | Qt::AlignVCenter, "at");
  painter.drawText(QRectF(10, height() - 27.0, left_column - 20, 22), Qt::AlignRight | Qt::AlignVCenter,
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
  if (event->modifiers() & Qt::ShiftModifier) {
    held_ = {Grip::selection, 0, point};
    return;
  }
  if (held_.grip == Grip::none) {
    selection_.reset();
    if (point.x() < plot().left() - 8) return;
    held_.grip = Grip::cursor;
    session_.set_cursor(time_at(point.x()));
    return;
  }
  held_scale_ = view_span() / plot().width();
  const SegmentFacts& facts = session_.evaluation()->model->cycle.facts[held_.segment];
  held_duration_ = facts.time;
  held_value_ = drag_start(facts, held_.grip);
  session_.seal();
}

void Ribbon::mouseMoveEvent(QMouseEvent* event) {
  if (session_.evaluation() == nullptr) return;
  if (held_.grip == Grip::cursor) {
    session_.set_cursor(time_at(event->position().x()));
    return;
  }
  if (held_.grip == Grip::selection) {
    select(time_at(pressed_.x()), time_at(event->position().x()));
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
  const auto texts = drag(segment, held_.grip, held_value_, held_duration_, seconds, up);
  if (texts.empty()) return;
  const std::string path = segment.path;
  const QString what =
      qt(segment.spec().fields[*segment.spec().index_of(texts.front().field)].label).toLower();
  session_.edit("Drag " + what, "drag " + qt(path) + what, [&](Document& document) {
    Section* dragged = find_section(document, session_.axis_index(), path);
    for (const DragEdit& edit : texts)
      dragged->type(edit.field, edit.text, dragged->entry(edit.field).origin);
  });
}

void Ribbon::select(double from, double to) {
  if (std::abs(to - from) < 1e-9 * duration()) return;
  selection_ = statistics(*session_.evaluation()->model, from, to);
  update();
}

void Ribbon::mouseReleaseEvent(QMouseEvent*) {
  if (held_.grip != Grip::none && held_.grip != Grip::cursor && held_.grip != Grip::selection)
    session_.seal();
  held_ = {};
  held_scale_ = 0.0;
  update();
}

void Ribbon::mouseDoubleClickEvent(QMouseEvent* event) {
  if (session_.evaluation() == nullptr) return;
  const QRectF area = plot();
  const double time = time_at(event->position().x());
  if (event->position().y() > area.bottom())
    for (const Passage& passage : session_.evaluation()->model->cycle.passages)
      if (time >= passage.start && time < passage.start + passage.duration)
        return emit session_.input_wanted("cycle[" + QString::number(passage.segment) + "].time");
  if (event->position().x() > area.left()) show_span(0.0, duration());
}

void Ribbon::wheelEvent(QWheelEvent* event) {
  if (session_.evaluation() == nullptr) return;
  const double steps = event->angleDelta().y() / 120.0;
  if (event->modifiers() & Qt::ControlModifier) {
    const double here = time_at(event->position().x());
    const double span = view_span() * std::pow(0.8, steps);
    show_span(here - (here - view_from_) * std::min(span, duration()) / view_span(),
              std::min(span, duration()));
  } else {
    show_span(view_from_ - 0.1 * steps * view_span(), view_span());
  }
  event->accept();
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
  constexpr std::array<const char*, 7> tips{
      "Click or drag to move the cursor through the cycle. Arrow keys step it.\nShift and drag: statistics "
      "of a "
      "span. Ctrl and wheel: zoom, double click: all of it.\nDouble click on a segment: type its values.",
      "",
      "Drag sideways: duration of this segment",
      "Drag sideways: acceleration share",
      "Drag sideways: deceleration share",
      "Drag up or down: distance of this move",
      ""};
  QToolTip::showText(help->globalPos(), tips[static_cast<std::size_t>(handle_at(help->pos()).grip)], this);
  return true;
}

} // namespace fulmox::app
