#pragma once
#include <QString>

class QCPItemText;
class QCustomPlot;

class QWidget;

namespace fulmox::app {

/// Ground, axes and grid of a plot in the present look.
void style_plot(QCustomPlot* plot);

/// A plot that fills its host, with room for a title above.
QCustomPlot* make_plot(QWidget* host, const QString& name);
QCPItemText* make_title(QCustomPlot* plot, const QString& text);
/// A word in soft ink within the plot: in its middle unless placed elsewhere.
QCPItemText* make_note(QCustomPlot* plot);
/// The unit of the vertical axis, at the right end of the title's line.
QCPItemText* make_unit(QCustomPlot* plot);
/// "N·m over rpm"; in a narrow plot the first alone, the other reads from its figures.
QString unit_over(QCustomPlot* plot, const QString& unit, const QString& over);
/// Fewer figures along a low plot.
void fit_ticks(QCustomPlot* plot);
/// Titles and notes in the present look.
void restyle_titles(QCustomPlot* plot);

} // namespace fulmox::app
