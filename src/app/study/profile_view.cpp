#include "app/study/profile_view.hpp"

#include "app/session/session.hpp"
#include "app/sheet/plot_style.hpp"
#include "app/theme/theme.hpp"
#include "core/quantity/format.hpp"
#include "core/quantity/number_text.hpp"

#include <qcustomplot.h>

#include <QVBoxLayout>

#include <algorithm>
#include <cmath>

namespace fulmox::app {
namespace {

/// Dots for what was recorded, a line for what is made of it; both over time.
void draw(QCustomPlot* plot, const QVector<double>& time, const QVector<double>& dots,
          const QVector<double>& line, const QString& unit) {
  const Theme& t = theme();
  style_plot(plot);
  plot->graph(0)->setData(time, dots, true);
  plot->graph(0)->setLineStyle(QCPGraph::lsNone);
  plot->graph(0)->setScatterStyle(QCPScatterStyle(QCPScatterStyle::ssDisc, t.alarm, t.alarm, 3));
  plot->graph(1)->setData(time, line, true);
  plot->graph(1)->setPen(QPen(t.accent, 1.6));
  plot->yAxis->setLabel(unit);
  plot->rescaleAxes();
}

double greatest(const std::vector<double>& values) {
  double most = 0.0;
  for (const double x : values) most = std::max(most, std::abs(x));
  return most;
}

} // namespace

ProfileView::ProfileView(Session& session, QWidget* parent)
    : QWidget(parent), session_(session), plot_(new QCustomPlot), residual_(new QCustomPlot) {
  auto* layout = new QVBoxLayout(this);
  layout->setContentsMargins(0, 0, 0, 0);
  layout->setSpacing(2);
  plot_->setObjectName("profile_plot");
  plot_->setMinimumHeight(160);
  layout->addWidget(plot_, 1);
  residual_->setObjectName("residual_plot");
  residual_->setFixedHeight(110);
  layout->addWidget(residual_);
  for (QCustomPlot* plot : {plot_, residual_})
    for (int i = 0; i < 2; ++i) plot->addGraph();
}

Expected<ProfileView::Comparison> ProfileView::compare(const Section& profile) {
  const auto& record = profile.entry("points").curve;
  const double smoothing = profile.term_or("smoothing", 0.0);
  auto fitted = fit_profile(record, smoothing, profile.text("ends") != "free");
  if (!fitted) return fitted.problem();
  return Comparison{std::move(*fitted), smoothing, scatter_of(record)};
}

QString ProfileView::show(const Expected<Comparison>& compared) {
  if (!compared) return qt(compared.problem().text());
  const FittedProfile* fitted = &compared->fitted;
  const Kind distance = session_.evaluation()->model->load->cycle.kinds.distance;
  const UnitSet units = session_.document().units;
  const DisplayUnit& unit = display_unit(greatest(fitted->recorded), distance, units);
  scatter_ = compared->scatter;
  const DisplayUnit& fine = display_unit(std::max(fitted->residual_max, scatter_), distance, units);
  QVector<double> time, raw, smooth, missed;
  for (std::size_t i = 0; i < fitted->time.size(); ++i) {
    time << fitted->time[i];
    raw << fitted->recorded[i] / unit.factor;
    smooth << fitted->fitted[i] / unit.factor;
    missed << (fitted->recorded[i] - fitted->fitted[i]) / fine.factor;
  }
  draw(plot_, time, raw, smooth, qt(unit.symbol));
  draw(residual_, time, missed, QVector<double>(time.size(), 0.0), "missed, " + qt(fine.symbol));
  // never so close that rounding looks like noise
  const double span = 1.15 * std::max(fitted->residual_max, scatter_) / fine.factor;
  if (span > 0.0) residual_->yAxis->setRange(-span, span);
  residual_->xAxis->setLabel("s");
  residual_->yAxis->ticker()->setTickCount(3);
  plot_->replot(QCustomPlot::rpQueuedReplot);
  residual_->replot(QCustomPlot::rpQueuedReplot);
  return told(*fitted, compared->smoothing);
}

QString ProfileView::told(const FittedProfile& fitted, double smoothing) const {
  const MotionKinds& kinds = session_.evaluation()->model->load->cycle.kinds;
  const MovePlan plan = plan_of(fitted);
  const auto show = [&](double value, Kind kind) {
    return qt(format(value, kind, session_.document().units).text());
  };
  QString text =
      QString("%1 points (dots), fitted curve (line). It misses the record by %2 rms, %3 at most. "
              "Peak acceleration %4.")
          .arg(fitted.time.size())
          .arg(show(fitted.residual_rms, kinds.distance), show(fitted.residual_max, kinds.distance),
               show(plan.peak_acceleration, kinds.acceleration));
  // the scatter of a record known better than that would only be its own jerk
  constexpr double worth_telling = 1e-6, alike = 0.3;
  const bool known = std::abs(smoothing - scatter_) < alike * scatter_;
  if (!known && scatter_ > worth_telling * greatest(fitted.recorded))
    text += QString(" Neighbouring points scatter by %1: <a href=\"scatter\">take that as its noise</a>.")
                .arg(show(scatter_, kinds.distance));
  return text;
}

QString ProfileView::scatter_text() const {
  const bool turning = session_.evaluation()->model->load->cycle.kinds.rotary();
  const double unit = turning ? M_PI / 180.0 : 1e-3;
  return QString::fromStdString(number_text(scatter_ / unit, 2) + (turning ? " deg" : " mm"));
}

} // namespace fulmox::app
