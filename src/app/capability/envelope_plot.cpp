#include "app/capability/envelope_plot.hpp"

#include "app/session/session.hpp"
#include "app/sheet/plot.hpp"
#include "app/sheet/plot_style.hpp"
#include "app/theme/theme.hpp"
#include "core/evaluation/capability.hpp"
#include "core/quantity/format.hpp"

#include <algorithm>
#include <cmath>

namespace fulmox::app {
namespace {

/// What one evaluation gives over speed, in SI.
struct Curves {
  QVector<double> speed, peak, low, lasting, catalogue;

  void add(double n, double p, double l, double c, double k) {
    speed << n;
    peak << p;
    low << l;
    lasting << c;
    catalogue << k;
  }
};

Curves at_motor(const Evaluation& e, const Plots& plots) {
  Curves out;
  const MotorSupply supply = e.model->supply_at(e.model->surroundings.bus);
  for (const EnvelopePoint& p : plots.envelope) {
    const PeakLimits limits = e.model->motor->peak_limits(p.speed, supply, false);
    const bool both =
        std::isfinite(limits.catalogue) && std::isfinite(std::min(limits.current, limits.voltage));
    out.add(p.speed, p.peak, p.peak_low, p.continuous, both ? limits.catalogue : std::nan(""));
  }
  return out;
}

/// What a stepper may be asked with the supply of a school; nothing for other motors.
QVector<double> at_school(const Evaluation& e, const QVector<double>& speeds, std::size_t school) {
  QVector<double> out(speeds.size(), std::nan(""));
  const ResultValue* volts = e.find(school == 0 ? "stepper.school_rated" : "stepper.school_inductance");
  if (volts == nullptr) return out;
  MotorSupply supply = e.model->supply_at(e.model->surroundings.bus);
  supply.voltage = volts->value;
  for (qsizetype i = 0; i < speeds.size(); ++i)
    out[i] = e.torque_use * e.model->motor->peak_torque(speeds[i], supply, false);
  return out;
}

Curves at_load(const Evaluation& e) {
  Curves out;
  const auto finite = [](double value) { return std::isfinite(value) ? value : std::nan(""); };
  for (const Capability& c : capability_curve(e))
    out.add(c.speed, finite(c.peak), finite(c.peak_low), finite(c.lasting), std::nan(""));
  return out;
}

double most_of(const QVector<double>& values) {
  double most = 0.0;
  for (const double value : values)
    if (value > most) most = value;
  return most;
}

QVector<double> scaled(QVector<double> values, double factor) {
  for (double& value : values) value *= factor;
  return values;
}

/// What the cycle asks: at the shaft the whole torque, at the load the process force.
void asked_of(const Plots& plots, bool load, QVector<double>& speeds, QVector<double>& efforts) {
  for (const Instant& now : plots.trace.samples) {
    if (now.input.direction == 0.0) continue;
    if (load && now.load.process == 0.0) continue;
    speeds << std::abs(load ? now.load.speed.value : now.speed);
    efforts << std::abs(load ? now.load.process.value : now.torque.value);
  }
}

/// A word at the start of a curve.
QCPItemText* curve_name(Plot* plot, const QString& text) {
  QCPItemText* name = make_note(plot);
  name->setText(text);
  name->setFont(face(-2));
  name->position->setTypeX(QCPItemPosition::ptPlotCoords);
  name->position->setTypeY(QCPItemPosition::ptPlotCoords);
  name->setPositionAlignment(Qt::AlignLeft | Qt::AlignTop);
  name->setPadding(QMargins(4, 2, 2, 0));
  return name;
}

} // namespace

EnvelopePlot::EnvelopePlot(QWidget* parent)
    : QWidget(parent), plot_(make_plot(this, "capability_plot", "Given over speed")) {
  setObjectName("envelope_plot");
  setAccessibleName("What is given over speed");
  setToolTip("Outlined: for a short time at this bus, dashed at the lowest; hatched: for ever. Dotted: the "
             "maker's curve where the model tells another; of steppers what the supplies of both schools "
             "give. Faint: as given, before the sliders were moved. "
             "Dash-dotted: the motor kept for comparison. Dots: what the cycle asks.");
  for (QCPGraph** graph : {&lasting_, &given_, &kept_, &catalogue_, &low_, &peak_, &asked_})
    *graph = plot_->addGraph();
  for (QCPGraph*& graph : schools_) graph = plot_->addGraph();
  asked_->setLineStyle(QCPGraph::lsNone);
  empty_ = make_note(plot_);
  short_time_ = curve_name(plot_, "for a short time");
  for_ever_ = curve_name(plot_, "for ever");
  restyle();
}

void EnvelopePlot::resizeEvent(QResizeEvent* event) {
  QWidget::resizeEvent(event);
  fit_ticks(plot_);
}

void EnvelopePlot::restyle() {
  const Theme& t = theme();
  style_plot(plot_);
  restyle_notes(plot_);
  QColor hatch = t.accent;
  hatch.setAlpha(110);
  lasting_->setPen(QPen(t.accent, 1));
  lasting_->setBrush(QBrush(hatch, Qt::BDiagPattern));
  for (QCPGraph* graph : schools_) graph->setPen(QPen(t.soft, 1, Qt::DotLine));
  given_->setPen(QPen(t.faint, 1.6));
  kept_->setPen(QPen(t.soft, 1.6, Qt::DashDotLine));
  catalogue_->setPen(QPen(t.ink, 1.2, Qt::DotLine));
  low_->setPen(QPen(t.soft, 1, Qt::DashLine));
  peak_->setPen(QPen(t.ink, 1.6));
  asked_->setScatterStyle(QCPScatterStyle(QCPScatterStyle::ssDisc, t.accent, t.accent, 4));
}

void EnvelopePlot::show_axis(const Drawn& drawn, const Drawn& given, const Drawn& kept, bool load,
                             UnitSet units) {
  const Evaluation* now = drawn.evaluation;
  restyle();
  for (QCPGraph* graph : {lasting_, given_, kept_, catalogue_, low_, peak_, asked_}) graph->data()->clear();
  const auto curves_of = [&](const Drawn& d) {
    return d.evaluation == nullptr ? Curves()
           : load                  ? at_load(*d.evaluation)
                                   : at_motor(*d.evaluation, *d.plots);
  };
  const Curves all = curves_of(drawn), before = curves_of(given), other = curves_of(kept);
  empty_->setVisible(all.speed.isEmpty());
  empty_->setText(now == nullptr ? "" : "Choose a motor with a torque curve.");
  QVector<double> speeds, efforts;
  if (now != nullptr) asked_of(*drawn.plots, load, speeds, efforts);
  const MotionKinds kinds = now == nullptr ? MotionKinds() : capability_kinds(*now);
  const Kind effort = load ? kinds.effort : Kind::torque, speed = load ? kinds.speed : Kind::angular_speed;
  double top = 0.0, fastest = 0.0;
  for (const QVector<double>* values :
       std::initializer_list<const QVector<double>*>{&all.peak, &before.peak, &other.peak, &efforts})
    top = std::max(top, most_of(*values));
  for (const QVector<double>* values :
       std::initializer_list<const QVector<double>*>{&all.speed, &before.speed, &other.speed, &speeds})
    fastest = std::max(fastest, most_of(*values));
  const DisplayUnit &up = display_unit(top, effort, units), &along = display_unit(fastest, speed, units);
  const auto put = [&](QCPGraph* graph, const QVector<double>& x, const QVector<double>& y) {
    graph->setData(scaled(x, 1.0 / along.factor), scaled(y, 1.0 / up.factor), true);
  };
  put(lasting_, all.speed, all.lasting);
  put(peak_, all.speed, all.peak);
  put(low_, all.speed, all.low);
  put(catalogue_, all.speed, all.catalogue);
  put(given_, before.speed, before.peak);
  put(kept_, other.speed, other.peak);
  asked_->setData(scaled(speeds, 1.0 / along.factor), scaled(efforts, 1.0 / up.factor));
  for (std::size_t i = 0; i < schools_.size(); ++i) {
    schools_[i]->data()->clear();
    if (now != nullptr && !load) put(schools_[i], all.speed, at_school(*now, all.speed, i));
  }
  const bool any = !all.speed.isEmpty();
  short_time_->setVisible(any);
  // of steppers what may be asked is asked for ever: one curve, one name
  for_ever_->setVisible(any && all.lasting.front() < 0.85 * all.peak.front());
  if (any) {
    short_time_->position->setCoords(0.0, all.peak.front() / up.factor);
    for_ever_->position->setCoords(0.0, all.lasting.front() / up.factor);
  }
  plot_->xAxis->setRange(0.0, std::max(1e-9, 1.04 * fastest / along.factor));
  plot_->yAxis->setRange(0.0, std::max(1e-9, 1.06 * top / up.factor));
  plot_->set_units(qt(up.symbol), qt(along.symbol));
  plot_->replot(QCustomPlot::rpQueuedRefresh);
}

} // namespace fulmox::app
