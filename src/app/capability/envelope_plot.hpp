#pragma once
#include "core/evaluation/evaluation.hpp"
#include "core/evaluation/plots.hpp"

#include <QWidget>

#include <array>

class QCPGraph;
class QCPItemText;

namespace fulmox::app {

class Plot;

/// An axis worked out, and its plots; null for none.
struct Drawn {
  const Evaluation* evaluation = nullptr;
  const Plots* plots = nullptr;
};

/// Torque or force over speed: what is given, by whom it is limited, and what is asked of it.
class EnvelopePlot : public QWidget {
  Q_OBJECT

public:
  explicit EnvelopePlot(QWidget* parent = nullptr);

  /// `now` is drawn, `given` faintly behind it where it is another, `kept` for comparison; any may be none.
  void show_axis(const Drawn& now, const Drawn& given, const Drawn& kept, bool at_load, UnitSet units);

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
