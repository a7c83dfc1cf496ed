#pragma once
#include "core/evaluation/evaluation.hpp"

#include <QWidget>

#include <array>

class QCPGraph;
class QCPItemText;

namespace fulmox::app {

class Plot;

/// Torque or force over speed: what is given, by whom it is limited, and what is asked of it.
class EnvelopePlot : public QWidget {
  Q_OBJECT

public:
  explicit EnvelopePlot(QWidget* parent = nullptr);

  /// `now` is drawn, `given` faintly behind it where it is another, `kept` for comparison; any may be null.
  void show_axis(const Evaluation* now, const Evaluation* given, const Evaluation* kept, bool at_load,
                 UnitSet units);

protected:
  void resizeEvent(QResizeEvent* event) override;

private:
  void restyle();

  Plot* plot_;
  QCPGraph *lasting_, *given_, *kept_, *catalogue_, *low_, *peak_, *asked_;
  std::array<QCPGraph*, 2> schools_{}; ///< of a stepper: pull-out at both schools' supply voltages
  QCPItemText *empty_, *short_time_, *for_ever_;
};

} // namespace fulmox::app
