#include "app/machine/column_stack.hpp"

#include <algorithm>
#include <cmath>

namespace fulmox::app {

std::vector<double> furthest_in_columns(const QVector<double>& x, const QVector<double>& y, int columns) {
  std::vector<double> furthest(static_cast<std::size_t>(std::max(columns, 0)), 0.0);
  const auto take = [&](int column, double value) {
    double& known = furthest[static_cast<std::size_t>(column)];
    if (std::abs(value) > std::abs(known)) known = value;
  };
  for (qsizetype k = 0; k + 1 < x.size(); ++k) {
    const double from = x[k], to = x[k + 1], rise = to > from ? (y[k + 1] - y[k]) / (to - from) : 0.0;
    if (!(to >= 0.0) || !(from < columns)) continue;
    const int first = static_cast<int>(std::max(from, 0.0));
    const int last = std::min(static_cast<int>(to), columns - 1);
    for (int column = first; column <= last; ++column) {
      const double enters = std::max(from, static_cast<double>(column));
      const double leaves = std::min(to, static_cast<double>(column + 1));
      take(column, y[k] + rise * (enters - from));
      take(column, to > from ? y[k] + rise * (leaves - from) : y[k + 1]);
    }
  }
  return furthest;
}

ColumnStack::ColumnStack(QCustomPlot* plot) : QCPAbstractItem(plot) { setSelectable(false); }

void ColumnStack::set(QVector<double> times, std::vector<StackLayer> layers) {
  times_ = std::move(times);
  layers_ = std::move(layers);
}

void ColumnStack::draw(QCPPainter* painter) {
  const QRect area = parentPlot()->axisRect()->rect();
  const QCPAxis &across = *parentPlot()->xAxis, &up = *parentPlot()->yAxis;
  QVector<double> x;
  x.reserve(times_.size());
  for (const double time : times_) x << across.coordToPixel(time) - area.left();
  const auto heights = [&](const QVector<double>& tops) {
    std::vector<int> y;
    for (const double top : furthest_in_columns(x, tops, area.width()))
      y.push_back(qRound(up.coordToPixel(top)));
    return y;
  };
  const int zero = qRound(up.coordToPixel(0.0));
  painter->setAntialiasing(false);
  std::vector<int> base(static_cast<std::size_t>(area.width()), zero);
  for (const StackLayer& layer : layers_) {
    const std::vector<int> top = heights(layer.tops);
    for (std::size_t column = 0; column < top.size();) {
      const int from = base[column], to = top[column];
      std::size_t end = column + 1;
      while (end < top.size() && top[end] == to && base[end] == from) ++end;
      // columns keep their furthest point each: a layer may lie below the one under it there
      if (std::abs(to - zero) > std::abs(from - zero)) {
        painter->fillRect(QRect(area.left() + static_cast<int>(column), std::min(from, to),
                                static_cast<int>(end - column), std::abs(to - from)),
                          layer.color);
        std::fill(base.begin() + static_cast<std::ptrdiff_t>(column),
                  base.begin() + static_cast<std::ptrdiff_t>(end), to);
      }
      column = end;
    }
  }
}

} // namespace fulmox::app
