#include "app/sheet/dots.hpp"

#include "app/widgets/stamp.hpp"

namespace fulmox::app {

void Dots::drawScatterPlot(QCPPainter* painter, const QVector<QPointF>& places,
                           const QCPScatterStyle& style) const {
  const double radius = 0.5 * style.size();
  const Stamp dot(*painter, radius, [&](QPainter& on) {
    on.setPen(Qt::NoPen);
    on.setBrush(style.brush());
    on.drawEllipse(QPointF(), radius, radius);
  });
  for (const QPointF& at : places) dot.set(*painter, at);
}

} // namespace fulmox::app
