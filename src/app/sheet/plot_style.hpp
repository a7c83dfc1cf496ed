#pragma once
#include <QString>

class QCPItemText;
class QCustomPlot;

class QWidget;

namespace fulmox::app {

class Plot;

/// Ground, axes and grid of a plot in the present look.
void style_plot(QCustomPlot* plot);

/// A plot that fills its host.
Plot* make_plot(QWidget* host, const QString& name, const QString& title);
/// A word in soft ink within the plot: in its middle unless placed elsewhere.
QCPItemText* make_note(QCustomPlot* plot);
/// Fewer figures along a low plot.
void fit_ticks(QCustomPlot* plot);
/// Notes in the present look.
void restyle_notes(QCustomPlot* plot);

} // namespace fulmox::app
