#pragma once
#include <qcustomplot.h>

namespace fulmox::app {

/// A graph of round dots without outline: one is drawn, the others are pictures of it. Thousands of circles
/// take a frame. The dots lie where circles of their scatter style would, whatever the scale of the screen.
class Dots : public QCPGraph {
public:
  using QCPGraph::QCPGraph;

protected:
  void drawScatterPlot(QCPPainter* painter, const QVector<QPointF>& places,
                       const QCPScatterStyle& style) const override;
};

} // namespace fulmox::app
