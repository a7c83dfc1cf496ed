// How the ribbon looks; what it does under the hand is in ribbon.cpp.

#include "app/ribbon/ribbon.hpp"

#include "app/givens/list_form.hpp"
#include "app/session/session.hpp"
#include "app/theme/theme.hpp"
#include "app/widgets/kept_text.hpp"
#include "app/widgets/stamp.hpp"
#include "core/quantity/format.hpp"

#include <QPainter>

#include <algorithm>
#include <array>
#include <cmath>
#include <map>
#include <utility>

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

/// Those before it follow from the motion alone.
constexpr auto first_load = static_cast<std::size_t>(Ribbon::TraceKind::torque);

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
  prepared_ = false;
  QWidget::resizeEvent(event);
}

void Ribbon::paintEvent(QPaintEvent*) {
  QPainter painter(this);
  if (session_.evaluation() == nullptr) return paint_nothing(painter);
  if (view_from_ > duration() - view_span() + 1e-12) show_span(0.0, view_span());
  if (!prepared_ || ground_picture_.devicePixelRatio() != devicePixelRatioF()) prepare();
  painter.drawPixmap(0, 0, ground_picture_);
  paint_selection(painter);
  paint_loads(painter);
  paint_handles(painter);
  paint_cursor(painter);
  paint_readings(painter);
  if (hasFocus()) {
    painter.setPen(QPen(theme().accent, 1));
    painter.setBrush(Qt::NoBrush);
    painter.drawRect(rect().adjusted(0, 1, -1, -1));
  }
}

void Ribbon::paint_nothing(QPainter& painter) const {
  paint_panel(painter);
  painter.setFont(face());
  painter.setPen(theme().soft);
  painter.drawText(rect(), Qt::AlignCenter,
                   session_.has_axis() ? "The cycle appears here once load, mechanism and a move are given."
                                       : "No axis yet.");
}

void Ribbon::prepare() {
  for (std::size_t k = 0; k < traces.size(); ++k)
    peaks_[k] = peak_of(traces[k], session_.plots().trace.samples);
  draw_ground();
  loads_.clear();
  for (std::size_t k = first_load; k < traces.size(); ++k)
    if (auto trace = trace_of(k)) loads_.push_back(std::move(*trace));
  prepared_ = true;
}

/// Only where the cursor was and will be, and what is read there: the rest stays as it is.
void Ribbon::move_cursor() {
  if (session_.evaluation() == nullptr) return;
  constexpr int reach = 8; // of its mark to either side, px
  for (const double x : {drawn_cursor_, x_of(session_.cursor())})
    update(static_cast<int>(x) - reach, 0, 2 * reach, height());
  update(0, 0, static_cast<int>(left_column), height());
}

void Ribbon::paint_panel(QPainter& painter) const {
  painter.fillRect(rect(), theme().panel);
  painter.setPen(theme().rule);
  painter.drawLine(0, 0, width(), 0);
}

