#include "app/sheet/plot_style.hpp"

#include "app/sheet/plot.hpp"
#include "app/theme/theme.hpp"

#include <QVBoxLayout>

#include <algorithm>

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

Plot* make_plot(QWidget* host, const QString& name, const QString& title) {
  auto* layout = new QVBoxLayout(host);
  layout->setContentsMargins(0, 0, 0, 0);
  auto* plot = new Plot(title);
  plot->setObjectName(name);
  // nothing lies on it, and with a picture of its own it is cleared and laid over the plot at every repaint
  plot->layer("overlay")->setMode(QCPLayer::lmLogical);
  plot->setNotAntialiasedElements(QCP::AntialiasedElements(QCP::aeAll) &
                                  ~QCP::AntialiasedElements({QCP::aePlottables, QCP::aeScatters}));
  plot->setNoAntialiasingOnDrag(true);
  plot->axisRect()->setAutoMargins({QCP::msLeft, QCP::msBottom});
  plot->axisRect()->setMargins(QMargins(0, 32, 12, 2));
  plot->setMinimumSize(160, 120);
  layout->addWidget(plot);
  return plot;
}

void fit_ticks(QCustomPlot* plot) {
  constexpr int per_figure = 30;
  plot->yAxis->ticker()->setTickCount(std::clamp(plot->height() / per_figure - 2, 1, 4));
}

void restyle_notes(QCustomPlot* plot) {
  for (int i = 0; i < plot->itemCount(); ++i)
    if (auto* text = qobject_cast<QCPItemText*>(plot->item(i))) {
      text->setColor(theme().soft);
      text->setBrush(theme().ground); // curves pass behind it
    }
}

QCPItemText* make_note(QCustomPlot* plot) {
  auto* note = new QCPItemText(plot);
  note->setClipToAxisRect(false);
  note->position->setType(QCPItemPosition::ptAxisRectRatio);
  note->position->setCoords(0.5, 0.5);
  note->setFont(face());
  note->setColor(theme().soft);
  return note;
}

} // namespace fulmox::app
