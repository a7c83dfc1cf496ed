#include "app/sheet/plots.hpp"

#include "app/session/session.hpp"
#include "app/sheet/plot_style.hpp"
#include "app/theme/theme.hpp"
#include "core/quantity/format.hpp"

#include <qcustomplot.h>

#include <QVBoxLayout>

#include <algorithm>
#include <cmath>

namespace fulmox::app {
namespace {

QCustomPlot* make_plot(QWidget* host, const QString& name) {
  auto* layout = new QVBoxLayout(host);
  layout->setContentsMargins(0, 0, 0, 0);
  auto* plot = new QCustomPlot;
  plot->setObjectName(name);
  plot->setNotAntialiasedElements(QCP::aeAll);
  plot->setAntialiasedElements(QCP::aePlottables | QCP::aeScatters);
  plot->setNoAntialiasingOnDrag(true);
  plot->axisRect()->setAutoMargins(QCP::msLeft | QCP::msBottom);
  plot->axisRect()->setMargins(QMargins(0, 26, 12, 0));
  plot->setMinimumSize(160, 120);
  layout->addWidget(plot);
  return plot;
}

QCPItemText* make_title(QCustomPlot* plot, const QString& text) {
  auto* title = new QCPItemText(plot);
  title->setClipToAxisRect(false);
  title->position->setType(QCPItemPosition::ptAbsolute);
  title->position->setCoords(8, 6);
  title->setPositionAlignment(Qt::AlignLeft | Qt::AlignTop);
  title->setText(text);
  title->setFont(face(0, true));
  title->setColor(theme().ink);
  return title;
}

void restyle_titles(QCustomPlot* plot) {
  for (int i = 0; i < plot->itemCount(); ++i)
    if (auto* text = qobject_cast<QCPItemText*>(plot->item(i)))
      text->setColor(text->objectName() == "soft" ? theme().soft : theme().ink);
}

QCPItemText* make_note(QCustomPlot* plot) {
  auto* note = new QCPItemText(plot);
  note->setObjectName("soft");
  note->setClipToAxisRect(false);
  note->position->setType(QCPItemPosition::ptAxisRectRatio);
  note->position->setCoords(0.5, 0.5);
  note->setFont(face());
  note->setColor(theme().soft);
  return note;
}

/// Moments an even time apart while the axis moves: dots that lie apart tell a loop run through fast.
std::vector<double> time_dots(const Cycle& cycle) {
  constexpr int count = 20;
  double moving = 0.0;
  for (const Piece& piece : cycle.pieces) moving += piece.rest() ? 0.0 : piece.duration;
  std::vector<double> dots;
  double before = 0.0; // time moved up to this piece
  for (const Piece& piece : cycle.pieces) {
    if (piece.rest()) continue;
    while (static_cast<int>(dots.size()) < count) {
      const double at = moving * (static_cast<double>(dots.size()) + 0.5) / count;
      if (at > before + piece.duration) break;
      dots.push_back(piece.start + at - before);
    }
    before += piece.duration;
  }
  return dots;
}

} // namespace

TorquePlane::TorquePlane(Session& session, QWidget* parent)
    : QWidget(parent), session_(session), plot_(make_plot(this, "plane_plot")) {
  setObjectName("torque_plane");
  setAccessibleName("Speed–torque plane");
  setToolTip(
      "Outlined: peak torque at this bus voltage; dashed: at the lowest. Hatched: continuous torque.\n"
      "Thick: the cycle's loop, braking counted downwards, a dot every twentieth of the time it moves. "
      "Ring: the cursor.");
  continuous_ = plot_->addGraph();
  peak_ = plot_->addGraph();
  peak_low_ = plot_->addGraph();
  zero_ = plot_->addGraph();
  loop_ = new QCPCurve(plot_->xAxis, plot_->yAxis);
  ticks_ = plot_->addGraph();
  point_ = plot_->addGraph();
  ticks_->setLineStyle(QCPGraph::lsNone);
  point_->setLineStyle(QCPGraph::lsNone);
  make_title(plot_, "Speed and torque");
  empty_ = make_note(plot_);
  braking_ = make_note(plot_);
  braking_->setText("braking");
  braking_->setFont(face(-2));
  braking_->position->setCoords(0.99, 0.99);
  braking_->setPositionAlignment(Qt::AlignRight | Qt::AlignBottom);
  restyle();
  connect(&session, &Session::changed, this, &TorquePlane::refresh);
  connect(&session, &Session::cursor_moved, this, &TorquePlane::move_point);
  refresh();
}

void TorquePlane::restyle() {
  const Theme& t = theme();
  dark_ = t.dark;
  style_plot(plot_);
  restyle_titles(plot_);
  QColor hatch = t.accent;
  hatch.setAlpha(110);
  continuous_->setPen(QPen(t.accent, 1));
  continuous_->setBrush(QBrush(hatch, Qt::BDiagPattern));
  peak_->setPen(QPen(t.ink, 1));
  peak_low_->setPen(QPen(t.soft, 1, Qt::DashLine));
  zero_->setPen(QPen(t.faint, 1));
  loop_->setPen(QPen(t.alarm, 2.4));
  point_->setScatterStyle(QCPScatterStyle(QCPScatterStyle::ssCircle, QPen(t.ink, 2), QBrush(t.ground), 10));
}

void TorquePlane::refresh() {
  if (dark_ != theme().dark) restyle();
  const Evaluation* e = session_.evaluation();
  const bool bare = e == nullptr || session_.plots().envelope.empty();
  empty_->setVisible(bare);
  empty_->setText(e == nullptr ? "" : "Choose a motor: its curves appear here.");
  const UnitSet units = session_.document().units;
  double top_torque = 0.0;
  double top_speed = 0.0;
  if (e != nullptr) {
    for (const EnvelopePoint& p : session_.plots().envelope) {
      top_torque = std::max({top_torque, p.peak, p.continuous});
      top_speed = std::max(top_speed, p.speed);
    }
    for (const Instant& now : session_.plots().trace.samples) {
      top_torque = std::max(top_torque, std::abs(now.torque));
      top_speed = std::max(top_speed, std::abs(now.speed));
    }
  }
  const DisplayUnit& torque_unit = display_unit(top_torque, Kind::torque, units);
  const double torque_factor = 1.0 / torque_unit.factor;
  const double speed_factor = 1.0 / info(Kind::angular_speed).metric.front().factor;
  QVector<double> n, c, pk, low;
  if (e != nullptr)
    for (const EnvelopePoint& p : session_.plots().envelope) {
      n << p.speed * speed_factor;
      c << p.continuous * torque_factor;
      pk << p.peak * torque_factor;
      low << p.peak_low * torque_factor;
    }
  continuous_->setData(n, c, true);
  peak_->setData(n, pk, true);
  peak_low_->setData(
      n,
      e != nullptr && !std::isnan(e->model->surroundings.bus) ? low : QVector<double>(n.size(), std::nan("")),
      true);
  QVector<double> order, speeds, torques, tick_n, tick_t;
  double lowest = 0.0;
  if (e != nullptr) {
    const auto place = [&](const Instant& now, QVector<double>& n_out, QVector<double>& t_out) {
      n_out << std::abs(now.speed) * speed_factor;
      t_out << (now.braking() ? -1.0 : 1.0) * std::abs(now.torque) * torque_factor;
    };
    for (const Instant& now : session_.plots().trace.samples) {
      order << static_cast<double>(order.size());
      place(now, speeds, torques);
      lowest = std::min(lowest, torques.back());
    }
    for (const double time : time_dots(e->model->cycle)) place(e->at(time), tick_n, tick_t);
  }
  loop_->setData(order, speeds, torques, true);
  loop_->setPen(QPen(session_.stale() ? theme().faint : theme().alarm, 2.4));
  ticks_->setData(tick_n, tick_t);
  ticks_->setScatterStyle(QCPScatterStyle(
      QCPScatterStyle::ssDisc, session_.stale() ? theme().faint : theme().alarm, theme().ground, 6));
  zero_->setData({0.0, top_speed * speed_factor * 1.04}, {0.0, 0.0}, true);
  plot_->xAxis->setRange(0, std::max(1.0, top_speed * speed_factor * 1.04));
  plot_->yAxis->setRange(lowest < 0.0 ? 1.15 * lowest : 0.0,
                         std::max(1e-6, top_torque * torque_factor * 1.06));
  plot_->xAxis->setLabel("rpm");
  plot_->yAxis->setLabel(qt(torque_unit.symbol));
  braking_->setVisible(lowest < 0.0);
  move_point();
}

void TorquePlane::move_point() {
  if (session_.evaluation() != nullptr) {
    const Instant now = session_.at_cursor();
    double top = 0.0;
    for (const EnvelopePoint& p : session_.plots().envelope) top = std::max({top, p.peak, p.continuous});
    for (const Instant& i : session_.plots().trace.samples) top = std::max(top, std::abs(i.torque));
    const double torque_factor = 1.0 / display_unit(top, Kind::torque, session_.document().units).factor;
    const double speed_factor = 1.0 / info(Kind::angular_speed).metric.front().factor;
    point_->setData({std::abs(now.speed) * speed_factor},
                    {(now.braking() ? -1.0 : 1.0) * std::abs(now.torque) * torque_factor}, true);
  } else {
    point_->setData({}, {});
  }
  plot_->replot(QCustomPlot::rpQueuedReplot);
}

TorqueStack::TorqueStack(Session& session, QWidget* parent)
    : QWidget(parent), session_(session), plot_(make_plot(this, "stack_plot")) {
  setObjectName("torque_stack");
  setAccessibleName("Torque parts over the cycle");
  plot_->setAntialiasedElement(QCP::aePlottables, false);
  for (std::size_t i = 0; i < torque_part_count; ++i) {
    up_.push_back(plot_->addGraph());
    down_.push_back(plot_->addGraph());
  }
  zero_ = plot_->addGraph();
  sum_ = plot_->addGraph();
  cursor_ = plot_->addGraph();
  make_title(plot_, "Torque parts, energy per cycle");
  plot_->legend->setVisible(true);
  plot_->axisRect()->insetLayout()->take(plot_->legend);
  plot_->plotLayout()->addElement(1, 0, plot_->legend);
  plot_->plotLayout()->setRowStretchFactor(1, 0.001);
  plot_->legend->setFillOrder(QCPLayoutGrid::foColumnsFirst);
  plot_->legend->setWrap(3);
  plot_->legend->setBorderPen(Qt::NoPen);
  plot_->legend->setIconSize(10, 10);
  plot_->legend->setMargins(QMargins(8, 0, 4, 2));
  plot_->legend->setRowSpacing(0);
  restyle();
  connect(&session, &Session::changed, this, &TorqueStack::refresh);
  connect(&session, &Session::cursor_moved, this, &TorqueStack::move_cursor);
  refresh();
}

void TorqueStack::restyle() {
  const Theme& t = theme();
  dark_ = t.dark;
  style_plot(plot_);
  restyle_titles(plot_);
  plot_->legend->setBrush(Qt::NoBrush);
  plot_->legend->setFont(face(-2));
  plot_->legend->setTextColor(t.soft);
  plot_->legend->clearItems();
  in_legend_.fill(false);
  for (std::size_t i = 0; i < torque_part_count; ++i) {
    for (auto* stack : {&up_, &down_}) {
      (*stack)[i]->setPen(Qt::NoPen);
      (*stack)[i]->setBrush(t.parts[i]);
      if (i > 0) (*stack)[i]->setChannelFillGraph((*stack)[i - 1]);
    }
  }
  zero_->setPen(QPen(t.faint, 1));
  sum_->setPen(QPen(t.ink, 1));
  cursor_->setPen(QPen(t.ink, 1));
}

/// Names only the parts that occur in this cycle.
void TorqueStack::fill_legend(const std::array<bool, torque_part_count>& occurs) {
  if (occurs == in_legend_) return;
  in_legend_ = occurs;
  plot_->legend->clearItems();
  for (std::size_t i = 0; i < torque_part_count; ++i) {
    if (!occurs[i]) continue;
    up_[i]->addToLegend();
    QCPAbstractLegendItem* item = plot_->legend->itemWithPlottable(up_[i]);
    item->setFont(face(-2));
    item->setTextColor(theme().soft);
  }
}

void TorqueStack::refresh() {
  if (dark_ != theme().dark) restyle();
  const Evaluation* e = session_.evaluation();
  QVector<double> time, sum;
  std::vector<QVector<double>> up(torque_part_count), down(torque_part_count);
  double high = 0.0, low = 0.0;
  std::array<bool, torque_part_count> occurs{};
  if (e != nullptr) {
    for (const Instant& now : session_.plots().trace.samples) {
      time << now.time;
      sum << now.torque.value;
      double above = 0.0, below = 0.0;
      for (std::size_t i = 0; i < torque_part_count; ++i) {
        const double part = now.parts.values[i];
        (part >= 0.0 ? above : below) += part;
        occurs[i] = occurs[i] || part != 0.0;
        up[i] << above;
        down[i] << below;
      }
      high = std::max(high, above);
      low = std::min(low, below);
    }
  }
  const DisplayUnit& unit = display_unit(std::max(high, -low), Kind::torque, session_.document().units);
  fill_legend(occurs);
  const auto scale = [&](QVector<double>& values) {
    for (double& value : values) value /= unit.factor;
  };
  scale(sum);
  for (std::size_t i = 0; i < torque_part_count; ++i) {
    scale(up[i]);
    scale(down[i]);
    up_[i]->setData(time, up[i], true);
    down_[i]->setData(time, down[i], true);
  }
  sum_->setData(time, sum, true);
  if (e != nullptr) tell_energies(e->demand.integrals.energy, occurs);
  const double end = e != nullptr ? e->model->cycle.duration : 1.0;
  zero_->setData({0.0, end}, {0.0, 0.0}, true);
  plot_->xAxis->setRange(0.0, end);
  plot_->yAxis->setRange(1.08 * low / unit.factor, std::max(1e-9, 1.08 * high / unit.factor));
  plot_->xAxis->setLabel("s");
  plot_->yAxis->setLabel(qt(unit.symbol));
  move_cursor();
}

/// Energy per cycle beside each name; what a closed cycle gives back entirely has none.
void TorqueStack::tell_energies(const TorqueParts& energy,
                                const std::array<bool, torque_part_count>& occurs) {
  double most = 0.0;
  for (const double part : energy.values) most = std::max(most, std::abs(part));
  QString all = "Torque at the motor shaft by cause, and its energy over one cycle:";
  for (std::size_t i = 0; i < torque_part_count; ++i) {
    if (!occurs[i]) continue;
    constexpr double rounding = 1e-9;
    const double part = energy.values[i];
    const bool none = std::abs(part) <= rounding * most;
    const QString text = qt(format(none ? 0.0 : part, Kind::energy, session_.document().units).text());
    const QString label = qt(torque_part_info[i].label);
    up_[i]->setName(none ? label : label + " " + text);
    all += "\n" + label + "  " + text + "  (" + qt(torque_part_info[i].help) + ")";
  }
  setToolTip(all);
}

void TorqueStack::move_cursor() {
  if (session_.evaluation() != nullptr) {
    const QCPRange range = plot_->yAxis->range();
    cursor_->setData({session_.cursor(), session_.cursor()}, {range.lower, range.upper}, true);
  }
  plot_->replot(QCustomPlot::rpQueuedReplot);
}

} // namespace fulmox::app
