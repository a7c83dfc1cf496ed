#include "app/machine/thinned.hpp"

#include <algorithm>
#include <array>

namespace fulmox::app {

void thin(QVector<double>& x, QVector<double>& y, int columns) {
  const qsizetype count = x.size();
  if (count <= 3 * static_cast<qsizetype>(columns)) return;
  const double from = x.front(), width = (x.back() - from) / columns;
  QVector<double> kept_x{x.front()}, kept_y{y.front()};
  for (qsizetype i = 1; i + 1 < count;) {
    const auto column = static_cast<int>((x[i] - from) / width);
    qsizetype least = i, most = i;
    for (; i + 1 < count && static_cast<int>((x[i] - from) / width) == column; ++i) {
      if (y[i] < y[least]) least = i;
      if (y[i] > y[most]) most = i;
    }
    const auto keep = [&](qsizetype k) {
      kept_x << x[k];
      kept_y << y[k];
    };
    keep(std::min(least, most));
    if (least != most) keep(std::max(least, most));
  }
  kept_x << x.back();
  kept_y << y.back();
  x = kept_x;
  y = kept_y;
}

} // namespace fulmox::app
