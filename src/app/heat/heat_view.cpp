#include "app/heat/heat_view.hpp"

#include "app/session/refresher.hpp"
#include "app/session/session.hpp"
#include "app/sheet/plot.hpp"
#include "app/sheet/plot_style.hpp"
#include "app/study/table.hpp"
#include "app/theme/theme.hpp"
#include "app/widgets/plain_widgets.hpp"
#include "core/quantity/constants.hpp"
#include "core/quantity/format.hpp"

#include <QVBoxLayout>

#include <algorithm>
#include <cmath>

namespace fulmox::app {
namespace {

double celsius(double kelvin) { return kelvin - constants::zero_celsius; }
QString degrees(double kelvin) { return qt(format(kelvin, Kind::temperature).text()); }

/// Winding, case and limit over time, the time in a unit.
void put(const std::vector<HeatPoint>& points, double limit, double unit,
         const std::array<QCPGraph*, 3>& graphs) {
  QVector<double> time, winding, body;
  for (const HeatPoint& p : points) {
    time << p.time / unit;
    winding << celsius(p.at.worst_phase);
    body << celsius(p.at.body);
  }
  graphs[0]->setData(time, winding, true);
  graphs[1]->setData(time, body, true);
  QVector<double> ends, at;
  if (!time.isEmpty()) {
    ends << time.front() << time.back();
    at << celsius(limit) << celsius(limit);
  }
  graphs[2]->setData(ends, at, true);
}

/// So that the swing is seen: the limit may lie far above.
void fit_swing(Plot* plot, const std::array<QCPGraph*, 3>& graphs) {
  bool found = false;
  double least = 0.0, most = 0.0, longest = 0.0;
  for (std::size_t k = 0; k < 2; ++k)
    for (const QCPGraphData& p : *graphs[k]->data()) {
      least = found ? std::min(least, p.value) : p.value;
      most = found ? std::max(most, p.value) : p.value;
      longest = std::max(longest, p.key);
      found = true;
    }
  const double room = std::max(1.0, 0.12 * (most - least));
  plot->xAxis->setRange(0.0, std::max(1e-6, longest));
  plot->yAxis->setRange(least - room, most + room);
}

void fit(Plot* plot, const std::array<QCPGraph*, 3>& graphs, double ambient) {
  double most = celsius(ambient), longest = 0.0, limit = most;
  for (std::size_t k = 0; k < 3; ++k)
    for (const QCPGraphData& p : *graphs[k]->data()) {
      (k == 2 ? limit : most) = std::max(k == 2 ? limit : most, p.value);
      longest = std::max(longest, p.key);
    }
  plot->xAxis->setRange(0.0, std::max(1e-6, longest));
  plot->yAxis->setRange(std::min(celsius(ambient), 20.0) - 5.0, 1.06 * std::max(most, limit));
}

} // namespace

HeatView::HeatView(Session& session, QWidget* parent)
    : QWidget(parent), session_(session), told_(wrapped_label("heat_told", "")),
      caution_(wrapped_label("heat_caution", "soft")),
      duty_(reading_table({"Working, of every 10 min", "Current over the continuous one", "short periods"})) {
  setObjectName("heat_view");
  auto* plots = new QWidget;
  auto* side_by_side = new QHBoxLayout(plots);
  side_by_side->setContentsMargins(0, 0, 0, 0);
  auto* left = new QWidget;
  auto* right = new QWidget;
  cycle_ = make_plot(left, "heat_cycle", "The steady cycle");
  hours_ = make_plot(right, "heat_hours", "From cold");
  left->setAccessibleName("Temperatures over the steady cycle");
  right->setAccessibleName("Temperatures over the first hours from cold");
  for (std::size_t k = 0; k < 3; ++k) {
    in_cycle_[k] = cycle_->addGraph();
    in_hours_[k] = hours_->addGraph();
  }
  side_by_side->addWidget(left, 1);
  side_by_side->addWidget(right, 1);
  duty_->setObjectName("heat_duty");
  duty_->setAccessibleName("Intermittent duty");
  duty_->setToolTip(
      "IEC 60034-1, S3: so much of every period at work, the rest without current. The root of the duty "
      "(last column) holds only for periods far below the winding's time constant.");
  duty_->setSelectionMode(QAbstractItemView::NoSelection);
  duty_->setFocusPolicy(Qt::NoFocus);
  constexpr int four_rows = 124;
  duty_->setFixedHeight(four_rows);
  auto* all = new QVBoxLayout(this);
  all->setContentsMargins(8, 8, 8, 8);
  all->setSpacing(6);
  all->addWidget(heading("How warm the motor gets"));
  all->addWidget(told_);
  all->addWidget(plots, 1);
  all->addWidget(heading("Intermittent duty"));
  all->addWidget(duty_);
  all->addWidget(caution_);
  caution_->setText(
      "Hot motors burn skin. Times are from cold: a second try comes sooner, the case has to cool first.");
  new Refresher(session, this, results_changed | Change::theme, [this](Changes) { refresh(); });
}

void HeatView::resizeEvent(QResizeEvent* event) {
  QWidget::resizeEvent(event);
  fit_ticks(cycle_);
  fit_ticks(hours_);
}

void HeatView::restyle() {
  const Theme& t = theme();
  for (Plot* plot : {cycle_, hours_}) {
    style_plot(plot);
    plot->set_names({{t.accent, "winding"}, {t.soft, "case"}, {t.ink, "limit"}});
  }
  for (const auto* graphs : {&in_cycle_, &in_hours_}) {
    (*graphs)[0]->setPen(QPen(t.accent, 2.2));
    (*graphs)[1]->setPen(QPen(t.soft, 1.6));
    (*graphs)[2]->setPen(QPen(t.ink, 1.0, Qt::DashLine));
  }
}

void HeatView::clear(const QString& why) {
  for (const auto* graphs : {&in_cycle_, &in_hours_})
    for (QCPGraph* graph : *graphs) graph->data()->clear();
  told_->setText(why);
  duty_->setRowCount(0);
  for (Plot* plot : {cycle_, hours_}) plot->replot(QCustomPlot::rpQueuedRefresh);
}

void HeatView::refresh() {
  restyle();
  const Evaluation* e = session_.evaluation();
  if (e == nullptr) return clear("The axis cannot be worked out yet.");
  if (e->demand.heat.gap)
    return clear(qt(std::string(e->demand.heat.gap->reason)) + " It is typed under " +
                 qt(describe_path(session_.axis(), e->demand.heat.gap->input)) + ".");
  const HeatPicture picture = heat_picture(*e);
  draw(picture, e->demand.heat.network.ambient);
  tell(*e, picture);
}

void HeatView::draw(const HeatPicture& picture, double ambient) {
  constexpr double minute = 60.0;
  put(picture.cycle, picture.limit, 1.0, in_cycle_);
  put(picture.from_cold, picture.limit, minute, in_hours_);
  fit_swing(cycle_, in_cycle_);
  fit(hours_, in_hours_, ambient);
  cycle_->set_units("°C", "s");
  hours_->set_units("°C", "min");
  for (Plot* plot : {cycle_, hours_}) plot->replot(QCustomPlot::rpQueuedRefresh);
}

void HeatView::tell(const Evaluation& e, const HeatPicture& picture) {
  const MotorHeat& heat = e.demand.heat;
  QString text;
  if (heat.steady.runs_away)
    text = "The winding runs away: its rising resistance makes more heat than the case can shed.";
  else
    text = "Steady: the winding reaches " + degrees(heat.hottest) + ", the case " + degrees(heat.body) +
           "; the winding may reach " + degrees(picture.limit) + ".";
  if (const ResultValue* time = e.find("heat.time_to_limit"))
    text += " From cold it meets that after " + qt(format(time->value, Kind::time).text()) + ".";
  if (const ResultValue* stall = e.find("heat.stall_time"))
    text += " Stalled at the greatest current it lasts " + qt(format(stall->value, Kind::time).text()) + ".";
  if (heat.estimated)
    text += " Thermal data are missing: estimated from the rated point and the mass, on the safe side.";
  told_->setText(text);
  duty_->setRowCount(static_cast<int>(picture.duty.size()));
  for (int row = 0; row < duty_->rowCount(); ++row) {
    const DutyPoint& d = picture.duty[static_cast<std::size_t>(row)];
    set_cell(duty_, row, 0, QString::number(100.0 * d.share, 'f', 0) + " %");
    set_cell(duty_, row, 1, QString::number(d.factor, 'f', 2), true);
    set_cell(duty_, row, 2, QString::number(1.0 / std::sqrt(d.share), 'f', 2));
  }
}

} // namespace fulmox::app