/// Anew only where it looks different.
void Ribbon::draw_ground() {
  RibbonGround now = ground();
  // what is stale or only tried follows from another cycle than the axis has
  const bool present = !session_.stale() && session_.trial().isEmpty();
  if (present && ground_ == now) return;
  // memory of this size is dear to get anew with every edit
  const QSize wanted(static_cast<int>(std::ceil(now.size.width() * now.scale)),
                     static_cast<int>(std::ceil(now.size.height() * now.scale)));
  if (ground_picture_.size() != wanted) ground_picture_ = QPixmap(wanted);
  ground_picture_.setDevicePixelRatio(now.scale);
  QPainter painter(&ground_picture_);
  paint_panel(painter);
  std::vector<RibbonTrace> drawn;
  for (std::size_t k = 0; k < first_load; ++k)
    if (auto trace = trace_of(k)) drawn.push_back(std::move(*trace));
  now.paint(painter, drawn);
  if (present)
    ground_ = std::move(now);
  else
    ground_.reset();
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

RibbonGround Ribbon::ground() const {
  RibbonGround now;
  const QRectF area = plot();
  now.size = size();
  now.area = area;
  now.strip = QRectF(area.left(), area.bottom() + 4, area.width(), strip_height);
  now.dark = theme().dark;
  now.scale = devicePixelRatioF();
  for (const Passage& passage : session_.evaluation()->model->load->cycle.passages) {
    if (passage.segment >= session_.axis().cycle.size()) continue;
    const double from = x_of(passage.start);
    const double to = x_of(passage.start + passage.duration);
    if (to < area.left() || from > area.right()) continue;
    const Section& segment = session_.axis().cycle[passage.segment];
    constexpr double readable = 22.0;
    now.segments.push_back(
        {from, to, segment.is("dwell"), to - from < readable ? QString() : summarize(segment)});
  }
  now.cycle = session_.axis().cycle;
  for (std::size_t k = 0; k < traces.size(); ++k)
    now.names.push_back({toggle_box(static_cast<int>(k)), traces[k].label, trace_color(k), shown_[k]});
  return now;
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

/// As it is shown; nothing where it is not, or is zero throughout.
std::optional<RibbonTrace> Ribbon::trace_of(std::size_t kind) const {
  const double peak = peaks_[kind];
  if (!shown_[kind] || peak == 0.0) return std::nullopt;
  const QRectF area = plot();
  return RibbonTrace{session_.stale() ? theme().faint : trace_color(kind),
                     thinned(session_.plots().trace.samples, [&](const Instant& now) {
                       return QPointF(x_of(now.time), area.center().y() - traces[kind].value(now) / peak *
                                                                              (area.height() / 2 - 4));
                     })};
}

void Ribbon::paint_loads(QPainter& painter) {
  painter.setClipRect(plot().adjusted(-2, -2, 2, 2));
  for (const RibbonTrace& trace : loads_) paint_trace(painter, trace);
  painter.setClipping(false);
}

void Ribbon::paint_cursor(QPainter& painter) {
  const Theme& t = theme();
  const QRectF area = plot();
  const double x = drawn_cursor_ = std::round(x_of(session_.cursor())) + 0.5;
  painter.setPen(QPen(t.ink, 1));
  painter.drawLine(QPointF(x, area.top() - 4), QPointF(x, height() - 4.0));
  painter.setBrush(t.ink);
  painter.drawPolygon(QPolygonF{{x - 5, area.top() - 8}, {x + 5, area.top() - 8}, {x, area.top() - 1}});
}

namespace {

/// A handle around the origin.
void draw_handle(QPainter& painter, Ribbon::Grip grip, bool hot) {
  const Theme& t = theme();
  painter.setPen(QPen(hot ? t.accent : t.faint, 1.4));
  painter.setBrush(hot ? t.accent : t.panel);
  if (grip == Ribbon::Grip::duration) {
    painter.drawLine(QPointF(-1.5, -6), QPointF(-1.5, 6));
    painter.drawLine(QPointF(1.5, -6), QPointF(1.5, 6));
  } else if (grip == Ribbon::Grip::distance) {
    painter.drawPolygon(QPolygonF{QPointF(0, -5), QPointF(4, 0), QPointF(0, 5), QPointF(-4, 0)});
  } else {
    painter.drawEllipse(QPointF(), 3.2, 3.2);
  }
}

} // namespace

void Ribbon::paint_handles(QPainter& painter) {
  constexpr double reach = 7.0;
  std::map<std::pair<Grip, bool>, Stamp> stamps;
  for (const Handle& handle : handles()) {
    const bool hot = (hovered_.grip == handle.grip && hovered_.segment == handle.segment) ||
                     (held_.grip == handle.grip && held_.segment == handle.segment);
    const auto draw = [&](QPainter& on) { draw_handle(on, handle.grip, hot); };
    const auto stamp =
        stamps.try_emplace({handle.grip, hot}, painter, reach, draw).first; // drawn where it is new
    stamp->second.set(painter, handle.place);
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
