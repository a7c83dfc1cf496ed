#include "app/sheet/torque_plane.hpp"

#include "app/session/refresher.hpp"
#include "app/session/session.hpp"
#include "app/sheet/dots.hpp"
#include "app/sheet/plot.hpp"
#include "app/sheet/plot_style.hpp"
#include "app/theme/theme.hpp"
#include "core/quantity/format.hpp"

#include <algorithm>
#include <cmath>

namespace fulmox::app {
namespace {

/// Moments an even time apart while the axis moves: dots that lie apart tell a loop run through fast.
std::vector<double> time_dots(const Cycle& cycle) {
  constexpr int count = 20;
  double moving = 0.0;
  for (const MotionPiece& piece : cycle.pieces) moving += piece.rest() ? 0.0 : piece.duration;
  std::vector<double> dots;
  double before = 0.0; // time moved up to this piece
  for (const MotionPiece& piece : cycle.pieces) {
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

/// Whether a moment asks for more than curve, current and bus voltage leave. For drawing only: the limits
/// judge every moment, not those that are sampled.
bool beyond(const Evaluation& e, const Instant& now, const MotorSupply& supply) {
  constexpr double hair = 1e-9;
  const Motor& motor = *e.model->motor;
  if (motor.keeps_current() && now.input.direction == 0.0) return false; // another current holds it at rest
  const double most = e.torque_use * motor.peak_torque(now.speed, supply, now.braking());
  return std::abs(now.torque) > (1.0 + hair) * most;
}

} // namespace

TorquePlane::TorquePlane(Session& session, QWidget* parent)
    : QWidget(parent), session_(session), plot_(make_plot(this, "plane_plot", "Speed and torque")) {
  setObjectName("torque_plane");
  setAccessibleName("Speed–torque plane");
  setToolTip(
      "Outlined: peak torque at this bus voltage; dashed: at the lowest. Hatched: continuous torque; of "
      "steppers "
      "the pull-out torque with the factor of the house rules, and their resonance as a band.\n"
      "Thick: the cycle's loop, braking counted downwards, a dot every twentieth of the time it moves; red: "
      "what lies beyond what may be asked. Ring: the cursor.");
  continuous_ = plot_->addGraph();
  peak_ = plot_->addGraph();
  peak_low_ = plot_->addGraph();
  zero_ = plot_->addGraph();
  loop_ = new QCPCurve(plot_->xAxis, plot_->yAxis);
  outside_ = new QCPCurve(plot_->xAxis, plot_->yAxis);
  ticks_ = new Dots(plot_->xAxis, plot_->yAxis); // the plot owns it
  ticks_->setLineStyle(QCPGraph::lsNone);
  band_ = new QCPItemRect(plot_);
  band_->setLayer("grid");
  swing_ = make_note(plot_);
  swing_->setText("resonance");
  swing_->setFont(face(-2));
  swing_->position->setTypeX(QCPItemPosition::ptPlotCoords);
  swing_->setPositionAlignment(Qt::AlignLeft | Qt::AlignTop);
  swing_->setPadding(QMargins(2, 0, 2, 0));
  empty_ = make_note(plot_);
  braking_ = make_note(plot_);
  braking_->setText("braking");
  braking_->setFont(face(-2));
  braking_->position->setCoords(0.99, 0.94);
  braking_->setPositionAlignment(Qt::AlignRight | Qt::AlignBottom);
  restyle();
  new Refresher(session, this, results_changed | Change::theme | Change::cursor,
                [this](Changes what) { what == Change::cursor ? place_point() : refresh(); });
}

void TorquePlane::resizeEvent(QResizeEvent* event) {
  QWidget::resizeEvent(event);
  fit_ticks(plot_);
  refresh();
}

void TorquePlane::restyle() {
  const Theme& t = theme();
  dark_ = t.dark;
  style_plot(plot_);
  restyle_notes(plot_);
  QColor hatch = t.accent;
  hatch.setAlpha(110);
  continuous_->setPen(QPen(t.accent, 1));
  continuous_->setBrush(QBrush(hatch, Qt::BDiagPattern));
  peak_->setPen(QPen(t.ink, 1));
  peak_low_->setPen(QPen(t.soft, 1, Qt::DashLine));
  zero_->setPen(QPen(t.faint, 1));
  QColor swing = t.soft;
  swing.setAlpha(70);
  band_->setPen(Qt::NoPen);
  band_->setBrush(swing);
  outside_->setPen(QPen(t.alarm, 3.2));
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
  const double torque_factor = torque_factor_ = 1.0 / torque_unit.factor;
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
  QVector<double> order, speeds, torques, beyond_peak, tick_n, tick_t;
  double lowest = 0.0;
  if (e != nullptr) {
    const auto place = [&](const Instant& now, QVector<double>& n_out, QVector<double>& t_out) {
      n_out << std::abs(now.speed) * speed_factor;
      t_out << (now.braking() ? -1.0 : 1.0) * std::abs(now.torque) * torque_factor;
    };
    const MotorSupply supply = e->model->supply_at(e->model->surroundings.bus);
    for (const Instant& now : session_.plots().trace.samples) {
      order << static_cast<double>(order.size());
      place(now, speeds, torques);
      lowest = std::min(lowest, torques.back());
      const bool out = !bare && beyond(*e, now, supply);
      beyond_peak << (out ? torques.back() : std::nan(""));
    }
    for (const double time : time_dots(e->model->load->cycle)) place(e->at(time), tick_n, tick_t);
  }
  const QColor loop_ink = session_.stale() ? theme().faint : theme().accent;
  loop_->setData(order, speeds, torques, true);
  loop_->setPen(QPen(loop_ink, 2.4));
  outside_->setData(order, speeds, beyond_peak, true);
  outside_->setVisible(!session_.stale());
  ticks_->setData(tick_n, tick_t);
  ticks_->setScatterStyle(QCPScatterStyle(QCPScatterStyle::ssDisc, loop_ink, loop_ink, 7));
  zero_->setData({0.0, top_speed * speed_factor * 1.04}, {0.0, 0.0}, true);
  plot_->xAxis->setRange(0, std::max(1.0, top_speed * speed_factor * 1.04));
  plot_->yAxis->setRange(lowest < 0.0 ? 1.15 * lowest : 0.0,
                         std::max(1e-6, top_torque * torque_factor * 1.06));
  plot_->set_units(qt(torque_unit.symbol), "rpm");
  braking_->setVisible(lowest < 0.0);
  show_resonance(speed_factor);
  place_point();
  plot_->replot(QCustomPlot::rpQueuedRefresh);
}

void TorquePlane::show_resonance(double speed_factor) {
  const Evaluation* e = session_.evaluation();
  const bool swings = e != nullptr && e->resonance.has_value();
  band_->setVisible(swings);
  swing_->setVisible(swings);
  if (!swings) return;
  const QCPRange torques = plot_->yAxis->range();
  band_->topLeft->setCoords(e->resonance->low * speed_factor, torques.upper);
  band_->bottomRight->setCoords(e->resonance->high * speed_factor, torques.lower);
  swing_->position->setCoords(1.05 * e->resonance->high * speed_factor, 0.0);
}

void TorquePlane::place_point() {
  if (session_.evaluation() == nullptr) return plot_->set_cursor(Plot::Cursor::none);
  const Instant now = session_.at_cursor();
  const double speed_factor = 1.0 / info(Kind::angular_speed).metric.front().factor;
  plot_->set_cursor(Plot::Cursor::ring,
                    {std::abs(now.speed) * speed_factor,
                     (now.braking() ? -1.0 : 1.0) * std::abs(now.torque) * torque_factor_});
}

} // namespace fulmox::app
