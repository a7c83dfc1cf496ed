#pragma once

class QCustomPlot;

namespace fulmox::app {

/// Ground, axes and grid of a plot in the present look.
void style_plot(QCustomPlot* plot);

} // namespace fulmox::app
