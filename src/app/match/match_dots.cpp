#include "app/match/match_dots.hpp"

#include <cmath>

namespace fulmox::app {
namespace {

/// An even number of pixels wide, so that its middle lies between two.
QPixmap disc(const QBrush& brush, double diameter, double scale) {
  const int side = 2 * static_cast<int>(std::ceil(0.5 * scale * (diameter + 1.0)));
  QPixmap picture(side, side);
  picture.fill(Qt::transparent);
  QPainter painter(&picture);
  painter.setRenderHint(QPainter::Antialiasing);
  painter.setPen(Qt::NoPen);
  painter.setBrush(brush);
  const double radius = 0.5 * scale * diameter;
  painter.drawEllipse(QPointF(0.5 * side, 0.5 * side), radius, radius);
  painter.end();
  picture.setDevicePixelRatio(scale);
  return picture;
}

} // namespace

void MatchDots::drawScatterPlot(QCPPainter* painter, const QVector<QPointF>& places,
                                const QCPScatterStyle& style) const {
  const double scale = painter->deviceTransform().m11();
  const QPixmap dot = disc(style.brush(), style.size(), scale);
  const double half = 0.5 * dot.width() / scale;
  for (const QPointF& at : places) painter->drawPixmap(at - QPointF(half, half), dot);
}

} // namespace fulmox::app
