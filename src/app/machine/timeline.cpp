#include "app/machine/timeline.hpp"

#include "app/machine/machine_edits.hpp"
#include "app/session/session.hpp"
#include "app/sheet/drawing_painter.hpp"
#include "app/theme/theme.hpp"
#include "app/widgets/kept_text.hpp"
#include "core/quantity/format.hpp"

#include <QHelpEvent>
#include <QKeyEvent>
#include <QMouseEvent>
#include <QPainter>
#include <QToolTip>

#include <algorithm>
#include <cmath>
#include <utility>

namespace fulmox::app {
namespace {

constexpr int name_width = 118, sketch_width = 64;
constexpr double most_row = 46.0, least_row = 25.0, usual_row = 30.0;

/// Whether names, bars and what waits for what stand where they stood.
bool same_rows(const MachineRun* a, const MachineRun* b) {
  if (a == nullptr || b == nullptr) return false;
  const MachinePower &x = a->power, &y = b->power;
  return x.problem.what.empty() && y.problem.what.empty() && x.schedule == y.schedule &&
         std::equal(x.axes.begin(), x.axes.end(), y.axes.begin(), y.axes.end(),
                    [](const AxisPower& p, const AxisPower& q) {
                      return p.name == q.name && p.problem.what == q.problem.what;
                    }) &&
         x.blocks == y.blocks;
}

QString told(double seconds) { return qt(format(seconds, Kind::time).text()); }

} // namespace

Timeline::Timeline(Session& session, QWidget* parent) : QWidget(parent), session_(session) {
  setObjectName("timeline");
  setAccessibleName("The machine's cycle: when each axis runs");
  setFocusPolicy(Qt::StrongFocus);
  setMouseTracking(true);
}

int Timeline::left() const { return name_width + sketch_width + 8; }

/// For which there is to be room.
double Timeline::rows() const {
  return run_ != nullptr ? std::max(2.0, static_cast<double>(run_->power.axes.size())) : 4.0;
}

QSize Timeline::sizeHint() const { return {700, static_cast<int>(rows() * usual_row) + axis_height + 4}; }

QSize Timeline::minimumSizeHint() const { // of many axes the rest is scrolled to
  return {300, static_cast<int>(rows() * least_row) + axis_height + 4};
}

double Timeline::row_height() const {
  const double rows = std::max<double>(1.0, ready() ? static_cast<double>(run_->power.axes.size()) : 1.0);
  return std::clamp((height() - axis_height - 4.0) / rows, least_row, most_row);
}

double Timeline::x_of(double time) const {
  return left() + (right() - left()) * time / run_->power.schedule.cycle;
}

double Timeline::time_at(double x) const {
  return std::clamp((x - left()) / (right() - left()), 0.0, 1.0) * run_->power.schedule.cycle;
}

void Timeline::show_machine(std::shared_ptr<const MachineRun> run, const MachineResult& results) {
  const double rows_before = rows();
  const bool other_axis = std::exchange(axis_, session_.axis_index()) != session_.axis_index();
  const std::shared_ptr<const MachineRun> before = std::exchange(run_, std::move(run));
  if (!other_axis && before != nullptr && run_ != nullptr && before->number == run_->number) return;
  const bool rows_stay =
      !other_axis && same_rows(before.get(), run_.get()) && results_.size() == results.size();
  for (std::size_t i = 0; rows_stay && i < results.size(); ++i)
    if (results_[i] != results[i]) update(row_area(i));
  results_ = results;
  if (rows_stay) return;
  if (ready()) cursor_ = std::min(cursor_, run_->power.schedule.cycle);
  if (chosen_ && (!ready() || *chosen_ >= run_->power.blocks.size())) chosen_.reset();
  if (rows() != rows_before) updateGeometry();
  update();
}

void Timeline::set_cursor(double time) {
  cursor_ = time;
  update();
}

/// With a pixel around for what is drawn on its edge.
QRect Timeline::row_area(std::size_t axis) const {
  const double h = row_height();
  return QRectF(0.0, static_cast<double>(axis) * h - 1.0, width(), h + 2.0).toAlignedRect();
}

QRectF Timeline::bar_of(std::size_t block) const {
  if (!ready()) return {};
  const PlacedBlock& placed = run_->power.schedule.blocks[block];
  const double top = static_cast<double>(run_->power.blocks[block].axis) * row_height() + 0.2 * row_height();
  const double end = std::min(placed.end, run_->power.schedule.cycle);
  return {x_of(placed.start), top, x_of(end) - x_of(placed.start), 0.6 * row_height()};
}

std::optional<std::size_t> Timeline::block_at(QPointF place) const {
  if (!ready()) return std::nullopt;
  for (std::size_t b = 0; b < run_->power.blocks.size(); ++b) {
    QRectF bar = bar_of(b);
    if (bar.contains(place)) return b;
    bar.translate(x_of(0.0) - x_of(run_->power.schedule.cycle), 0.0); // what wraps around
    bar.setWidth(x_of(run_->power.schedule.blocks[b].end) - x_of(run_->power.schedule.blocks[b].start));
    if (place.x() >= left() && bar.contains(place)) return b;
  }
  return std::nullopt;
}

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
  const double wanted = cycle * 80.0 / std::max(1, right() - left());
  const double decade = std::pow(10.0, std::floor(std::log10(wanted)));
  double step = 10.0 * decade;
  for (const double s : {1.0, 2.0, 5.0})
    if (s * decade >= wanted) {
      step = s * decade;
      break;
    }
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

void Timeline::move_block(std::size_t block, double offset, const QString& key) {
  set_block_start(session_, run_->power, block, offset, key);
}

void Timeline::mousePressEvent(QMouseEvent* event) {
  if (!ready() || event->button() != Qt::LeftButton) return;
  const auto block = block_at(event->position());
  if (event->position().x() < left()) {
    const auto row = static_cast<std::size_t>(event->position().y() / row_height());
    if (row < run_->power.axes.size()) session_.select_axis(row);
    return update();
  }
  emit cursor_set(time_at(event->position().x()));
  chosen_ = dragged_ = block;
  moved_ = false;
  if (block) {
    grabbed_at_ = time_at(event->position().x());
    offset_before_ = run_->power.blocks[*block].offset;
    emit block_chosen(*block);
  }
  update();
}

void Timeline::mouseMoveEvent(QMouseEvent* event) {
  if (!ready()) return;
  if (!(event->buttons() & Qt::LeftButton)) {
    setCursor(block_at(event->position()) ? Qt::SizeHorCursor : Qt::ArrowCursor);
    return;
  }
  if (!dragged_) {
    emit cursor_set(time_at(event->position().x()));
    return;
  }
  const double scale = run_->power.schedule.cycle / (right() - left());
  const double by = (event->position().x() - x_of(grabbed_at_)) * scale;
  if (!moved_ && std::abs(by) < 4.0 * scale) return;
  if (*dragged_ >= run_->power.blocks.size()) return;
  moved_ = true;
  move_block(*dragged_, offset_before_ + by, "drag block " + QString::number(*dragged_));
}

void Timeline::mouseReleaseEvent(QMouseEvent*) {
  if (moved_) session_.seal();
  dragged_.reset();
  moved_ = false;
}

void Timeline::mouseDoubleClickEvent(QMouseEvent* event) {
  if (!ready()) return;
  const auto row = static_cast<std::size_t>(event->position().y() / row_height());
  if (row < run_->power.axes.size() && event->position().x() < left()) emit axis_wanted(row);
}

void Timeline::keyPressEvent(QKeyEvent* event) {
  if (!ready() || run_->power.blocks.empty()) return QWidget::keyPressEvent(event);
  const double tick = event->modifiers() & Qt::ShiftModifier ? 0.1 : 0.01; // s
  const int count = static_cast<int>(run_->power.blocks.size());
  switch (event->key()) {
  case Qt::Key_Up:
  case Qt::Key_Down: {
    const int step = event->key() == Qt::Key_Down ? 1 : count - 1;
    chosen_ = static_cast<std::size_t>(((chosen_ ? static_cast<int>(*chosen_) : -step) + step) % count);
    emit block_chosen(*chosen_);
    return update();
  }
  case Qt::Key_Left:
  case Qt::Key_Right: {
    const double by = event->key() == Qt::Key_Right ? tick : -tick;
    if (!chosen_) {
      emit cursor_set(std::clamp(cursor_ + by, 0.0, run_->power.schedule.cycle));
      return;
    }
    return move_block(*chosen_, run_->power.blocks[*chosen_].offset + by,
                      "step block " + QString::number(*chosen_));
  }
  case Qt::Key_Escape:
    chosen_.reset();
    return update();
  default:
    QWidget::keyPressEvent(event);
  }
}

QString Timeline::tip_of(std::size_t b) const {
  const Block& block = run_->power.blocks[b];
  const PlacedBlock& placed = run_->power.schedule.blocks[b];
  QString text = qt(block.name) + ": " + told(placed.start) + " to " + told(placed.end);
  if (block.repeats > 1) text += ", " + QString::number(block.repeats) + " × " + told(block.length());
  text += placed.slack > 0.0 ? "\nmay start " + told(placed.slack) + " later at no cost"
                             : "\na later start makes the machine's cycle longer";
  for (const Block::After& after : block.after)
    text += "\nafter segment " + QString::number(after.segment + 1) + " of " +
            qt(run_->power.blocks[after.block].name) +
            (after.delay > 0.0 ? " and " + told(after.delay) : QString());
  if (run_->power.implied[b]) text += "\nno block is listed for this axis: it runs once, from the start";
  return text + "\nDrag it, or choose it and use the arrow keys (with Shift 0.1 s).";
}

bool Timeline::event(QEvent* event) {
  if (event->type() == QEvent::ShortcutOverride && chosen_) { // the window's own Escape comes second
    const auto* key = static_cast<QKeyEvent*>(event);         // NOLINT: told by its type
    if (key->key() == Qt::Key_Escape) event->accept();
  }
  if (event->type() == QEvent::ToolTip && ready()) {
    const auto* help = static_cast<QHelpEvent*>(event); // NOLINT: told by its type
    if (const auto block = block_at(help->pos()))
      QToolTip::showText(help->globalPos(), tip_of(*block), this);
    else if (help->pos().x() < left())
      QToolTip::showText(help->globalPos(), "Double-click opens the axis.", this);
    else
      QToolTip::hideText();
    return true;
  }
  return QWidget::event(event);
}

} // namespace fulmox::app
