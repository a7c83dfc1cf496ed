#pragma once
#include "core/demand/axis_model.hpp"
#include "core/quantity/kind.hpp"

#include <QWidget>

#include <array>

class QCPGraph;

namespace fulmox::app {

class Plot;

/// Supply current and efficiency over speed of motor and drive alone: without load and with one, for the
/// present motor and one kept for comparison.
class BenchPlots : public QWidget {
  Q_OBJECT

public:
  explicit BenchPlots(QWidget* parent = nullptr);

  void show_motors(const AxisModel* now, const AxisModel* kept, double torque);

protected:
  void resizeEvent(QResizeEvent* event) override;

private:
  void restyle();

  Plot *current_, *efficiency_;
  /// [motor: present, kept][without load, with]
  std::array<std::array<QCPGraph*, 2>, 2> currents_{};
  std::array<QCPGraph*, 2> efficiencies_{};
};

} // namespace fulmox::app
