#include "app/sheet/plot_style.hpp"

#include "app/theme/theme.hpp"

#include <qcustomplot.h>

namespace fulmox::app {
namespace {

void style_axis(QCPAxis* axis) {
  const Theme& t = theme();
  axis->setBasePen(QPen(t.faint));
  axis->setTickPen(QPen(t.faint));
  axis->setSubTickPen(QPen(Qt::NoPen));
  axis->setTickLabelColor(t.soft);
  axis->setLabelColor(t.soft);
  axis->setTickLabelFont(face(-2));
  axis->setLabelFont(face(-2));
  axis->setLabelPadding(2);
  axis->grid()->setPen(QPen(t.rule, 1));
  axis->grid()->setZeroLinePen(Qt::NoPen);
  axis->setTickLengthIn(0);
  axis->setTickLengthOut(3);
  axis->ticker()->setTickCount(4);
}

} // namespace

void style_plot(QCustomPlot* plot) {
  plot->setBackground(QBrush(theme().ground));
  style_axis(plot->xAxis);
  style_axis(plot->yAxis);
}

} // namespace fulmox::app
