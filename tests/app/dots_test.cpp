// Dots of a picture of thousands: each where a circle would lie.

#include "app/sheet/dots.hpp"

#include <catch2/catch.hpp>

using namespace fulmox::app;

namespace {

/// The middle of what is dark in a picture, in pixels; how many pixels that is.
struct Blot {
  QPointF middle;
  double area = 0.0;
};

Blot ink_of(const QImage& picture) {
  Blot ink;
  for (int y = 0; y < picture.height(); ++y)
    for (int x = 0; x < picture.width(); ++x) {
      const double dark = 1.0 - qGray(picture.pixel(x, y)) / 255.0;
      ink.area += dark;
      ink.middle += dark * QPointF(x + 0.5, y + 0.5);
    }
  ink.middle /= ink.area;
  return ink;
}

template <typename Graph> Blot ink_of_dot(double x, double y, double scale) {
  QCustomPlot plot;
  plot.setBackground(Qt::white);
  plot.axisRect()->setAutoMargins(QCP::msNone);
  plot.axisRect()->setMargins(QMargins(0, 0, 0, 0));
  for (QCPAxis* axis : {plot.xAxis, plot.yAxis}) {
    axis->setRange(0.0, 80.0);
    axis->setVisible(false);
    axis->grid()->setVisible(false);
  }
  auto* dots = new Graph(plot.xAxis, plot.yAxis); // the plot owns it
  dots->setLineStyle(QCPGraph::lsNone);
  dots->setScatterStyle(QCPScatterStyle(QCPScatterStyle::ssDisc, Qt::black, Qt::black, 4.0));
  dots->setData({x}, {y});
  return ink_of(plot.toPixmap(80, 80, scale).toImage());
}

} // namespace

TEST_CASE("a dot lies where a drawn circle would and is as large as it should, at every scale") {
  for (const double scale : {1.0, 1.5, 2.0, 3.0})
    for (const double x : {20.0, 31.3, 47.5, 60.8}) {
      const Blot ink = ink_of_dot<Dots>(x, 50.0, scale);
      const Blot drawn = ink_of_dot<QCPGraph>(x, 50.0, scale);
      INFO(scale << ", " << x);
      // half a pixel for placing it on one
      CHECK(std::abs(ink.middle.x() - drawn.middle.x()) <= 0.6);
      CHECK(std::abs(ink.middle.y() - drawn.middle.y()) <= 0.6);
      CHECK(ink.area == Approx(M_PI * 4.0 * scale * scale).epsilon(0.1));
    }
}
