#include "app/sheet/plot_style.hpp"

#include "app/theme/theme.hpp"

#include <qcustomplot.h>

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

QCustomPlot* make_plot(QWidget* host, const QString& name) {
  auto* layout = new QVBoxLayout(host);
  layout->setContentsMargins(0, 0, 0, 0);
  auto* plot = new QCustomPlot;
  plot->setObjectName(name);
  plot->setNotAntialiasedElements(QCP::aeAll);
  plot->setAntialiasedElements(QCP::aePlottables | QCP::aeScatters);
  plot->setNoAntialiasingOnDrag(true);
  plot->axisRect()->setAutoMargins(QCP::msLeft | QCP::msBottom);
  plot->axisRect()->setMargins(QMargins(0, 32, 12, 2));
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

QCPItemText* make_unit(QCustomPlot* plot) {
  QCPItemText* unit = make_note(plot);
  unit->position->setTypeX(QCPItemPosition::ptAxisRectRatio);
  unit->position->setTypeY(QCPItemPosition::ptAbsolute);
  unit->position->setCoords(1.0, 8.0);
  unit->setPositionAlignment(Qt::AlignRight | Qt::AlignTop);
  unit->setFont(face(-1));
  return unit;
}

QString unit_over(QCustomPlot* plot, const QString& unit, const QString& over) {
  constexpr int room_for_both = 240;
  return plot->width() < room_for_both ? unit : unit + " over " + over;
}

void fit_ticks(QCustomPlot* plot) {
  constexpr int per_figure = 30;
  plot->yAxis->ticker()->setTickCount(std::clamp(plot->height() / per_figure - 2, 1, 4));
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

} // namespace fulmox::app
