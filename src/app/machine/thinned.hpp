#pragma once
#include <QVector>

namespace fulmox::app {

/// Keeps of a curve's points, by rising x, what a picture of so many columns can show: in each column the
/// least and the greatest, so that no peak is lost, and both ends. Untouched where there are few.
void thin(QVector<double>& x, QVector<double>& y, int columns);

} // namespace fulmox::app
