#include "app/ribbon/ribbon.hpp"

#include "app/givens/segment_menu.hpp"
#include "app/ribbon/ribbon_drag.hpp"
#include "app/session/refresher.hpp"
#include "app/session/session.hpp"

#include <QHelpEvent>
#include <QKeyEvent>
#include <QMouseEvent>
#include <QToolTip>

#include <algorithm>
#include <array>
#include <cmath>

namespace fulmox::app {
namespace {

constexpr double right_margin = 14.0;

} // namespace

Ribbon::Ribbon(Session& session, QWidget* parent) : QWidget(parent), session_(session) {
  setObjectName("ribbon");
  setAccessibleName("Cycle ribbon");
  setMouseTracking(true);
  setFocusPolicy(Qt::StrongFocus);
  setFixedHeight(158);
  setAttribute(Qt::WA_OpaquePaintEvent);
  new Refresher(session, this, results_changed | Change::theme | Change::cursor, [this](Changes what) {
    if (what == Change::cursor) return move_cursor();
    selection_.reset();
    redraw();
  });
}

void Ribbon::redraw() {
  prepared_ = false;
  update();
}

QRectF Ribbon::plot() const {
  return {left_column, top_margin, width() - left_column - right_margin,
          height() - top_margin - strip_height - 8.0};
}

double Ribbon::duration() const { return session_.evaluation()->model->load->cycle.duration; }

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
  redraw();
}

std::vector<Ribbon::Handle> Ribbon::handles() const {
  std::vector<Handle> all;
  const Evaluation* e = session_.evaluation();
  if (e == nullptr || session_.stale()) return all;
  const Cycle& cycle = e->model->load->cycle;
  const QRectF area = plot();
  double fastest = 0.0;
  for (const Instant& now : session_.plots().trace.samples)
    fastest = std::max(fastest, std::abs(now.load.speed));
  std::vector<bool> seen(cycle.facts.size(), false);
  for (const Passage& passage : cycle.passages) {
    // a repeated segment is taken hold of where it first runs
    if (seen[passage.segment] || passage.segment >= session_.axis().cycle.size()) continue;
    seen[passage.segment] = true;
    const double end = passage.start + passage.duration;
    // what is narrower than a finger's breadth is zoomed into first
    if (constexpr double graspable = 8.0; x_of(end) - x_of(passage.start) < graspable) continue;
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

void Ribbon::set_shown(TraceKind kind, bool on) {
  shown_[static_cast<std::size_t>(kind)] = on;
  redraw();
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
  const SegmentFacts& facts = session_.evaluation()->model->load->cycle.facts[held_.segment];
  start_ = {facts.time, facts.distance, facts.accel_share, facts.decel_share};
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
  redraw();
}

void Ribbon::drag_to(QPointF point) {
  const double seconds = (point.x() - pressed_.x()) * held_scale_;
  const double up = pressed_.y() - point.y();
  if (held_.segment >= session_.axis().cycle.size()) return;
  const Section& segment = session_.axis().cycle[held_.segment];
  const auto texts = drag(segment, held_.grip, start_, seconds, up);
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
  selection_ = statistics(*session_.evaluation()->model, session_.evaluation()->course, from, to);
  redraw();
}

void Ribbon::mouseReleaseEvent(QMouseEvent*) {
  if (held_.grip != Grip::none && held_.grip != Grip::cursor && held_.grip != Grip::selection)
    session_.seal();
  held_ = {};
  held_scale_ = 0.0;
  redraw();
}

std::optional<std::size_t> Ribbon::segment_at(double x) const {
  const double time = time_at(x);
  for (const Passage& passage : session_.evaluation()->model->load->cycle.passages)
    if (time >= passage.start && time < passage.start + passage.duration &&
        passage.segment < session_.axis().cycle.size())
      return passage.segment;
  return std::nullopt;
}

void Ribbon::type_values(std::size_t segment) {
  const Section& section = session_.axis().cycle[segment];
  emit session_.input_requested(qt(section.path) + "." + qt(section.field(0).id));
}

void Ribbon::mouseDoubleClickEvent(QMouseEvent* event) {
  if (session_.evaluation() == nullptr) return;
  const QRectF area = plot();
  if (event->position().y() > area.bottom())
    if (const auto segment = segment_at(event->position().x())) return type_values(*segment);
  if (event->position().x() > area.left()) show_span(0.0, duration());
}

void Ribbon::contextMenuEvent(QContextMenuEvent* event) {
  if (session_.evaluation() == nullptr || event->pos().x() < plot().left()) return;
  // by the keyboard, the segment under the cursor is meant
  const bool keyboard = event->reason() == QContextMenuEvent::Keyboard;
  const auto segment = segment_at(keyboard ? x_of(session_.cursor()) : event->pos().x());
  if (!segment) return;
  QMenu menu;
  menu.addAction("Type its values", this, [this, segment] { type_values(*segment); });
  menu.addSeparator();
  fill_segment_menu(menu, session_, *segment);
  menu.exec(event->globalPos());
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
