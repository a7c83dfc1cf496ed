// The speed–torque plane: what lies beyond the peak torque is marked, and nothing else.

#include "window.hpp"

#include "app/sheet/plot.hpp"
#include "app/theme/theme.hpp"
#include "app/widgets/kept_text.hpp"

#include <cmath>

using namespace fulmox;
using namespace fulmox::app;
using namespace fulmox::testing;

namespace {

/// How many sampled moments the plane marks as beyond the peak torque, and how many it draws.
std::pair<int, int> marked(Window& w) {
  auto* plot = w.child<QCustomPlot>("plane_plot");
  std::vector<QCPCurve*> curves;
  for (int i = 0; i < plot->plottableCount(); ++i)
    if (auto* curve = qobject_cast<QCPCurve*>(plot->plottable(i))) curves.push_back(curve);
  REQUIRE(curves.size() == 2);
  int beyond = 0;
  if (curves[1]->visible())
    for (const QCPCurveData& point : *curves[1]->data()) beyond += std::isnan(point.value) ? 0 : 1;
  return {beyond, curves[0]->data()->size()};
}

} // namespace

TEST_CASE("the loop is marked where it asks for more than there is, and only there") {
  Window w;
  CHECK(marked(w).first == 0);
  CHECK(marked(w).second > 20);
  w.type("load.moved_mass", "9 kg");
  w.type("mechanism.lead", "5 mm");
  const auto [beyond, all] = marked(w);
  CHECK(beyond > 0);
  CHECK(beyond < all);
  // every sampled moment beyond the curve is one the limit finds as well
  CHECK(w.rung("Peak torque").startsWith("over"));
  w.type("mechanism.lead", "5 kg"); // last good results are shown, but nothing is claimed by them
  CHECK(marked(w).first == 0);
}

TEST_CASE("units stand beside the title without running into it") {
  Window w;
  for (const QSize size : {QSize(1280, 800), QSize(1024, 700)}) {
    w.window.resize(size);
    w.settle();
    for (const char* name : {"plane_plot", "stack_plot"}) {
      const auto* plot = w.child<Plot>(name);
      INFO(name << " " << size.width() << ": " << plot->title().toStdString());
      const int title = line_width(plot->title(), face(0, true)), units = line_width(plot->units(), face(-1));
      CHECK(units > 0);
      CHECK(title + units + 6 <= plot->width() - 20);
      CHECK(24 < plot->axisRect()->top()); // above the curves
    }
  }
}
