#pragma once
#include "core/evaluation/bench_picture.hpp"
#include "core/quantity/kind.hpp"

#include <QWidget>

#include <array>

class QCPGraph;
class QCPItemText;

namespace fulmox::app {

class Plot;

/// Supply current and efficiency over speed of motor and drive alone: without load and with one, for the
/// present motor and one kept for comparison.
class BenchPlots : public QWidget {
  Q_OBJECT

public:
  explicit BenchPlots(QWidget* parent = nullptr);

  void show_motors(const AxisModel* now, const AxisModel* kept, double torque);
  /// Of the present motor with the torque, as shown last.
  [[nodiscard]] const BenchPicture& loaded() const { return loaded_; }

protected:
  void resizeEvent(QResizeEvent* event) override;

private:
  void restyle();

  Plot *current_, *efficiency_;
  /// [motor: present, kept][without load, with]
  std::array<std::array<QCPGraph*, 2>, 2> currents_{};
  std::array<QCPGraph*, 2> efficiencies_{};
  QCPItemText* needs_load_;
  BenchPicture loaded_;
};

} // namespace fulmox::app
