#pragma once
#include <QColor>
#include <QVector>
#include <qcustomplot.h>

#include <vector>

namespace fulmox::app {

/// Of a curve, by rising x in pixels, the value furthest from zero in each of so many columns of pixels; the
/// curve goes straight from point to point.
std::vector<double> furthest_in_columns(const QVector<double>& x, const QVector<double>& y, int columns);

struct StackLayer {
  QVector<double> tops; ///< from zero, what lies below included; all on one side of zero
  QColor color;
};

/// Curves one upon the other, filled column by column of pixels: a picture of thousands of points fills in a
/// fiftieth of the time that polygons with so many corners take, and no peak is lost.
class ColumnStack : public QCPAbstractItem {
  Q_OBJECT

public:
  /// Removed and deleted by the plot, as all its items.
  explicit ColumnStack(QCustomPlot* plot);

  /// Layers from zero outwards, at times by rising order; none: nothing is drawn.
  void set(QVector<double> times, std::vector<StackLayer> layers);

  double selectTest(const QPointF&, bool, QVariant* = nullptr) const override { return -1.0; }

protected:
  void draw(QCPPainter* painter) override;

private:
  QVector<double> times_;
  std::vector<StackLayer> layers_;
};

} // namespace fulmox::app
