#include "app/capability/bench_plots.hpp"

#include "app/session/session.hpp"
#include "app/sheet/plot.hpp"
#include "app/sheet/plot_style.hpp"
#include "app/theme/theme.hpp"
#include "core/quantity/format.hpp"

#include <QHBoxLayout>

#include <algorithm>

namespace fulmox::app {

BenchPlots::BenchPlots(QWidget* parent) : QWidget(parent) {
  setObjectName("bench_plots");
  auto* current_host = new QWidget;
  auto* efficiency_host = new QWidget;
  current_ = make_plot(current_host, "bench_current", "Supply current");
  efficiency_ = make_plot(efficiency_host, "bench_efficiency", "Efficiency");
  current_host->setAccessibleName("Supply current over speed");
  efficiency_host->setAccessibleName("Efficiency over speed");
  setToolTip("Thin: no load; thick: with the torque set. Dash-dotted: the motor kept for comparison. A curve "
             "ends where the torque can no longer be made; a stepper falls out of step there.");
  auto* layout = new QHBoxLayout(this);
  layout->setContentsMargins(0, 0, 0, 0);
  layout->addWidget(current_host, 1);
  layout->addWidget(efficiency_host, 1);
  for (std::size_t motor = 0; motor < 2; ++motor) {
    for (std::size_t loaded = 0; loaded < 2; ++loaded) currents_[motor][loaded] = current_->addGraph();
    efficiencies_[motor] = efficiency_->addGraph();
  }
  needs_load_ = make_note(efficiency_);
  needs_load_->setText("With a load torque");
  restyle();
}

void BenchPlots::resizeEvent(QResizeEvent* event) {
  QWidget::resizeEvent(event);
  fit_ticks(current_);
  fit_ticks(efficiency_);
}

void BenchPlots::restyle() {
  const Theme& t = theme();
  for (Plot* plot : {current_, efficiency_}) style_plot(plot);
  restyle_notes(efficiency_);
  for (std::size_t loaded = 0; loaded < 2; ++loaded) {
    const double width = loaded == 1 ? 2.2 : 1.0;
    currents_[0][loaded]->setPen(QPen(t.accent, width));
    currents_[1][loaded]->setPen(QPen(t.soft, width, Qt::DashDotLine));
  }
  efficiencies_[0]->setPen(QPen(t.accent, 2.2));
  efficiencies_[1]->setPen(QPen(t.soft, 2.2, Qt::DashDotLine));
}

void BenchPlots::show_motors(const AxisModel* now, const AxisModel* kept, double torque) {
  restyle();
  double fastest = 0.0, most = 0.0;
  const double rpm = info(Kind::angular_speed).metric.front().factor;
  std::array<const AxisModel*, 2> motors{now, kept};
  loaded_ = {};
  for (std::size_t motor = 0; motor < 2; ++motor) {
    efficiencies_[motor]->data()->clear();
    for (std::size_t loaded = 0; loaded < 2; ++loaded) {
      currents_[motor][loaded]->data()->clear();
      if (motors[motor] == nullptr || (loaded == 1 && !(torque > 0.0))) continue;
      QVector<double> n, amperes, share;
      BenchPicture picture = bench_picture(*motors[motor], loaded == 1 ? torque : 0.0);
      for (const BenchPoint& point : picture.points) {
        n << point.speed / rpm;
        amperes << point.supply_current;
        share << 100.0 * point.efficiency;
        fastest = std::max(fastest, point.speed / rpm);
        most = std::max(most, point.supply_current);
      }
      currents_[motor][loaded]->setData(n, amperes, true);
      if (loaded == 1) efficiencies_[motor]->setData(n, share, true);
      if (loaded == 1 && motor == 0) loaded_ = std::move(picture);
    }
  }
  for (Plot* plot : {current_, efficiency_}) plot->xAxis->setRange(0.0, std::max(1.0, 1.04 * fastest));
  current_->yAxis->setRange(0.0, std::max(1e-3, 1.08 * most));
  efficiency_->yAxis->setRange(0.0, 100.0);
  needs_load_->setVisible(now != nullptr && !(torque > 0.0));
  current_->set_units("A", "rpm");
  efficiency_->set_units("%", "rpm");
  for (Plot* plot : {current_, efficiency_}) plot->replot(QCustomPlot::rpQueuedRefresh);
}

} // namespace fulmox::app
