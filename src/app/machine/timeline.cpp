#include "app/machine/timeline.hpp"

#include "app/machine/machine_edits.hpp"
#include "app/session/session.hpp"
#include "core/quantity/format.hpp"

#include <QHelpEvent>
#include <QKeyEvent>
#include <QMouseEvent>
#include <QToolTip>

#include <algorithm>
#include <cmath>
#include <utility>

namespace fulmox::app {
namespace {

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
